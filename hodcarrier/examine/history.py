"""The history of every fingerprint, carried from run file to run file."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from datetime import datetime
from itertools import islice

from hodcarrier.core.catalogue import Catalogue
from hodcarrier.core.judge.compare import history_state
from hodcarrier.examine.views import RunViews
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights, has_changed

BATCH = 5_000
Row = tuple[bytes, str, str, str, str, str, str, int]


def carry_forward(
    db: sqlite3.Connection, base: RunFile | None, complete: bool, now: datetime, views: RunViews, catalogue: Catalogue
) -> None:
    """Write the history and the once-indexable pages: the base's, brought up to date with this run's findings.

    Both are read side by side in the order of fingerprints, so that the memory needed does not grow with them.
    """
    sights = Sights(db, complete, base.db if base else None, catalogue=catalogue)
    db.execute("INSERT OR REPLACE INTO meta VALUES ('hidden', ?)", (sights.hidden.stored(),))
    rows = _history(db, base, sights, now.isoformat(), catalogue)
    while batch := list(islice(rows, BATCH)):
        db.executemany("INSERT INTO history VALUES (?,?,?,?,?,?,?,?)", batch)
    indexable = {item.url for item in views.known if item.role == 0 and not item.why_not and item.url}
    db.executemany("INSERT INTO once_indexable VALUES (?)", ((url,) for url in sorted(indexable | views.once_indexable)))


def _history(db: sqlite3.Connection, base: RunFile | None, sights: Sights, stamp: str, catalogue: Catalogue) -> Iterator[Row]:
    findings = iter(db.execute("SELECT fingerprint, check_id, subject, place FROM finding ORDER BY fingerprint"))
    carried = _carried(base, sights, catalogue)
    finding, old = next(findings, None), next(carried, None)
    while finding is not None or old is not None:
        if finding is None or (old is not None and old[0] < finding[0]):
            if old is not None:
                yield old
            old = next(carried, None)
            continue
        fingerprint, check, subject, place = finding
        before = None
        if old is not None and old[0] == fingerprint:
            before, old = old, next(carried, None)
        first = before[5] if before else stamp
        returned = before[7] + (before[4] == "passed") if before else 0
        yield fingerprint, check, subject, place, "open", first, stamp, returned
        finding = next(findings, None)


def _carried(base: RunFile | None, sights: Sights, catalogue: Catalogue) -> Iterator[Row]:
    """The base's history; of what is not found any more, with the state this run gives it."""
    if base is None:
        return
    sights_base = Sights(base.db, complete=False, catalogue=catalogue)
    columns = "fingerprint, check_id, subject, place, state, first_seen, last_seen, times_returned"
    for fp, check, subject, place, state, first, last, returned in base.db.execute(
        f"SELECT {columns} FROM history ORDER BY fingerprint"
    ):
        check = catalogue.current(check)
        if sights.found(fp) is None:
            sight = sights.of(fp, check, subject)
            examined = sight.examined and not has_changed(check, sights_base, sights)
            state = history_state(False, sight.gone, examined, state)
        yield fp, check, subject, place, state, first, last, returned
