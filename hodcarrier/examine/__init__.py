"""Examining a run: facts in, findings, causes and health out."""
