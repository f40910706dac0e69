"""Version 4: no marks of templates. What was examined stays as it is; examined anew, pages are told apart by their structure alone."""

from __future__ import annotations

import sqlite3

from hodcarrier.runfile.versions import v5


def lift(db: sqlite3.Connection) -> None:
    """Put today's tables, empty, over a file of version 4, or over one that was lifted to it."""
    db.executescript(
        "CREATE TEMP TABLE mark (id INTEGER PRIMARY KEY, name TEXT NOT NULL);"
        " CREATE TEMP TABLE page_mark (address_id INTEGER PRIMARY KEY, marks BLOB NOT NULL);"
    )
    v5.lift(db)
