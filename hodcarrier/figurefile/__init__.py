"""Figures from outside, kept in one file for each site, and the tables that they come in."""
