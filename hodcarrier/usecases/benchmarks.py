"""Benchmarks: rounds of runs over an own site and its competitors, under one plan."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, undefer

from hodcarrier.core.benchmark.intervals import wilson
from hodcarrier.core.benchmark.measures import BY_ID, MEASURES, Measure
from hodcarrier.core.benchmark.ranking import RoundState, Row, compare_sites, missing, sentences
from hodcarrier.core.catalogue import Subject, load
from hodcarrier.core.errors import Conflict, InvalidInput
from hodcarrier.core.judge.areas import comparable
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.plan import Plan, plan_values
from hodcarrier.core.schedule import short_rule
from hodcarrier.core.states import ACTIVE_RUN, RunPurpose
from hodcarrier.core.summary import RoundResult, RoundSite, SiteFigures
from hodcarrier.core.words import as_shown
from hodcarrier.register.models import Benchmark, BenchmarkRound, BenchmarkSchedule, Member, Metric, Remark, Run, Site
from hodcarrier.usecases.runs import queue_in
from hodcarrier.usecases.schedules import schedule_words
from hodcarrier.usecases.standings import keyword_lines
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run, log
from hodcarrier.wire.benchmarks import BenchmarkBrief, BenchmarkOut, BenchmarkRow, MetricLine, RoundRow, RoundSchedule, ShareRow
from hodcarrier.wire.remarks import LineRemark


def start_round(work: Workspace, benchmark_id: int, member: Member | None = None, at: datetime | None = None) -> int:
    """Queue a run of every site under the common plan (catalogue defaults, one page limit). Returns the round's id. Raises :class:`Conflict` while a round
    with one of the sites is running."""
    with work.session() as session:
        return start_round_in(work, session, fetch(session, Benchmark, benchmark_id, "benchmark"), member, at)


def start_round_in(work: Workspace, session: Session, row: Benchmark, member: Member | None, at: datetime | None = None) -> int:
    """Queue a round in a transaction of its caller: every run of it, or none. Raises what :func:`start_round` raises."""
    if row.site.archived:
        raise Conflict(f"{row.site.client.name} is archived.", "Restore the client first.")
    sites = [row.site_id, *row.competitor_ids]
    if session.scalar(select(Run).where(Run.site_id.in_(sites), Run.purpose == RunPurpose.BENCHMARK, Run.state.in_(ACTIVE_RUN))):
        raise Conflict("A round with one of these sites is still running.", "Wait for it to end.")
    fresh = BenchmarkRound(benchmark_id=row.id, requested_at=at or work.now())
    session.add(fresh)
    session.flush()
    plans = {site.id: _common_plan(site, row) for site in session.scalars(select(Site).where(Site.id.in_(sites)))}
    log(session, work.now(), member.id if member else None, "round started", row.name)
    for site_id in sites:
        queue_in(work, session, site_id, member, RunPurpose.BENCHMARK, fresh.id, plans[site_id], at)
    return fresh.id


def _common_plan(site: Site, row: Benchmark) -> dict[str, Any]:
    """The benchmark's own plan, the same for all: defaults, one page limit, one pace. Of a site's plan counts only what it is
    reached by."""
    own = site.plan
    common = Plan(
        own.start[:1],
        pages_max=row.pages_max,
        rate_per_s=row.rate_per_s,
        host_map=own.host_map,
        private_addresses=own.private_addresses,
        ca_file=own.ca_file,
    )
    return plan_values(common)


def list_benchmarks(work: Workspace) -> list[BenchmarkBrief]:
    """Benchmarks by name, but for those of archived clients."""
    in_use = select(Benchmark).join(Site).where(~Site.archived).order_by(Benchmark.name)
    with work.reading() as session:
        return [benchmark_brief(session, row) for row in session.scalars(in_use)]


def benchmark_brief(session: Session, row: Benchmark) -> BenchmarkBrief:
    """A benchmark as lists show it, with the own site's rank by health in the latest round that has ended."""
    hosts = _hosts(session, row)
    finished = _finished(session, row)
    rank = None
    if finished:
        rank = next((r.ranks[0] for r in _rows(finished[-1][1], [BY_ID["health"]])), None)
    return BenchmarkBrief(
        id=row.id,
        name=row.name,
        site_id=row.site_id,
        site_host=hosts[0],
        competitors=hosts[1:],
        competitor_ids=row.competitor_ids,
        rounds=len(finished),
        rank=rank,
    )


def _hosts(session: Session, row: Benchmark) -> list[str]:
    hosts = {s.id: s.host for s in session.scalars(select(Site).where(Site.id.in_([row.site_id, *row.competitor_ids])))}
    return [hosts.get(i, "removed site") for i in (row.site_id, *row.competitor_ids)]


def keep_result(session: Session, round_id: int) -> None:
    """Keep the result of a round whose runs have all ended: it stays when runs or sites are removed."""
    round_row = session.get_one(BenchmarkRound, round_id)
    round_row.result = _result(session, session.get_one(Benchmark, round_row.benchmark_id), round_row)


