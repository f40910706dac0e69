"""Positions of keywords and links from other sites."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from hodcarrier.core.errors import DamagedRun, NotFound
from hodcarrier.core.figures.backlinks import as_of, domains, is_in
from hodcarrier.core.figures.spans import WEEKS, check_weeks
from hodcarrier.core.figures.standings import Standing, side_by_side, spread, standings
from hodcarrier.core.states import BacklinkState, FigureKind
from hodcarrier.figurefile.looks import backlinks, positions
from hodcarrier.figurefile.reading import last_day, sources
from hodcarrier.register.models import Site
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run
from hodcarrier.wire.benchmarks import MetricLine
from hodcarrier.wire.figures import AboveRow, BacklinkRow, BacklinksOut, BandRow, PositionRow, PositionsOut

WEEKS_MAX = 104
LOOKED_DAYS = 92  # a keyword that nobody has looked at for longer has no position now


@dataclass(frozen=True)
class PositionFilter:
    """In how many weeks up to the last look (by the day ``to``, where there is one), on which device, from which place, with what in the keyword; ``moved``: only those whose
    position differs."""

    weeks: int = WEEKS
    to: date | None = None
    device: str = ""
    place: str = ""
    text: str = ""
    moved: bool = False


def get_positions(work: Workspace, site_id: int, which: PositionFilter, *, limit: int = 100, after: int = 0) -> PositionsOut:
    """Where a site stands, those that lost or won the most places first. What was looked at before the period counts for the best only."""
    check_weeks(which.weeks, WEEKS_MAX)
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
    with work.figures.read(site_id) as db:
        last = last_day(db, FigureKind.POSITIONS) if db is not None else None
        if db is None or last is None:
            return PositionsOut()
        last = min(last, which.to or last)
        first = last - timedelta(days=7 * which.weeks - 1)
        looks = list(positions(db, last - timedelta(days=7 * WEEKS_MAX), last))
    own = [look for look in looks if not look.host]
    # Who is not looked at any more has no position now.
    found = [each for each in standings(looks, first - timedelta(days=1)) if each.now.day >= first]
    shown = [each for each in found if _is_shown(each, which)]
    shown.sort(
        key=lambda each: (-abs(each.change or 0), each.now.rank or 10**9, each.now.keyword, each.now.device, each.now.place)
    )
    now, before = spread(each.now.rank for each in shown), spread(each.before.rank for each in shown if each.before is not None)
    return PositionsOut(
        first=first,
        last=last,
        bands=[BandRow(band=band, now=count, before=before[band]) for band, count in now.items()],
        items=[_row(each) for each in shown[after : after + limit]],
        total=len(shown),
        after=str(after + limit) if after + limit < len(shown) else None,
        devices=sorted({look.device for look in own if look.device}),
        places=sorted({look.place for look in own if look.place}),
    )


def get_backlinks(
    work: Workspace,
    site_id: int,
    state: BacklinkState,
    weeks: int = WEEKS,
    text: str = "",
    *,
    to: date | None = None,
    limit: int = 100,
    after: int = 0,
) -> BacklinksOut:
    """Links from other sites, new and lost ones in so many weeks up to the last day on which anything was seen; with ``to`` as they were known on that day."""
    check_weeks(weeks, WEEKS_MAX)
    with work.reading() as session:
        run = latest_run(session, fetch(session, Site, site_id, "site"))
    with work.figures.read(site_id) as db:
        links = list(backlinks(db)) if db is not None else []
    links = [then for link in links if (then := as_of(link, to)) is not None] if to is not None else links
    days = [day for link in links for day in (link.first_seen, link.last_seen, link.lost_on) if day is not None]
    if not links:
        return BacklinksOut()
    since = (max(days) if days else work.now().date()) - timedelta(days=7 * weeks - 1)
    known = _statuses(work, run.id, {link.page for link in links}) if run is not None else {}
    links = [replace(link, status=known.get(link.page)) for link in links]
    wanted = text.casefold()
    counts = Counter(each for link in links for each in BacklinkState if is_in(link, each, since))
    shown = [
        link
        for link in links
        if is_in(link, state, since) and any(wanted in part.casefold() for part in (link.source_page, link.page, link.anchor))
    ]
    shown.sort(key=lambda link: (-(link.lost_on or link.first_seen or since).toordinal(), link.source_page, link.page))
    return BacklinksOut(
        since=since,
        counts={each: counts[each] for each in BacklinkState},
        domains=dict(domains(links, since)),
        items=[BacklinkRow(**vars(link), domain=link.domain) for link in shown[after : after + limit]],
        total=len(shown),
        after=str(after + limit) if after + limit < len(shown) else None,
    )


def keyword_lines(work: Workspace, site_id: int, hosts: Sequence[str]) -> list[MetricLine]:
    """For how many keywords each host stands among the first three and the first ten; the first host is that of the site. Empty without positions."""
    with work.figures.read(site_id) as db:
        last = last_day(db, FigureKind.POSITIONS) if db is not None else None
        if db is None or last is None:
            return []
        looks = list(positions(db, last - timedelta(days=LOOKED_DAYS), last))
        source = next(iter(sources(db, FigureKind.POSITIONS)), "")
    lines = []
    for rank_max in (3, 10):
        counts, number = side_by_side(looks, ["", *hosts[1:]], rank_max)
        values = [None if count is None else float(count) for count in counts]
        name = f"Keywords at positions 1 to {rank_max}, of {number:,}"
        lines.append(MetricLine(name=name, values=values, day=last, source=source))
    return lines


def _is_shown(each: Standing, which: PositionFilter) -> bool:
    now = each.now
    if (which.device and now.device != which.device) or (which.place and now.place != which.place):
        return False
    differs = each.before is not None and each.before.rank != now.rank
    return which.text.casefold() in now.keyword.casefold() and (differs or not which.moved)


def _row(each: Standing) -> PositionRow:
    now, before, best = each.now, each.before, each.best
    return PositionRow(
        keyword=now.keyword,
        device=now.device,
        place=now.place,
        day=now.day,
        rank=now.rank,
        page=now.page,
        features=now.features,
        before=before.rank if before is not None else None,
        before_on=before.day if before is not None else None,
        change=each.change,
        best=best.rank,
        best_on=best.day if best.rank is not None else None,
        above=[AboveRow(host=host, rank=rank) for host, rank in each.above],
    )


def _statuses(work: Workspace, run_id: str, pages: set[str]) -> dict[str, int]:
    """What the latest run was answered for pages; those that it did not ask for are left out."""
    try:
        with work.open_run(run_id) as run:
            sql = "SELECT status FROM address JOIN answer ON answer.address_id = address.id WHERE url = ?"
            return {page: found[0][0] for page in pages if (found := run.rows(sql, page)) and found[0][0] is not None}
    except (DamagedRun, NotFound):
        return {}
