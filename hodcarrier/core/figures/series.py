"""Figures from outside over time: what there is to follow, and how days add up to weeks and months."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, timedelta

from hodcarrier.core.states import Every, FigureKind
from hodcarrier.core.words import fill


@dataclass(frozen=True)
class Followed:
    """A figure from outside. ``high_is_good`` is ``None`` where nobody knows; ``adds_up``: of a week it is the sum of its days (or the mean by weight), else what it was last."""

    label: str
    kind: FigureKind
    high_is_good: bool | None = True
    adds_up: bool = True


# By the name that is asked for. Figures of a site as a whole are ``site.NAME``, with a name that somebody has given them.
FOLLOWED: Mapping[str, Followed] = {
    "search.clicks": Followed("Clicks from search", FigureKind.SEARCH),
    "search.impressions": Followed("Impressions in search", FigureKind.SEARCH),
    "search.ctr": Followed("CTR in search, %", FigureKind.SEARCH),
    "search.position": Followed("Mean position in search", FigureKind.SEARCH, high_is_good=False),
    "visits.sessions": Followed("Visits", FigureKind.VISITS),
    "visits.conversions": Followed("Conversions", FigureKind.VISITS),
    "positions.top3": Followed("Keywords at positions 1 to 3", FigureKind.POSITIONS, adds_up=False),
    "positions.top10": Followed("Keywords at positions 1 to 10", FigureKind.POSITIONS, adds_up=False),
    "links.live": Followed("Links from other sites", FigureKind.LINKS, adds_up=False),
    "links.domains": Followed("Domains that link here", FigureKind.LINKS, adds_up=False),
}
SITE = "site"


def followed(figure: str) -> Followed | None:
    """What a figure from outside is; ``None`` for one that is none."""
    kind, _, name = figure.partition(".")
    if kind == SITE and name:
        return Followed(name, FigureKind.SITE, high_is_good=None, adds_up=False)
    return FOLLOWED.get(figure)


@dataclass(frozen=True)
class Day:
    """What a figure comes to on a day: ``amount``, and for a mean what it is divided by (``None``: it is no mean)."""

    amount: float
    by: float | None = None


@dataclass(frozen=True)
class Period:
    """A week from a Monday, or a month."""

    first: date
    last: date


@dataclass(frozen=True)
class Value:
    """What a figure comes to in a period, ``None`` where too little is known of it, and why."""

    period: Period
    value: float | None
    note: str = ""


def period_of(day: date, every: Every) -> Period:
    """The week or the month of a day; runs fall into weeks."""
    if every == Every.MONTH:
        following = (day.replace(day=1) + timedelta(days=32)).replace(day=1)
        return Period(day.replace(day=1), following - timedelta(days=1))
    monday = day - timedelta(days=day.weekday())
    return Period(monday, monday + timedelta(days=6))


def periods(first: date, last: date, every: Every) -> list[Period]:
    """The weeks or months from one day to another, both included, the earliest first."""
    found = [period_of(first, every)]
    while found[-1].last < last:
        found.append(period_of(found[-1].last + timedelta(days=1), every))
    return found


def over_time(days: Mapping[date, Day], every: Every, *, adds_up: bool) -> list[Value]:
    """A figure by week or month, gaps included. What adds up is told for whole periods only: a week of three days would look like a fall."""
    if not days:
        return []
    found = []
    for period in periods(min(days), max(days), every):
        inside = [day for day in days if period.first <= day <= period.last]
        length = (period.last - period.first).days + 1
        if not inside:
            found.append(Value(period, None, "no figures"))
        elif not adds_up:
            found.append(Value(period, days[max(inside)].amount))
        elif len(inside) < length:
            found.append(Value(period, None, f"figures of only {fill('{n:day}', {'n': len(inside)})}"))
        else:
            found.append(Value(period, _sum(days[day] for day in inside)))
    return found


def _sum(days: Iterable[Day]) -> float | None:
    known = list(days)
    if all(day.by is None for day in known):
        return sum(day.amount for day in known)
    weight = sum(day.by or 0.0 for day in known)
    return sum(day.amount for day in known) / weight if weight else None
