"""The history of every fingerprint, carried from run file to run file."""

from __future__ import annotations

import json
import sqlite3
from datetime import datetime

from hodcarrier.core.compare import history_state
from hodcarrier.examine.model import Model
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights


def carry_forward(db: sqlite3.Connection, base: RunFile | None, complete: bool, now: datetime, model: Model) -> None:
    """Write the history and the once-indexable pages: the base's, brought up to date with this run's findings."""
    stamp = now.isoformat()
    sights = Sights(db, complete, base.db if base else None)
    hidden = {"pages": sorted(sights.hidden.pages), "behind": sorted(sights.hidden.behind)}
    db.execute("INSERT OR REPLACE INTO meta VALUES ('hidden', ?)", (json.dumps(hidden),))
    old: dict[bytes, tuple[str, str, str, str, str, str, int]] = {}
    if base is not None:
        for fp, check, subject, place, state, first, last, returned in base.rows("SELECT * FROM history"):
            old[fp] = (check, subject, place, state, first, last, returned)
    rows: list[tuple[bytes, str, str, str, str, str, str, int]] = []
    for fp, check, subject, place in db.execute("SELECT fingerprint, check_id, subject, place FROM finding"):
        before = old.pop(fp, None)
        first = before[4] if before else stamp
        returned = before[6] + (before[3] == "passed") if before else 0
        rows.append((fp, check, subject, place, "open", first, stamp, returned))
    for fp, (check, subject, place, state, first, last, returned) in old.items():
        sight = sights.of(fp, check, subject)
        rows.append((fp, check, subject, place, history_state(False, sight.gone, sight.examined, state), first, last, returned))
    db.executemany("INSERT INTO history VALUES (?,?,?,?,?,?,?,?)", rows)
    indexable = {item.url for item in model.known if item.role == 0 and not item.why_not and item.url}
    db.executemany("INSERT INTO once_indexable VALUES (?)", ((url,) for url in sorted(indexable | model.once_indexable)))
