"""What a file of figures has, and which of its rows answer a question: of each day, those of one grain."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date

from hodcarrier.core.states import FigureKind
from hodcarrier.figurefile.schema import GRAINS, KEPT, grain_of


@dataclass(frozen=True)
class Kept:
    """What there is of a kind: rows, first and last day (``None`` where rows have none), and where they are from, the latest first."""

    kind: FigureKind
    rows: int
    first: date | None
    last: date | None
    sources: list[str]


def kept(db: sqlite3.Connection) -> list[Kept]:
    """What there is, by kind; kinds without a row are left out."""
    found = []
    for kind in KEPT:
        if kind in GRAINS:
            asked, values = "SELECT sum(rows), min(day), max(day) FROM coverage WHERE kind = ?", [kind]
        else:
            days = "min(first_seen), max(last_seen)" if kind == FigureKind.LINKS else "min(day), max(day)"
            asked, values = f"SELECT count(*), {days} FROM {kind}", []
        rows, first, last = db.execute(asked, values).fetchone()
        if rows:
            found.append(Kept(kind, rows, day_of(first), day_of(last), sources(db, kind)))
    return found


def last_day(db: sqlite3.Connection, kind: FigureKind) -> date | None:
    """The last day with rows of a kind."""
    return day_of(db.execute(f"SELECT max(day) FROM {kind}").fetchone()[0])


def sources(db: sqlite3.Connection, kind: FigureKind) -> list[str]:
    """Where rows of a kind are from, the latest first."""
    rows = db.execute("SELECT source FROM batch WHERE kind = ? GROUP BY source ORDER BY max(id) DESC", (kind,))
    return [source for (source,) in rows]


def day_of(ordinal: int | None) -> date | None:
    """The day that a file keeps as a number; ``None`` where it keeps none."""
    return date.fromordinal(ordinal) if ordinal else None


def ids_of(db: sqlite3.Connection, texts: Iterable[str]) -> list[int]:
    """The numbers of those texts that are known."""
    found = (db.execute("SELECT id FROM text WHERE text = ?", (text,)).fetchone() for text in texts)
    return [row[0] for row in found if row is not None]


@contextmanager
def chosen(db: sqlite3.Connection, kind: FigureKind, needed: Iterable[str], first: date, last: date) -> Iterator[None]:
    """Within, the table ``chosen`` has each day of a span with the grain whose rows answer a question by the keys that are ``needed``: of those that have them, the one
    with the fewest others. Rows of other grains say the same once more; days without such rows are left out."""
    wanted = grain_of(kind, *needed)
    db.execute("CREATE TEMP TABLE chosen (day INTEGER PRIMARY KEY, grain INTEGER NOT NULL)")
    best: dict[int, tuple[int, int]] = {}
    for day, grain in db.execute(
        "SELECT day, grain FROM coverage WHERE kind = ? AND day BETWEEN ? AND ?", (kind, first.toordinal(), last.toordinal())
    ):
        if grain & wanted == wanted:
            rank = (grain.bit_count(), grain)
            best[day] = min(best.get(day, rank), rank)
    db.executemany("INSERT INTO chosen VALUES (?, ?)", [(day, grain) for day, (_, grain) in best.items()])
    try:
        yield
    finally:
        db.execute("DROP TABLE temp.chosen")


def values_of(db: sqlite3.Connection, kind: FigureKind, key: str, first: date, last: date) -> list[str]:
    """What rows of a span have as a key, in the order of the alphabet."""
    bit = 1 << GRAINS[kind].index(key)
    covered = db.execute("SELECT 1 FROM coverage WHERE kind = ? AND grain & ? LIMIT 1", (kind, bit)).fetchone()
    if covered is None:
        return []
    rows = db.execute(
        f"SELECT DISTINCT t.text FROM {kind} AS r JOIN text AS t ON t.id = r.{key} WHERE r.day BETWEEN ? AND ? AND r.{key} <> 0 ORDER BY 1",
        (first.toordinal(), last.toordinal()),
    )
    return [text for (text,) in rows]
