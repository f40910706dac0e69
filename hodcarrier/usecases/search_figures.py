"""Search figures of a site: top queries and pages, what rises and falls, what is near the top, and what is clicked less than is usual where it stands."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from hodcarrier.core.figures.brand import brand_of
from hodcarrier.core.figures.curve import Shown, lost_clicks, usual_rates
from hodcarrier.core.figures.movement import CLICKS_MIN, Moved, Movement, moved_between_halves, test_words
from hodcarrier.core.figures.spans import WEEKS, check_weeks, span_of
from hodcarrier.core.states import Brand, FigureKind, SearchBy, SearchView
from hodcarrier.figurefile import search
from hodcarrier.figurefile.reading import kept, last_day, sources, values_of
from hodcarrier.figurefile.search import Asked, Line, Sums
from hodcarrier.register.models import Metric, Site
from hodcarrier.usecases.figure_rows import check_sort, in_order
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.figures import FigureSet, SearchDay, SearchOut, SearchRow, SearchSums

WEEKS_MAX = 26
# Where a better place would be seen at once, and how often a query must be shown for that to be worth work.
NEAR_TOP = (4.0, 15.0)
NEAR_TOP_IMPRESSIONS = 100
SORTS: dict[str, Callable[[SearchRow], float | None]] = {
    "clicks": lambda row: row.now.clicks,
    "before": lambda row: row.before.clicks,
    "impressions": lambda row: row.now.impressions,
    "ctr": lambda row: row.now.ctr,
    "position": lambda row: row.now.position,
    "change": lambda row: row.now.clicks - row.before.clicks,
    "lost": lambda row: row.lost_clicks,
}
# What a view shows first where nothing else is asked for; a minus stands for the most first.
USUAL_SORT = {
    SearchView.ALL: "-clicks",
    SearchView.RISING: "-change",
    SearchView.AT_RISK: "change",
    SearchView.NEAR_TOP: "-impressions",
    SearchView.LOW_CTR: "-lost",
}


@dataclass(frozen=True)
class SearchFilter:
    """What is asked for: by query or page, in how many weeks up to which day (the last with figures), which of them, and what is chosen of devices, countries and brand."""

    by: SearchBy = SearchBy.QUERY
    view: SearchView = SearchView.ALL
    weeks: int = WEEKS
    to: date | None = None
    brand: Brand = Brand.BOTH
    device: str = ""
    country: str = ""
    text: str = ""
    sort: str = ""


def list_figures(work: Workspace, site_id: int) -> list[FigureSet]:
    """What there is of each kind of figures of a site."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        rows = session.query(Metric.day, Metric.source).where(Metric.site_id == site_id).all()
    with work.figures.read(site_id) as db:
        found = [FigureSet(**vars(each)) for each in kept(db)] if db is not None else []
    if rows:
        days, sources = [day for day, _ in rows], list(dict.fromkeys(source for _, source in rows if source))
        found.append(FigureSet(kind=FigureKind.SITE, rows=len(rows), first=min(days), last=max(days), sources=sources))
    return found


def get_search_figures(work: Workspace, site_id: int, which: SearchFilter, *, limit: int = 100, after: int = 0) -> SearchOut:
    """Search figures of a period, against the equally long one before it. Both are whole weeks, so that each weekday is in both as often."""
    check_weeks(which.weeks, WEEKS_MAX)
    check_sort(which.sort, SORTS)
    with work.reading() as session:
        names = brand_names(fetch(session, Site, site_id, "site"))
    empty = SearchOut(by=which.by, brand_names=names, test=test_words(which.weeks))
    with work.figures.read(site_id) as db:
        last = last_day(db, FigureKind.SEARCH) if db is not None else None
        if db is None or last is None:
            return empty
        span = span_of(which.to or last, which.weeks)
        asked = Asked(span.before, span.first, span.last, which.device, which.country)
        return _answer(db, which, asked, empty, limit=limit, after=after)


