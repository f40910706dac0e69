"""Version 5: checks do not say what they were asked about, and nothing is known of the names within pages and of what files hold."""

from __future__ import annotations

import sqlite3

from hodcarrier.runfile.versions import v6


def lift(db: sqlite3.Connection) -> None:
    """Put today's tables, empty, and today's columns over a file of version 5, or over one that was lifted to it."""
    lifted = db.execute("SELECT count(*) FROM sqlite_temp_master WHERE name = 'check_state'").fetchone()[0]
    if lifted:
        # A view over an older file's table: it is made anew with more columns.
        (sql,) = db.execute("SELECT sql FROM sqlite_temp_master WHERE name = 'check_state'").fetchone()
        query = sql.partition(" AS ")[2]
        db.execute("DROP VIEW temp.check_state")
    else:
        query = "SELECT * FROM main.check_state"
    db.executescript(
        f"CREATE TEMP VIEW check_state AS SELECT s.*, NULL AS examined, NULL AS failing, NULL AS passed, NULL AS not_applicable FROM ({query}) s;"
        " CREATE TEMP TABLE page_fragment (address_id INTEGER PRIMARY KEY, prints BLOB NOT NULL);"
        " CREATE TEMP TABLE file_fact (address_id INTEGER PRIMARY KEY, facts BLOB NOT NULL);"
    )
    v6.lift(db)
