"""Checks of this area."""
