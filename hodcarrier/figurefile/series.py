"""Figures from outside day by day, for trends."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping
from datetime import date, timedelta

from hodcarrier.core.figures.series import Day
from hodcarrier.core.states import FigureKind
from hodcarrier.figurefile.looks import backlinks
from hodcarrier.figurefile.reading import chosen

_SEARCH = {
    "search.clicks": "sum(r.clicks), NULL",
    "search.impressions": "sum(r.impressions), NULL",
    "search.ctr": "100.0 * sum(r.clicks), sum(r.impressions)",
    "search.position": "sum(r.position * r.impressions), sum(r.impressions) FILTER (WHERE r.position IS NOT NULL)",
}
_VISITS = {"visits.sessions": "sum(r.sessions), NULL", "visits.conversions": "sum(r.conversions), NULL"}
_RANKS = {"positions.top3": 3, "positions.top10": 10}
FIRST, LAST = date(1990, 1, 1), date(2999, 12, 31)


def days_of(db: sqlite3.Connection, figure: str) -> Mapping[date, Day]:
    """A figure (one of :data:`~hodcarrier.core.figures.series.FOLLOWED`) on every day that there is something of it."""
    if figure in _SEARCH:
        return _added(db, FigureKind.SEARCH, _SEARCH[figure])
    if figure in _VISITS:
        return _added(db, FigureKind.VISITS, _VISITS[figure])
    if figure in _RANKS:
        sql = "SELECT day, count(*) FILTER (WHERE rank <= ?) FROM positions WHERE host = 0 GROUP BY day"
        return {date.fromordinal(day): Day(float(count)) for day, count in db.execute(sql, (_RANKS[figure],))}
    return _links(db, domains=figure == "links.domains")


def _added(db: sqlite3.Connection, kind: FigureKind, sums: str) -> dict[date, Day]:
    with chosen(db, kind, (), FIRST, LAST):
        rows = db.execute(
            f"SELECT r.day, {sums} FROM temp.chosen AS c CROSS JOIN {kind} AS r ON r.day = c.day AND r.grain = c.grain GROUP BY r.day"
        ).fetchall()
    return {date.fromordinal(day): Day(float(amount), by) for day, amount, by in rows if amount is not None}


def _links(db: sqlite3.Connection, *, domains: bool) -> dict[date, Day]:
    """How many links, or domains, there were on each day on which that changed, and on the last on which any was seen."""
    known = [link for link in backlinks(db) if link.first_seen is not None]
    if not known:
        return {}
    last = max(day for link in known for day in (link.first_seen, link.last_seen, link.lost_on) if day is not None)
    changes: dict[date, list[tuple[str, int]]] = {last: []}
    for link in known:
        name = link.domain if domains else f"{link.source_page} {link.page}"
        assert link.first_seen is not None
        changes.setdefault(link.first_seen, []).append((name, 1))
        if link.lost_on is not None:
            changes.setdefault(link.lost_on, []).append((name, -1))
    found, there = {}, dict[str, int]()
    day = min(changes)
    while day <= last:
        for name, by in changes.get(day, ()):
            there[name] = there.get(name, 0) + by
            if not there[name]:
                del there[name]
        found[day] = Day(float(len(there)))
        day += timedelta(days=1)
    return found
