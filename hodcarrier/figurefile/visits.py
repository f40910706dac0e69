"""Visits: sums by page or channel, day by day, and of the site."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.states import FigureKind, VisitBy
from hodcarrier.figurefile.reading import chosen


@dataclass(frozen=True)
class VisitSums:
    """Visits, those in which somebody did something, and conversions; ``None`` where no row has them."""

    sessions: int = 0
    engaged: int | None = None
    conversions: float | None = None


@dataclass(frozen=True)
class VisitLine:
    """A page or channel: its sums in a period, and in the one before."""

    id: int
    text: str
    now: VisitSums
    before: VisitSums


@dataclass(frozen=True)
class VisitsAsked:
    """Which rows a question is of: a period, the first day of the equally long one before it, a channel or a page where one is chosen."""

    before: date
    first: date
    last: date
    channel: str = ""
    page: str = ""

    def needed(self, *keys: str) -> list[str]:
        """The keys that rows must have."""
        return list(dict.fromkeys([*keys, *(["channel"] if self.channel else []), *(["page"] if self.page else [])]))


_SUMS = (
    "coalesce(sum(r.sessions) FILTER (WHERE {w}), 0), sum(r.engaged) FILTER (WHERE {w}), sum(r.conversions) FILTER (WHERE {w})"
)
_BOTH = f"{_SUMS.format(w='r.day >= :first')}, {_SUMS.format(w='r.day < :first')}"
_FROM = "FROM temp.chosen AS c CROSS JOIN visits AS r ON r.day = c.day AND r.grain = c.grain"


def lines(db: sqlite3.Connection, by: VisitBy, asked: VisitsAsked) -> list[VisitLine]:
    """All pages or channels that had visits in either period."""
    with chosen(db, FigureKind.VISITS, asked.needed(by), asked.before, asked.last):
        rows = db.execute(
            f"SELECT r.{by}, t.text, {_BOTH} {_FROM} JOIN text AS t ON t.id = r.{by} {_where(asked)} GROUP BY r.{by}",
            _values(asked),
        ).fetchall()
    return [VisitLine(row[0], row[1], VisitSums(*row[2:5]), VisitSums(*row[5:8])) for row in rows]


def whole(db: sqlite3.Connection, asked: VisitsAsked) -> tuple[VisitSums, VisitSums]:
    """The sums in the period and in the one before."""
    with chosen(db, FigureKind.VISITS, asked.needed(), asked.before, asked.last):
        row = db.execute(f"SELECT {_BOTH} {_FROM} {_where(asked)}", _values(asked)).fetchone()
    return VisitSums(*row[:3]), VisitSums(*row[3:])


def by_day(db: sqlite3.Connection, asked: VisitsAsked) -> list[tuple[date, int]]:
    """Visits by day, the period before included; days without figures are left out."""
    with chosen(db, FigureKind.VISITS, asked.needed(), asked.before, asked.last):
        rows = db.execute(
            f"SELECT r.day, sum(r.sessions) {_FROM} {_where(asked)} GROUP BY r.day ORDER BY r.day", _values(asked)
        ).fetchall()
    return [(date.fromordinal(day), sessions) for day, sessions in rows]


def visits_by_day(db: sqlite3.Connection, by: VisitBy, asked: VisitsAsked, ids: Sequence[int]) -> NDArray[np.float64]:
    """Visits of pages or channels (rows, in the order of ``ids``) on each day from the first of the period before (columns)."""
    begin = asked.before.toordinal()
    table = np.zeros((len(ids), asked.last.toordinal() - begin + 1))
    place = {number: row for row, number in enumerate(ids)}
    with chosen(db, FigureKind.VISITS, asked.needed(by), asked.before, asked.last):
        for number, day, sessions in db.execute(
            f"SELECT r.{by}, r.day, sum(r.sessions) {_FROM} {_where(asked)} GROUP BY r.{by}, r.day", _values(asked)
        ):
            if (row := place.get(number)) is not None:
                table[row, day - begin] = sessions
    return table


def _where(asked: VisitsAsked) -> str:
    named = [f"r.{key} = (SELECT id FROM text WHERE text = :{key})" for key in ("channel", "page") if getattr(asked, key)]
    return f"WHERE {' AND '.join(named)}" if named else ""


def _values(asked: VisitsAsked) -> dict[str, object]:
    return {"first": asked.first.toordinal(), "channel": asked.channel, "page": asked.page}
