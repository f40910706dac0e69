"""What is known of pages from outside as columns of the inventory: search figures and visits of four weeks, and links from other sites."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from pathlib import Path

from sqlalchemy import select

from hodcarrier.core.errors import Conflict
from hodcarrier.core.figures.spans import span_of
from hodcarrier.core.states import FigureKind, SearchBy, VisitBy, Weight
from hodcarrier.figurefile import search, visits
from hodcarrier.figurefile.looks import link_counts
from hodcarrier.figurefile.reading import last_day
from hodcarrier.figurefile.search import Asked
from hodcarrier.figurefile.store import FigureStore
from hodcarrier.figurefile.visits import VisitsAsked
from hodcarrier.register.models import Run, SiteState
from hodcarrier.usecases.workspace import Workspace

ByUrl = Mapping[str, Mapping[str, float]]
OF_SEARCH = ("clicks", "clicks_change", "impressions", "position")
OF_VISITS = ("visits", "visits_change", "conversions")
OF_LINKS = ("outside_links",)
# A page that nobody was shown has no position.
UNKNOWN = frozenset({"position"})


@dataclass(frozen=True)
class Outside:
    """Columns of figures of a site, up to a day (``None``: the last with figures)."""

    store: FigureStore
    site_id: int
    until: date | None
    names: Collection[str]
    unknown: Collection[str] = UNKNOWN

    def figures(self) -> ByUrl:
        """For each column, figures by URL. They are kept until the file of figures changes."""
        path = self.store.path(self.site_id)
        return _figures(self.store, self.site_id, self.until, _written(path))


def outside_of(work: Workspace, run_id: str) -> Outside | None:
    """The columns for a run: of the latest one with the newest figures, of earlier ones with those up to its day. ``None`` for a site that has no such figures."""
    with work.reading() as session:
        found = session.execute(
            select(Run.site_id, Run.requested_at, SiteState.done_id)
            .outerjoin(SiteState, SiteState.site_id == Run.site_id)
            .where(Run.id == run_id)
        ).first()
    if found is None:
        return None
    site_id, at, latest = found
    with work.figures.read(site_id) as db:
        names = _names(db) if db is not None else []
    return Outside(work.figures, site_id, None if latest == run_id else at.date(), names) if names else None


def worth_of(work: Workspace, run_id: str, weight: Weight) -> Mapping[str, float] | None:
    """What each page gets of a weight, by URL; ``None`` for the weight that the run itself knows. Raises :class:`Conflict` where the site has no such figures."""
    if weight == Weight.GAIN:
        return None
    beside = outside_of(work, run_id)
    if beside is None or weight not in beside.names:
        noun = "visits" if weight == Weight.VISITS else "search figures"
        raise Conflict(f"There are no {noun} of this site.", "Import them, or add a feed; until then order the work by gain.")
    return beside.figures()[weight]


def _names(db: sqlite3.Connection) -> list[str]:
    of_search = OF_SEARCH if last_day(db, FigureKind.SEARCH) is not None else ()
    of_visits = OF_VISITS if last_day(db, FigureKind.VISITS) is not None else ()
    of_links = OF_LINKS if db.execute("SELECT 1 FROM links LIMIT 1").fetchone() is not None else ()
    return [*of_search, *of_visits, *of_links]


def _written(path: Path) -> tuple[int, ...]:
    """When a file was last written, with what is not in it yet."""
    both = (path, path.with_name(path.name + "-wal"))
    return tuple(each.stat().st_mtime_ns if each.is_file() else 0 for each in both)


@lru_cache(maxsize=16)
def _figures(store: FigureStore, site_id: int, until: date | None, _written: tuple[int, ...]) -> ByUrl:
    with store.read(site_id) as db:
        return {**_search(db, until), **_visits(db, until), **_links(db)} if db is not None else {}


def _search(db: sqlite3.Connection, until: date | None) -> ByUrl:
    last = last_day(db, FigureKind.SEARCH)
    if last is None:
        return {}
    span = span_of(min(last, until or last))
    lines = search.lines(db, SearchBy.PAGE, Asked(span.before, span.first, span.last))
    return {
        "clicks": {line.text: line.now.clicks for line in lines},
        "clicks_change": {line.text: line.now.clicks - line.before.clicks for line in lines},
        "impressions": {line.text: line.now.impressions for line in lines},
        "position": {line.text: round(line.now.position, 1) for line in lines if line.now.position is not None},
    }


def _visits(db: sqlite3.Connection, until: date | None) -> ByUrl:
    last = last_day(db, FigureKind.VISITS)
    if last is None:
        return {}
    span = span_of(min(last, until or last))
    lines = visits.lines(db, VisitBy.PAGE, VisitsAsked(span.before, span.first, span.last))
    return {
        "visits": {line.text: line.now.sessions for line in lines},
        "visits_change": {line.text: line.now.sessions - line.before.sessions for line in lines},
        "conversions": {line.text: line.now.conversions for line in lines if line.now.conversions is not None},
    }


def _links(db: sqlite3.Connection) -> ByUrl:
    found = link_counts(db)
    return {"outside_links": {url: float(count) for url, count in found.items()}} if found else {}