def _answer(db: sqlite3.Connection, which: SearchFilter, asked: Asked, out: SearchOut, *, limit: int, after: int) -> SearchOut:
    lines = search.lines(db, which.by, asked)
    is_brand = brand_of(out.brand_names) if which.by == SearchBy.QUERY else lambda _: False
    usual = usual_rates([_as_shown(line) for line in lines if line.now.position is not None and not is_brand(line.text)])
    movements = _movements(db, which.by, asked, lines)
    wanted = which.text.casefold()
    rows = [
        row_of(line, movements.get(line.id), usual, brand=brand)
        for line in lines
        if wanted in line.text.casefold()
        and ((brand := is_brand(line.text)) == (which.brand == Brand.ONLY) or which.brand == Brand.BOTH)
    ]
    views = {view: [row for row in rows if _is_in(row, view)] for view in SearchView}
    chosen = in_order(views[which.view], which.sort or USUAL_SORT[which.view], SORTS)
    whole = search.whole(db, asked)
    out.first, out.last = asked.first, asked.last
    out.before_first, out.before_last = asked.before, asked.first - timedelta(days=1)
    out.now, out.before = (_sums(each) for each in whole)
    out.days = [SearchDay(day=day, clicks=clicks, impressions=shown) for day, clicks, shown in search.by_day(db, asked)]
    out.counts = {view: len(found) for view, found in views.items()}
    out.items, out.total = chosen[after : after + limit], len(chosen)
    out.after = str(after + limit) if after + limit < len(chosen) else None
    out.devices = values_of(db, FigureKind.SEARCH, "device", asked.before, asked.last)
    out.countries = values_of(db, FigureKind.SEARCH, "country", asked.before, asked.last)
    out.usual_ctr = usual
    out.sources = sources(db, FigureKind.SEARCH)
    return out


def brand_names(site: Site) -> list[str]:
    """Names by which people look for a client: those that somebody has noted, else its own and that of the site's host."""
    if site.client.brand_names:
        return list(site.client.brand_names)
    labels = site.host.removeprefix("www.").split(".")
    return list(dict.fromkeys([site.client.name, labels[0]]))


def _movements(db: sqlite3.Connection, by: SearchBy, asked: Asked, lines: Sequence[Line]) -> dict[int, Moved]:
    """What the clicks of those did that have enough of them."""
    many = [line.id for line in lines if line.now.clicks + line.before.clicks >= CLICKS_MIN]
    if not many:
        return {}
    table = search.clicks_by_day(db, by, asked, many)
    return {number: moved_between_halves(row) for number, row in zip(many, table, strict=True)}


def row_of(line: Line, movement: Moved | None, usual: dict[int, float], *, brand: bool) -> SearchRow:
    """A query or page as it is shown."""
    known = line.now.position is not None and not brand
    return SearchRow(
        text=line.text,
        now=_sums(line.now),
        before=_sums(line.before),
        change=(line.now.clicks - line.before.clicks) / line.before.clicks if line.before.clicks else None,
        movement=movement.movement if movement is not None else Movement.TOO_FEW,
        brand=brand,
        lost_clicks=lost_clicks(_as_shown(line), usual) if known else None,
    )


def _is_in(row: SearchRow, view: SearchView) -> bool:
    if view == SearchView.RISING:
        return row.movement == Movement.ROSE
    if view == SearchView.AT_RISK:
        return row.movement == Movement.FELL
    if view == SearchView.NEAR_TOP:
        place = row.now.position
        return place is not None and NEAR_TOP[0] <= place <= NEAR_TOP[1] and row.now.impressions >= NEAR_TOP_IMPRESSIONS
    return view == SearchView.ALL or row.lost_clicks is not None


def _as_shown(line: Line) -> Shown:
    return Shown(line.now.position or 0.0, line.now.impressions, line.now.clicks)


def _sums(sums: Sums) -> SearchSums:
    return SearchSums(clicks=sums.clicks, impressions=sums.impressions, ctr=sums.ctr, position=sums.position)
