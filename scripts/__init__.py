"""Helpers for working on the project."""
