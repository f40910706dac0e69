"""Search figures: sums by query or page, day by day, and of the site."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.states import FigureKind, SearchBy
from hodcarrier.figurefile.reading import chosen, ids_of

_CHOSEN = ("device", "country", "page")


@dataclass(frozen=True)
class Sums:
    """Clicks, impressions, and the mean position weighted by impressions (``None`` where no row has one)."""

    clicks: int = 0
    impressions: int = 0
    position: float | None = None

    @property
    def ctr(self) -> float | None:
        """Clicks by impressions; ``None`` where nothing was shown."""
        return self.clicks / self.impressions if self.impressions else None


@dataclass(frozen=True)
class Line:
    """A query or page: its sums in a period, and in the one before."""

    id: int
    text: str
    now: Sums
    before: Sums


@dataclass(frozen=True)
class Asked:
    """Which rows a question is of: a period, the first day of the equally long one before it, and a device, a country or a page where one is chosen."""

    before: date
    first: date
    last: date
    device: str = ""
    country: str = ""
    page: str = ""

    def needed(self, *keys: str) -> list[str]:
        """The keys that rows must have."""
        return list(dict.fromkeys([*keys, *(name for name in _CHOSEN if getattr(self, name))]))


_SUMS = (
    "coalesce(sum(r.clicks) FILTER (WHERE {w}), 0), coalesce(sum(r.impressions) FILTER (WHERE {w}), 0), "
    "sum(r.position * r.impressions) FILTER (WHERE {w} AND r.position IS NOT NULL), "
    "sum(r.impressions) FILTER (WHERE {w} AND r.position IS NOT NULL)"
)
_BOTH = f"{_SUMS.format(w='r.day >= :first')}, {_SUMS.format(w='r.day < :first')}"
_FROM = "FROM temp.chosen AS c CROSS JOIN search AS r ON r.day = c.day AND r.grain = c.grain"


def lines(db: sqlite3.Connection, by: SearchBy, asked: Asked) -> list[Line]:
    """All queries or pages that were shown in either period."""
    with chosen(db, FigureKind.SEARCH, asked.needed(by), asked.before, asked.last):
        rows = db.execute(
            f"SELECT r.{by}, t.text, {_BOTH} {_FROM} JOIN text AS t ON t.id = r.{by} {_where(asked)} GROUP BY r.{by}",
            _values(asked),
        ).fetchall()
    return [Line(row[0], row[1], _sums(row[2:6]), _sums(row[6:10])) for row in rows]


def whole(db: sqlite3.Connection, asked: Asked) -> tuple[Sums, Sums]:
    """The sums of the site in the period and in the one before."""
    with chosen(db, FigureKind.SEARCH, asked.needed(), asked.before, asked.last):
        row = db.execute(f"SELECT {_BOTH} {_FROM} {_where(asked)}", _values(asked)).fetchone()
    return _sums(row[:4]), _sums(row[4:])


def by_day(db: sqlite3.Connection, asked: Asked) -> list[tuple[date, int, int]]:
    """Clicks and impressions of the site by day, the period before included; days without figures are left out."""
    with chosen(db, FigureKind.SEARCH, asked.needed(), asked.before, asked.last):
        rows = db.execute(
            f"SELECT r.day, sum(r.clicks), sum(r.impressions) {_FROM} {_where(asked)} GROUP BY r.day ORDER BY r.day",
            _values(asked),
        ).fetchall()
    return [(date.fromordinal(day), clicks, shown) for day, clicks, shown in rows]


def clicks_by_day(db: sqlite3.Connection, by: SearchBy, asked: Asked, ids: Sequence[int]) -> NDArray[np.float64]:
    """Clicks of queries or pages (rows, in the order of ``ids``) on each day from the first of the period before (columns)."""
    begin = asked.before.toordinal()
    table = np.zeros((len(ids), asked.last.toordinal() - begin + 1))
    place = {number: row for row, number in enumerate(ids)}
    with chosen(db, FigureKind.SEARCH, asked.needed(by), asked.before, asked.last):
        for number, day, clicks in db.execute(
            f"SELECT r.{by}, r.day, sum(r.clicks) {_FROM} {_where(asked)} GROUP BY r.{by}, r.day", _values(asked)
        ):
            if (row := place.get(number)) is not None:
                table[row, day - begin] = clicks
    return table


def clicks_of_pages(
    db: sqlite3.Connection, pages: Sequence[str], first: date, last: date
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.bool_]]:
    """Clicks of pages on each day of a span, those of all other pages, and of which days there are figures."""
    begin, wanted = first.toordinal(), set(ids_of(db, pages))
    of, rest = np.zeros(last.toordinal() - begin + 1), np.zeros(last.toordinal() - begin + 1)
    known = np.zeros(len(of), dtype=np.bool_)
    with chosen(db, FigureKind.SEARCH, ["page"], first, last):
        for (day,) in db.execute("SELECT day FROM temp.chosen"):
            known[day - begin] = True
        for page, day, clicks in db.execute(f"SELECT r.page, r.day, sum(r.clicks) {_FROM} GROUP BY r.page, r.day"):
            (of if page in wanted else rest)[day - begin] += clicks
    return of, rest, known


def _where(asked: Asked) -> str:
    named = [f"r.{key} = (SELECT id FROM text WHERE text = :{key})" for key in _CHOSEN if getattr(asked, key)]
    return f"WHERE {' AND '.join(named)}" if named else ""


def _values(asked: Asked) -> dict[str, object]:
    return {"first": asked.first.toordinal(), **{name: getattr(asked, name) for name in _CHOSEN}}


def _sums(row: Sequence[float | None]) -> Sums:
    clicks, impressions, places, shown = row
    return Sums(int(clicks or 0), int(impressions or 0), places / shown if places is not None and shown else None)
