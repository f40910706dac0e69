"""Figures from outside as lines over time."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import UTC, date, datetime, time

from sqlalchemy import select

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.figures.series import FOLLOWED, SITE, Day, Followed, Value, over_time
from hodcarrier.core.states import Every
from hodcarrier.figurefile.reading import kept
from hodcarrier.figurefile.series import days_of
from hodcarrier.register.models import Metric, Site
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.trends import TrendFigure, TrendPoint


def outside_points(
    work: Workspace, site_id: int, figure: str, what: Followed, every: Every, start: date | None, end: date | None
) -> list[TrendPoint]:
    """A figure by week or month, those that lie within a time. Raises :class:`InvalidInput` for a figure of the site as a whole that it does not have."""
    days = _days(work, site_id, figure)
    if not days and figure.startswith(f"{SITE}."):
        raise InvalidInput(f"This site has no figure “{what.label}”.", "See `hodcarrier metric list SITE`.", "figure")
    return [_point(each) for each in over_time(days, every, adds_up=what.adds_up) if _is_within(each, start, end)]


def _days(work: Workspace, site_id: int, figure: str) -> Mapping[date, Day]:
    if figure in FOLLOWED:
        with work.figures.read(site_id) as db:
            return days_of(db, figure) if db is not None else {}
    name = figure.partition(".")[2]
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        rows = session.execute(select(Metric.day, Metric.value).where(Metric.site_id == site_id, Metric.name == name))
        return {day: Day(value) for day, value in rows}


def _is_within(each: Value, start: date | None, end: date | None) -> bool:
    return (start is None or each.period.last >= start) and (end is None or each.period.first <= end)


def _point(each: Value) -> TrendPoint:
    at = datetime.combine(each.period.last, time(), UTC)
    return TrendPoint(at=at, first=each.period.first, last=each.period.last, value=each.value, note=each.note)


def outside_figures(work: Workspace, site_id: int) -> Sequence[TrendFigure]:
    """The figures from outside that a site has."""
    with work.figures.read(site_id) as db:
        kinds = {each.kind for each in kept(db)} if db is not None else set()
    found = [TrendFigure(figure=name, label=each.label) for name, each in FOLLOWED.items() if each.kind in kinds]
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        names = session.scalars(select(Metric.name).where(Metric.site_id == site_id).distinct().order_by(Metric.name)).all()
    return [*found, *(TrendFigure(figure=f"{SITE}.{name}", label=name) for name in names)]
