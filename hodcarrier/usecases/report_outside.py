"""What reports tell of figures from outside."""

from __future__ import annotations

from datetime import date, timedelta

from hodcarrier.core.figures.standings import BANDS
from hodcarrier.core.states import BacklinkState, Brand, Every, FigureKind, SearchBy, SearchView, SectionKind, VisitBy
from hodcarrier.figurefile.reading import last_day
from hodcarrier.report.sections.outside import Row, SearchFacts, VisitsFacts
from hodcarrier.report.sections.section import Value
from hodcarrier.report.sections.standing import Band, Keyword, Link, LinksFacts, PositionsFacts
from hodcarrier.usecases.report_facts import MONTH_DAYS, Gatherer, Gathering, chosen
from hodcarrier.usecases.search_figures import SearchFilter, get_search_figures
from hodcarrier.usecases.standings import PositionFilter, get_backlinks, get_positions
from hodcarrier.usecases.trends import get_trend
from hodcarrier.usecases.visits import VisitFilter, get_visits
from hodcarrier.wire.figures import BacklinkRow, BandRow, PositionsOut, SearchOut, SearchRow
from hodcarrier.wire.reports import ReportSection

WEEKS = 4
KEYWORDS_MAX = 5000
TOP_TEN = 10


def _until(about: Gathering, kind: FigureKind) -> date | None:
    """The last day of the report that there are figures for; ``None`` without any in these days."""
    with about.work.figures.read(about.site_id) as db:
        last = last_day(db, kind) if db is not None else None
    return min(last, about.to_day) if last is not None and last >= about.from_day else None


def search_of(about: Gathering, weeks: int = WEEKS, view: SearchView = SearchView.ALL, limit: int = 1) -> SearchOut | None:
    """Search figures of so many weeks by query; ``None`` when there are none of these days."""
    to = _until(about, FigureKind.SEARCH)
    if to is None:
        return None
    return get_search_figures(about.work, about.site_id, SearchFilter(SearchBy.QUERY, view, weeks, to), limit=limit)


def positions_of(about: Gathering, weeks: int) -> PositionsOut | None:
    """Positions of keywords, all of them, as they were known on the last day; ``None`` when nobody has looked by then."""
    if _until(about, FigureKind.POSITIONS) is None:
        return None
    return get_positions(about.work, about.site_id, PositionFilter(weeks=weeks, to=about.to_day), limit=KEYWORDS_MAX)


def top_ten(about: Gathering) -> int | None:
    """How many keywords stand among the first ten."""
    found = positions_of(about, WEEKS)
    return sum(1 for each in found.items if each.rank is not None and each.rank <= TOP_TEN) if found is not None else None


def _weeks(about: Gathering, figure: str, months: int) -> list[Value]:
    """A figure from outside by whole weeks."""
    start = about.to_day - timedelta(days=MONTH_DAYS * months)
    points = get_trend(about.work, about.site_id, figure, start, about.to_day, Every.WEEK).points
    return [Value(each.at.date().isoformat(), each.value) for each in points if each.last is None or each.last <= about.to_day]


def _query(row: SearchRow) -> Row:
    return Row(row.text, row.now.clicks, row.before.clicks, row.now.position)


def search_facts(about: Gathering, section: ReportSection) -> SearchFacts:
    """Search figures: sums, weeks, and the queries that bring most, rise and fall."""
    weeks, limit = chosen(section, "weeks"), chosen(section, "limit")
    found = {view: search_of(about, weeks, view, limit) for view in (SearchView.ALL, SearchView.RISING, SearchView.AT_RISK)}
    top = found[SearchView.ALL]
    if top is None or top.first is None or top.last is None:
        return SearchFacts()
    brand = get_search_figures(about.work, about.site_id, SearchFilter(weeks=weeks, to=top.last, brand=Brand.ONLY), limit=1000)
    rising, falling = ((found[view].items if found[view] else []) for view in (SearchView.RISING, SearchView.AT_RISK))  # type: ignore[union-attr]
    return SearchFacts(
        first=top.first.isoformat(),
        last=top.last.isoformat(),
        clicks=top.now.clicks,
        clicks_before=top.before.clicks,
        impressions=top.now.impressions,
        impressions_before=top.before.impressions,
        position=top.now.position,
        position_before=top.before.position,
        brand_clicks=sum(row.now.clicks for row in brand.items) if brand.items else None,
        weeks=_weeks(about, "search.clicks", chosen(section, "months")),
        remarks=about.remarks,
        top=[_query(row) for row in top.items],
        rising=[_query(row) for row in rising],
        falling=[_query(row) for row in falling],
        sources=top.sources,
    )