def _result(session: Session, row: Benchmark, round_row: BenchmarkRound) -> RoundResult:
    runs = {
        r.site_id: r
        for r in session.scalars(
            select(Run).where(Run.round_id == round_row.id).options(undefer(Run.summary), undefer(Run.site_figures))
        )
    }
    sites = []
    for site_id, host in zip((row.site_id, *row.competitor_ids), _hosts(session, row), strict=True):
        run = runs.get(site_id)
        summary = run.summary if run else None
        failing = {c: f.pages for c, f in summary.checks.items() if f.subject != Subject.SITE} if summary else {}
        sites.append(
            RoundSite(
                site_id=site_id,
                host=host,
                run_id=run.id if run else "",
                pages=summary.pages_scored if summary else None,
                figures=run.site_figures if run else None,
                documents=summary.measures.documents if summary else 0,
                known=summary.measures.known if summary else None,
                failing_pages=failing,
            )
        )
    return RoundResult(sites)


def _finished(session: Session, row: Benchmark) -> list[tuple[BenchmarkRound, RoundResult]]:
    """Rounds of which every run has ended and the own one is done. Those of older releases have no stored result yet."""
    found: list[tuple[BenchmarkRound, RoundResult]] = []
    for round_row in row.rounds:
        result = round_row.result
        if result is None:
            if session.scalar(select(Run.id).where(Run.round_id == round_row.id, Run.state.in_(ACTIVE_RUN)).limit(1)):
                continue
            result = _result(session, row, round_row)
        if result.sites[0].figures is not None:
            found.append((round_row, result))
    return found


def _rows(result: RoundResult, measures: Sequence[Measure] = MEASURES) -> list[Row]:
    """The measures of a round. A site of which too little could be examined is shown and takes no rank."""
    return compare_sites(
        _figures(result), measures=measures, unranked=[i for i, site in enumerate(result.sites) if _is_thin(site)]
    )


def _figures(result: RoundResult) -> list[SiteFigures | None]:
    return [site.figures for site in result.sites]


def _is_thin(site: RoundSite) -> bool:
    """Whether too little of a site could be examined. What lies beyond a page limit was never asked for: it is not among the known pages."""
    found = site.figures
    return found is not None and bool(site.known) and not comparable(site.documents, site.known or 0, site.documents)


def _by(finished: Sequence[tuple[BenchmarkRound, RoundResult]], to: date | None) -> Sequence[tuple[BenchmarkRound, RoundResult]]:
    """The rounds that were asked for by a day; all without one."""
    return [each for each in finished if to is None or each[0].requested_at.date() <= to]


def unranked_sites(work: Workspace, benchmark_id: int, to: date | None = None) -> list[RoundSite]:
    """The sites that take no rank in the latest finished round (by the day ``to``), as too little of them could be examined."""
    with work.reading() as session:
        finished = _by(_finished(session, fetch(session, Benchmark, benchmark_id, "benchmark")), to)
    return [site for site in finished[-1][1].sites if _is_thin(site)] if finished else []


def _thin_words(site: RoundSite) -> str:
    return f"{site.host} takes no rank: only {site.documents:,} of its {site.known or 0:,} known pages could be examined."


def get_benchmark(work: Workspace, benchmark_id: int, to: date | None = None) -> BenchmarkOut:
    """The latest finished round of a benchmark, or the latest by the day ``to``: measures with ranks and gaps, shares of pages, sentences."""
    with work.reading() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        brief, finished = benchmark_brief(session, row), _by(_finished(session, row), to)
        running = len(row.rounds) > len(finished) and session.scalar(
            select(Run.id).where(Run.round_id.in_([r.id for r in row.rounds]), Run.state.in_(ACTIVE_RUN)).limit(1)
        )
        # A round is of the sites that there were then.
        coming = zip((row.site_id, *row.competitor_ids), _hosts(session, row), strict=True)
        last = finished[-1][1] if finished else RoundResult([RoundSite(site, host, "", None, None) for site, host in coming])
        hosts = [site.host for site in last.sites]
        table = _rows(last)
        audit = latest_run(session, fetch(session, Site, row.site_id, "site"))
        keywords = keyword_lines(work, row.site_id, hosts)
        return BenchmarkOut(
            **brief.model_dump(),
            hosts=hosts,
            at=finished[-1][0].requested_at if finished else None,
            pages_max=row.pages_max,
            rate_per_s=row.rate_per_s,
            state=RoundState.RUNNING if running else (RoundState.DONE if finished else RoundState.NONE),
            pages=[site.pages for site in last.sites],
            unranked=[_thin_words(site) for site in last.sites if _is_thin(site)],
            audit_health=audit.health if audit else None,
            audit_at=audit.requested_at if audit else None,
            site_ids=[site.site_id for site in last.sites],
            schedule=round_schedule_out(row.schedule) if row.schedule else None,
            runs=[site.run_id for site in last.sites],
            sampled=[site.figures is not None and site.figures.sampled for site in last.sites],
            rows=[_row_out(r) for r in table],
            shares=shares(last),
            sentences=sentences(table, hosts),
            missing=missing(_figures(last), [site.documents for site in last.sites]),
            metrics=[*_metrics(session, row), *keywords],
            rank_history=_history(finished, "health"),
            remarks=_remarks(session, row, finished[0][0].requested_at.date() if finished else work.now().date()),
        )


