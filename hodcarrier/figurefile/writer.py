"""Adding rows to the figures of a site. A row whose keys are there already takes the old one's place."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from itertools import islice

from hodcarrier.core.figures.kinds import FIELDS, FieldType
from hodcarrier.core.figures.tables import Value
from hodcarrier.core.states import FigureKind
from hodcarrier.figurefile.schema import GRAINS, TEXTS, columns_of, keys_of, table_of

_BATCH = 20_000
_REMEMBERED = 200_000


@dataclass(frozen=True)
class Merged:
    """What rows have done: how many were new, as they were already, in the place of others, and given more than once (the last of them counts)."""

    new: int = 0
    same: int = 0
    replaced: int = 0
    repeated: int = 0


def merge(
    db: sqlite3.Connection,
    kind: FigureKind,
    rows: Iterable[Sequence[Value]],
    at: datetime,
    source: str,
    whole: tuple[date, date] | None = None,
) -> Merged:
    """Take rows in, each with its values in the order of the kind's fields. ``whole``: they are all that the source has of these days, so what it had said of them before and
    does not say any more goes."""
    columns, keys = columns_of(kind), keys_of(kind)
    values = [name for name in columns if name not in keys and name != "batch"]
    (batch,) = db.execute(
        "INSERT INTO batch (at, kind, source) VALUES (?, ?, ?) RETURNING id", (at.isoformat(), kind, source)
    ).fetchone()
    db.execute(f"CREATE TEMP {table_of(kind, 'staged')}")
    places = ", ".join("?" * len(columns))
    given = 0
    stored = _stored(db, kind, rows, batch)
    while part := list(islice(stored, _BATCH)):
        given += len(part)
        db.executemany(f"INSERT OR REPLACE INTO staged VALUES ({places})", part)
    (staged,) = db.execute("SELECT count(*) FROM staged").fetchone()
    both = " AND ".join(f"old.{name} = staged.{name}" for name in keys)
    alike = " AND ".join(f"old.{name} IS staged.{name}" for name in values) or "1"
    known, same = db.execute(f"SELECT count(*), coalesce(sum({alike}), 0) FROM staged JOIN {kind} AS old ON {both}").fetchone()
    # What is as it was keeps the batch that it came with.
    db.execute(
        f"INSERT OR REPLACE INTO {kind} SELECT * FROM staged "
        f"WHERE NOT EXISTS (SELECT 1 FROM {kind} AS old WHERE {both} AND {alike})"
    )
    gone = _let_go(db, kind, source, whole, both) if whole is not None and keys[0] == "day" else 0
    if kind in GRAINS and (same < staged or gone):
        _cover(db, kind, whole)
    db.execute("DROP TABLE staged")
    return Merged(staged - known, same, known - same, given - staged)


def _let_go(db: sqlite3.Connection, kind: FigureKind, source: str, whole: tuple[date, date], both: str) -> int:
    """Remove the rows of some days that a source does not give any more, and count them."""
    of_source = "batch IN (SELECT id FROM batch WHERE kind = ? AND source = ?)"
    given = f"EXISTS (SELECT 1 FROM staged WHERE {both})"
    asked = f"DELETE FROM {kind} AS old WHERE day BETWEEN ? AND ? AND {of_source} AND NOT {given}"
    return db.execute(asked, (*(day.toordinal() for day in whole), kind, source)).rowcount


def _cover(db: sqlite3.Connection, kind: FigureKind, whole: tuple[date, date] | None) -> None:
    """Note which days have rows of which grain, for the days that were touched."""
    days = "SELECT DISTINCT day FROM staged"
    if whole is not None:
        first, last = (day.toordinal() for day in whole)
        days = f"{days} UNION SELECT DISTINCT day FROM coverage WHERE day BETWEEN {first} AND {last}"
    db.execute(f"DELETE FROM coverage WHERE kind = ? AND day IN ({days})", (kind,))
    db.execute(
        f"INSERT INTO coverage SELECT ?, day, grain, count(*) FROM {kind} WHERE day IN ({days}) GROUP BY day, grain",
        (kind,),
    )


def _stored(db: sqlite3.Connection, kind: FigureKind, rows: Iterable[Sequence[Value]], batch: int) -> Iterator[list[Value]]:
    """Rows as they are kept: texts by their numbers, days as ordinals (1 is 0001-01-01)."""
    fields = FIELDS[kind]
    order = columns_of(kind)
    place = {each.name: number for number, each in enumerate(fields)}
    texts, days = (
        {each.name for each in fields if each.type in TEXTS},
        {each.name for each in fields if each.type == FieldType.DAY},
    )
    keys = set(keys_of(kind))
    ways = [(name, place.get(name, -1), name in texts, name in days, name in keys) for name in order]
    bits = [(place[name], 1 << number) for number, name in enumerate(GRAINS.get(kind, ()))]
    numbers: dict[str, int] = {}
    for row in rows:
        out: list[Value] = []
        for name, column, is_text, is_day, is_key in ways:
            if column < 0:
                out.append(batch if name == "batch" else sum(bit for at, bit in bits if row[at] is not None))
                continue
            value = row[column]
            if value is None:
                out.append(0 if is_key else None)
            elif is_text:
                number = numbers.get(str(value))
                if number is None:
                    if len(numbers) >= _REMEMBERED:
                        numbers.clear()
                    number = numbers[str(value)] = number_of(db, str(value))
                out.append(number)
            else:
                out.append(value.toordinal() if is_day and isinstance(value, date) else value)
        yield out


def number_of(db: sqlite3.Connection, text: str) -> int:
    """The number of a text, which is kept if it is new."""
    found = db.execute("SELECT id FROM text WHERE text = ?", (text,)).fetchone()
    if found is None:
        found = db.execute("INSERT INTO text (text) VALUES (?) RETURNING id", (text,)).fetchone()
    return int(found[0])
