"""Visits of a site: by page and by channel, what rises and what falls."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

from hodcarrier.core.figures.movement import CLICKS_MIN, Movement, moved_between_halves, test_words
from hodcarrier.core.figures.spans import WEEKS, check_weeks, span_of
from hodcarrier.core.states import FigureKind, VisitBy, VisitView
from hodcarrier.figurefile import visits
from hodcarrier.figurefile.reading import last_day, sources, values_of
from hodcarrier.figurefile.visits import VisitLine, VisitsAsked, VisitSums
from hodcarrier.register.models import Site
from hodcarrier.usecases.figure_rows import check_sort, in_order
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.figures import VisitDay, VisitFigures, VisitRow, VisitsOut

WEEKS_MAX = 26
SORTS: dict[str, Callable[[VisitRow], float | None]] = {
    "visits": lambda row: row.now.sessions,
    "before": lambda row: row.before.sessions,
    "engaged": lambda row: row.now.engaged,
    "conversions": lambda row: row.now.conversions,
    "change": lambda row: row.now.sessions - row.before.sessions,
}
USUAL_SORT = {VisitView.ALL: "-visits", VisitView.RISING: "-change", VisitView.AT_RISK: "change"}
_MOVED = {VisitView.RISING: Movement.ROSE, VisitView.AT_RISK: Movement.FELL}


@dataclass(frozen=True)
class VisitFilter:
    """What is asked for: by page or channel, in how many weeks up to which day (the last with figures), which of them, and over which channel."""

    by: VisitBy = VisitBy.PAGE
    view: VisitView = VisitView.ALL
    weeks: int = WEEKS
    to: date | None = None
    channel: str = ""
    text: str = ""
    sort: str = ""


def get_visits(work: Workspace, site_id: int, which: VisitFilter, *, limit: int = 100, after: int = 0) -> VisitsOut:
    """Visits of a period, against the equally long one before it. Raises :class:`InvalidInput` for what cannot be asked."""
    check_weeks(which.weeks, WEEKS_MAX)
    check_sort(which.sort, SORTS)
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
    out = VisitsOut(by=which.by, test=test_words(which.weeks, "visits"))
    with work.figures.read(site_id) as db:
        last = last_day(db, FigureKind.VISITS) if db is not None else None
        if db is None or last is None:
            return out
        span = span_of(which.to or last, which.weeks)
        asked = VisitsAsked(span.before, span.first, span.last, which.channel)
        rows = _rows(db, which, asked)
        out.first, out.last, out.before_first, out.before_last = span.first, span.last, span.before, span.before_last
        out.now, out.before = (_figures(each) for each in visits.whole(db, asked))
        out.days = [VisitDay(day=day, visits=sessions) for day, sessions in visits.by_day(db, asked)]
        out.channels = values_of(db, FigureKind.VISITS, "channel", span.before, span.last)
        out.sources = sources(db, FigureKind.VISITS)
    views = {view: [row for row in rows if _is_in(row, view)] for view in VisitView}
    chosen = in_order(views[which.view], which.sort or USUAL_SORT[which.view], SORTS)
    out.counts = {view: len(found) for view, found in views.items()}
    out.items, out.total = chosen[after : after + limit], len(chosen)
    out.after = str(after + limit) if after + limit < len(chosen) else None
    return out


def _rows(db: sqlite3.Connection, which: VisitFilter, asked: VisitsAsked) -> list[VisitRow]:
    lines = visits.lines(db, which.by, asked)
    many = [line.id for line in lines if line.now.sessions + line.before.sessions >= CLICKS_MIN]
    table = visits.visits_by_day(db, which.by, asked, many)
    movements = {number: moved_between_halves(row).movement for number, row in zip(many, table, strict=True)}
    wanted = which.text.casefold()
    return [visit_row(line, movements.get(line.id, Movement.TOO_FEW)) for line in lines if wanted in line.text.casefold()]


def visit_row(line: VisitLine, movement: Movement) -> VisitRow:
    """A page or channel as it is shown."""
    then = line.before.sessions
    return VisitRow(
        text=line.text,
        now=_figures(line.now),
        before=_figures(line.before),
        change=(line.now.sessions - then) / then if then else None,
        movement=movement,
    )


def _is_in(row: VisitRow, view: VisitView) -> bool:
    return view == VisitView.ALL or row.movement == _MOVED[view]


def _figures(sums: VisitSums) -> VisitFigures:
    return VisitFigures(sessions=sums.sessions, engaged=sums.engaged, conversions=sums.conversions)
