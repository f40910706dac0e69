"""Positions of keywords and links from other sites, as they are kept."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from datetime import date

from hodcarrier.core.figures.backlinks import Backlink
from hodcarrier.core.figures.standings import Position
from hodcarrier.figurefile.reading import day_of


def positions(db: sqlite3.Connection, first: date, last: date) -> Iterator[Position]:
    """Looks at keywords in a span of days, by keyword, device and place, the earlier first."""
    sql = (
        "SELECT k.text, d.text, p.text, h.text, r.day, r.rank, coalesce(u.text, ''), coalesce(f.text, '') FROM positions AS r"
        " JOIN text AS k ON k.id = r.keyword JOIN text AS d ON d.id = r.device JOIN text AS p ON p.id = r.place JOIN text AS h ON h.id = r.host"
        " LEFT JOIN text AS u ON u.id = r.page LEFT JOIN text AS f ON f.id = r.features"
        " WHERE r.day BETWEEN ? AND ? ORDER BY k.text, d.text, p.text, r.day"
    )
    for keyword, device, place, host, day, rank, page, features in db.execute(sql, (first.toordinal(), last.toordinal())):
        yield Position(keyword, device, place, host, date.fromordinal(day), rank, page, features)


def places_of_page(db: sqlite3.Connection, page: str, first: date) -> Iterator[Position]:
    """Where a page of the site itself stood at the last look at each keyword since a day, the best first."""
    sql = (
        "SELECT k.text, d.text, p.text, r.day, r.rank FROM positions AS r JOIN text AS k ON k.id = r.keyword JOIN text AS d ON d.id = r.device"
        " JOIN text AS p ON p.id = r.place WHERE r.page = (SELECT id FROM text WHERE text = ?) AND r.host = 0 AND r.rank IS NOT NULL AND r.day >= ?"
        " AND NOT EXISTS (SELECT 1 FROM positions AS l WHERE l.keyword = r.keyword AND l.device = r.device AND l.place = r.place AND l.host = 0"
        " AND l.day > r.day) ORDER BY r.rank, k.text"
    )
    for keyword, device, place, day, rank in db.execute(sql, (page, first.toordinal())):
        yield Position(keyword, device, place, "", date.fromordinal(day), rank, page, "")


def links_to(db: sqlite3.Connection, page: str) -> Iterator[Backlink]:
    """The links from other sites to a page."""
    sql = (
        "SELECT s.text, r.first_seen, r.last_seen, r.lost_on FROM links AS r JOIN text AS s ON s.id = r.source_page"
        " WHERE r.page = (SELECT id FROM text WHERE text = ?)"
    )
    for source, first, last, lost in db.execute(sql, (page,)):
        yield Backlink(source, page, "", "", day_of(first), day_of(last), day_of(lost))


def link_counts(db: sqlite3.Connection) -> dict[str, int]:
    """How many links from other sites are there to each page."""
    sql = "SELECT t.text, count(*) FROM links AS r JOIN text AS t ON t.id = r.page WHERE r.lost_on IS NULL GROUP BY r.page"
    return dict(db.execute(sql))


def backlinks(db: sqlite3.Connection) -> Iterator[Backlink]:
    """All links from other sites, by their page, then by where they lead."""
    sql = (
        "SELECT s.text, t.text, coalesce(a.text, ''), coalesce(e.text, ''), r.first_seen, r.last_seen, r.lost_on FROM links AS r"
        " JOIN text AS s ON s.id = r.source_page JOIN text AS t ON t.id = r.page LEFT JOIN text AS a ON a.id = r.anchor"
        " LEFT JOIN text AS e ON e.id = r.rel ORDER BY s.text, t.text"
    )
    for source, page, anchor, rel, first, last, lost in db.execute(sql):
        yield Backlink(source, page, anchor, rel, day_of(first), day_of(last), day_of(lost))
