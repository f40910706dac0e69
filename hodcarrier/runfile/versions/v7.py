"""Version 7: the inventory has no columns of their own but those of its table."""

from __future__ import annotations

import sqlite3


def lift(db: sqlite3.Connection) -> None:
    """Put empty tables of columns over a file of version 7, or over one that was lifted to it."""
    db.execute("CREATE TEMP TABLE column_values (role INTEGER NOT NULL, name TEXT NOT NULL, data BLOB NOT NULL)")
    db.execute(
        "CREATE TEMP TABLE link_values (name TEXT NOT NULL, part INTEGER NOT NULL, rows INTEGER NOT NULL, data BLOB NOT NULL)"
    )
