"""Version 7: the inventory has no columns of their own but those of its table."""

from __future__ import annotations

import sqlite3


def lift(db: sqlite3.Connection) -> None:
    """Put an empty table of columns over a file of version 7, or over one that was lifted to it."""
    db.execute("CREATE TEMP TABLE column_values (role INTEGER NOT NULL, name TEXT NOT NULL, data BLOB NOT NULL)")
