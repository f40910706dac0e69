"""Figures that come from outside: what they are, how tables of them are read, and what may be said of them."""
