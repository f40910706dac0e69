"""Version 6: the sources of documents are not kept."""

from __future__ import annotations

import sqlite3

from hodcarrier.runfile.versions import v7


def lift(db: sqlite3.Connection) -> None:
    """Put an empty table of sources over a file of version 6, or over one that was lifted to it."""
    db.execute("CREATE TEMP TABLE page_source (address_id INTEGER PRIMARY KEY, body BLOB NOT NULL)")
    v7.lift(db)