def visits_facts(about: Gathering, section: ReportSection) -> VisitsFacts:
    """Visits: sums, weeks, channels and pages."""
    to, weeks, limit = _until(about, FigureKind.VISITS), chosen(section, "weeks"), chosen(section, "limit")
    if to is None:
        return VisitsFacts()
    pages = get_visits(about.work, about.site_id, VisitFilter(VisitBy.PAGE, weeks=weeks, to=to), limit=max(1, limit))
    channels = get_visits(about.work, about.site_id, VisitFilter(VisitBy.CHANNEL, weeks=weeks, to=to), limit=20)
    if pages.first is None or pages.last is None:
        return VisitsFacts()
    return VisitsFacts(
        first=pages.first.isoformat(),
        last=pages.last.isoformat(),
        visits=pages.now.sessions,
        visits_before=pages.before.sessions,
        conversions=pages.now.conversions,
        conversions_before=pages.before.conversions,
        weeks=_weeks(about, "visits.sessions", chosen(section, "months")),
        remarks=about.remarks,
        channels=[Row(row.text, row.now.sessions, row.before.sessions) for row in channels.items],
        pages=[Row(row.text, row.now.sessions, row.before.sessions) for row in pages.items[:limit]],
        sources=pages.sources,
    )


def positions_facts(about: Gathering, section: ReportSection) -> PositionsFacts:
    """Positions of keywords: those that moved most first, as the place for them shows them."""
    found = positions_of(about, chosen(section, "weeks"))
    if found is None or found.first is None or found.last is None:
        return PositionsFacts()
    bands = [_band(each) for each in found.bands]
    items = [
        Keyword(each.keyword, each.device, each.place, each.rank, each.before, each.best, each.change)
        for each in found.items[: chosen(section, "limit")]
    ]
    return PositionsFacts(
        found.first.isoformat(),
        found.last.isoformat(),
        found.total,
        sum(1 for each in found.items if (each.change or 0) > 0),
        sum(1 for each in found.items if (each.change or 0) < 0),
        bands,
        items,
    )


def _band(row: BandRow) -> Band:
    first, last = BANDS.get(row.band, (None, None))
    return Band(first, last, row.now, row.before)


def links_facts(about: Gathering, section: ReportSection) -> LinksFacts:
    """Links from other sites as they were known on the last day."""
    weeks, limit = chosen(section, "weeks"), chosen(section, "limit")
    lists = {
        state: get_backlinks(about.work, about.site_id, state, weeks, to=about.to_day, limit=limit)
        for state in (BacklinkState.NEW, BacklinkState.LOST, BacklinkState.TO_GONE)
    }
    new = lists[BacklinkState.NEW]
    if new.since is None:
        return LinksFacts()

    def rows(state: BacklinkState) -> list[Link]:
        return [_link(row, state) for row in lists[state].items]

    return LinksFacts(
        new.since.isoformat(),
        new.domains.get("live", 0),
        new.domains.get("new", 0),
        new.domains.get("lost", 0),
        new.counts.get(BacklinkState.LIVE, 0),
        rows(BacklinkState.NEW),
        rows(BacklinkState.LOST),
        rows(BacklinkState.TO_GONE),
    )


def _link(row: BacklinkRow, state: BacklinkState) -> Link:
    day = row.lost_on if state == BacklinkState.LOST else row.first_seen
    return Link(row.source_page, row.page, day.isoformat() if day else "", row.status)


OF_OUTSIDE: dict[SectionKind, Gatherer] = {
    SectionKind.SEARCH: search_facts,
    SectionKind.VISITS: visits_facts,
    SectionKind.POSITIONS: positions_facts,
    SectionKind.LINKS: links_facts,
}
