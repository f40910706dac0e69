"""What pages are worth from outside, added up for the checks and causes that concern them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager

from hodcarrier.core.errors import InvalidInput
from hodcarrier.runfile.causes import CAUSE_COLUMNS, Row
from hodcarrier.runfile.reader import RunFile


def of_checks(run: RunFile, by_url: Mapping[str, float]) -> dict[str, float]:
    """For each check with open findings on pages that are worth anything, what these pages are worth; a page counts once."""
    return {str(check): worth for check, worth in _added_up(run, by_url, "check_id")}


def causes_by_weight(
    run: RunFile, by_url: Mapping[str, float], check_id: str = "", limit: int = 200, after: int = 0
) -> list[Row]:
    """Causes of one check (or of all) with open findings, those whose pages are worth the most first, each with its ``weight``.

    ``after`` is the id of the last cause of the part before. Raises :class:`InvalidInput` when there is no such cause.
    """
    worth = {int(cause): value for cause, value in _added_up(run, by_url, "cause_id")}
    where, values = ("AND check_id = ?", (check_id,)) if check_id else ("", ())
    known = run.rows(f"SELECT id, gain, findings FROM cause WHERE findings > 0 {where}", *values)
    order = [number for number, *_ in sorted(known, key=lambda row: (-worth.get(row[0], 0.0), -row[1], -row[2], row[0]))]
    if after and after not in order:
        raise InvalidInput(f"The list has no place {after}.", "Give the id of the last cause of the part before.", "after")
    begin = order.index(after) + 1 if after else 0
    return [{**_row(run, number), "weight": round(worth.get(number, 0.0))} for number in order[begin : begin + limit]]


def _row(run: RunFile, number: int) -> Row:
    sql = (
        "SELECT c.id, c.check_id, c.key, c.line, c.findings, c.pages, c.gain, c.first_seen, c.times_returned, s.severity, s.summary"
        " FROM cause AS c JOIN check_state AS s ON s.id = c.check_id WHERE c.id = ?"
    )
    return dict(zip((*CAUSE_COLUMNS, "severity", "summary"), run.rows(sql, number)[0], strict=True))


def _added_up(run: RunFile, by_url: Mapping[str, float], key: str) -> list[tuple[str | int, float]]:
    with _weighed(run, by_url):
        return run.rows(
            f"SELECT {key}, sum(worth) FROM (SELECT DISTINCT f.{key}, f.subject_id, w.worth FROM temp.weight AS w"
            f" CROSS JOIN finding AS f ON f.subject_id = w.id WHERE NOT f.waived) GROUP BY {key}"
        )


@contextmanager
def _weighed(run: RunFile, by_url: Mapping[str, float]) -> Iterator[None]:
    """Within, the table ``weight`` has the pages of the run that are worth anything."""
    run.db.execute("CREATE TEMP TABLE weight (id INTEGER PRIMARY KEY, worth REAL NOT NULL)")
    run.db.executemany(
        "INSERT OR IGNORE INTO temp.weight SELECT id, ? FROM inventory WHERE role = 0 AND url = ?",
        [(worth, url) for url, worth in by_url.items() if worth > 0],
    )
    try:
        yield
    finally:
        run.db.execute("DROP TABLE temp.weight")
