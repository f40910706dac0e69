"""Version 3: no inventory to read lists from, and the history of every fingerprint in a table of its own."""

from __future__ import annotations

import sqlite3

from hodcarrier.core.judge.health import RANK
from hodcarrier.runfile import schema
from hodcarrier.runfile.versions import v4

_SEVERITY = " ".join(f"WHEN '{severity}' THEN {rank}" for severity, rank in RANK.items())


def ages(column: str, of: str) -> str:
    """Columns for the age of what findings have in common, given by the ``column`` in which they hold it."""
    return (
        f"(SELECT min(first_seen) FROM temp.finding f WHERE f.{column} = {of}.id) AS first_seen,"
        f" (SELECT coalesce(max(times_returned), 0) FROM temp.finding f WHERE f.{column} = {of}.id) AS times_returned"
    )


def lift(db: sqlite3.Connection) -> None:
    """Put today's views over a file of version 3, or over one that was lifted to it."""
    db.executescript(
        f"""
        CREATE TEMP VIEW inventory AS {schema.INVENTORY.format(judged="main.verdict")};
        CREATE TEMP VIEW earlier AS SELECT * FROM main.history WHERE state != 'open';
        CREATE TEMP VIEW finding AS SELECT f.id, f.fingerprint, f.check_id, CASE s.severity {_SEVERITY} END AS severity, f.subject_id,
          f.subject, f.place, f.message, f.evidence, f.cause_id, f.waived, h.first_seen, coalesce(h.times_returned, 0) AS times_returned
          FROM main.finding f JOIN main.check_state s ON s.id = f.check_id LEFT JOIN main.history h ON h.fingerprint = f.fingerprint;
        CREATE TEMP VIEW cause AS SELECT c.id, c.check_id, c.key, c.line, c.findings,
          (SELECT count(*) FROM main.finding f WHERE f.cause_id = c.id AND f.waived) AS waived, c.pages, c.gain,
          {ages("cause_id", "c")} FROM main.cause c;
        CREATE TEMP VIEW IF NOT EXISTS check_state AS SELECT s.*, {ages("check_id", "s")} FROM main.check_state s;
        """
    )
    v4.lift(db)