def round_schedule_out(row: BenchmarkSchedule) -> RoundSchedule:
    """When rounds begin, as the surfaces show it."""
    words = schedule_words(row.rule, row.at, row.zone, row.anchor)
    return RoundSchedule(rule=short_rule(row.rule), at=row.at, zone=row.zone, next_due_at=row.next_due_at, words=words)


def _row_out(row: Row) -> BenchmarkRow:
    measure = row.measure
    return BenchmarkRow(
        id=measure.id,
        name=measure.name,
        group=measure.group,
        unit=measure.unit,
        high_is_good=measure.high_is_good,
        resolution=measure.resolution,
        values=list(row.values),
        intervals=[None if t is None or t.low is None or t.high is None else (t.low, t.high) for t in row.taken],
        sizes=[None if t is None else t.size for t in row.taken],
        ranks=list(row.ranks),
        gap_to_best=row.gap_to_best,
        gap_to_median=row.gap_to_median,
        lead=row.lead,
        of=measure.of,
        behind=row.behind,
    )


def _history(finished: Sequence[tuple[BenchmarkRound, RoundResult]], measure: str) -> list[RoundRow]:
    """A measure in every round: the figures as they are shown, and the ranks, of the sites of the latest one."""
    wanted = [site.site_id for site in finished[-1][1].sites] if finished else []
    found = []
    for round_row, result in finished:
        row = next(iter(_rows(result, [BY_ID[measure]])), None)
        taken = [site.figures.taken.get(measure) if site.figures else None for site in result.sites]
        values = [None if each is None else as_shown(each.value, BY_ID[measure].unit) for each in taken]
        places = {site.site_id: place for place, site in enumerate(result.sites)}
        at = [places.get(site) for site in wanted]
        found.append(
            RoundRow(
                at=round_row.requested_at,
                ranks=[None if row is None or place is None else row.ranks[place] for place in at],
                values=[None if place is None else values[place] for place in at],
            )
        )
    return found


def get_benchmark_trend(work: Workspace, benchmark_id: int, measure: str) -> list[RoundRow]:
    """A measure of every site over the rounds, the first first. Raises :class:`InvalidInput` for a measure that there is not."""
    if measure not in BY_ID:
        raise InvalidInput(f"There is no measure “{measure}”.", "Choose one by its id, as the benchmark lists them.", "measure")
    with work.reading() as session:
        return _history(_finished(session, fetch(session, Benchmark, benchmark_id, "benchmark")), measure)


def shares(result: RoundResult) -> list[ShareRow]:
    """Share of pages with each failing check, with its 95 % interval where the pages are a sample; the own site's largest first."""
    known = load()
    rows = []
    for check in dict.fromkeys(name for site in result.sites for name in site.failing_pages):
        shares: list[tuple[float, float, float] | None] = []
        for site in result.sites:
            failing = site.failing_pages.get(check)
            if not site.pages or failing is None:
                shares.append(None)
                continue
            share = failing / site.pages
            sampled = site.figures is not None and site.figures.sampled
            low, high = wilson(min(failing, site.pages), site.pages) if sampled else (share, share)
            shares.append((100 * share, 100 * low, 100 * high))
        if check in known and any(share and share[0] > 0 for share in shares):
            found = known[check].check
            rows.append(ShareRow(check=check, summary=found.summary, severity=found.severity, shares=shares))
    return sorted(rows, key=lambda r: (RANK[r.severity], -(r.shares[0][0] if r.shares[0] else 0)))


def _remarks(session: Session, row: Benchmark, since: date) -> list[list[LineRemark]]:
    """What was noted of each site since the first round."""
    ids = [row.site_id, *row.competitor_ids]
    by_site: dict[int, list[LineRemark]] = {site: [] for site in ids}
    chosen = select(Remark.site_id, Remark.day, Remark.text).where(Remark.site_id.in_(ids), Remark.day >= since)
    for site, day, text in session.execute(chosen.order_by(Remark.day, Remark.id)):
        by_site[site].append(LineRemark(day=day, text=text))
    return [by_site[site] for site in ids]


def _metrics(session: Session, row: Benchmark) -> list[MetricLine]:
    """The latest imported figure of every name, for every site that has it."""
    ids = [row.site_id, *row.competitor_ids]
    latest: dict[str, dict[int, Metric]] = {}
    for metric in session.scalars(select(Metric).where(Metric.site_id.in_(ids)).order_by(Metric.day)):
        latest.setdefault(metric.name, {})[metric.site_id] = metric
    return [
        MetricLine(
            name=name,
            values=[by_site[i].value if i in by_site else None for i in ids],
            day=max(m.day for m in by_site.values()),
            source=next(iter(by_site.values())).source,
        )
        for name, by_site in latest.items()
    ]
