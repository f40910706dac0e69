"""The history of fingerprints that are found no more, carried from run file to run file. Findings carry their own."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from itertools import islice

from hodcarrier.core.catalogue import Catalogue
from hodcarrier.core.judge.compare import history_state
from hodcarrier.examine.ages import Ages
from hodcarrier.examine.views import RunViews
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights, has_changed

BATCH = 5_000
Row = tuple[bytes, str, str, str, str, str, str, int]


def carry_forward(
    db: sqlite3.Connection, base: RunFile | None, complete: bool, ages: Ages, views: RunViews, catalogue: Catalogue
) -> None:
    """Write what was found earlier and is not any more, with the state that this run gives it, and the once-indexable pages.

    The base is read in a stream, so that the memory needed does not grow with it.
    """
    sights = Sights(db, complete, base.db if base else None, catalogue=catalogue)
    db.execute("INSERT OR REPLACE INTO meta VALUES ('hidden', ?)", (sights.hidden.stored(),))
    rows = _carried(base, sights, ages, catalogue)
    while batch := list(islice(rows, BATCH)):
        db.executemany("INSERT INTO earlier VALUES (?,?,?,?,?,?,?,?)", batch)
    indexable = {item.url for item in views.known if item.role == 0 and not item.why_not and item.url}
    db.executemany("INSERT INTO once_indexable VALUES (?)", ((url,) for url in sorted(indexable | views.once_indexable)))


def _carried(base: RunFile | None, sights: Sights, ages: Ages, catalogue: Catalogue) -> Iterator[Row]:
    """What the base knew and this run has not found."""
    if base is None:
        return
    sights_base = Sights(base.db, complete=False, catalogue=catalogue)
    columns = "fingerprint, check_id, subject, place, state, first_seen, last_seen, times_returned"
    known = base.db.execute(f"SELECT {columns} FROM history ORDER BY fingerprint")
    for (fp, check, subject, place, state, first, last, returned), missing in zip(known, ages.not_found(), strict=True):
        if missing:
            check = catalogue.current(check)
            sight = sights.of_missing(fp, check, subject)
            examined = sight.examined and not has_changed(check, sights_base, sights)
            yield fp, check, subject, place, history_state(False, sight.gone, examined, state), first, last, returned
