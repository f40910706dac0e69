"""Hodcarrier: the audit desk of an SEO agency."""

__version__ = "0.1.0"
