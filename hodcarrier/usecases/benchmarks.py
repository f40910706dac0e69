"""Benchmarks: rounds of runs over an own site and its competitors, under one plan."""

from __future__ import annotations

from dataclasses import asdict
from datetime import date, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, undefer

from hodcarrier.core.catalogue import Subject, load
from hodcarrier.core.errors import Conflict, InvalidInput
from hodcarrier.core.judge.areas import comparable
from hodcarrier.core.judge.benchmark import RoundState, Row, compare_sites, sentences, wilson
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.plan import Plan, plan_values
from hodcarrier.core.states import ACTIVE_RUN, RunPurpose, SiteKind
from hodcarrier.core.summary import RoundResult, RoundSite
from hodcarrier.register.models import Benchmark, BenchmarkRound, Member, Metric, Remark, Run, Site
from hodcarrier.usecases.runs import queue_run
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run, log, unless_taken
from hodcarrier.wire.benchmarks import BenchmarkBody, BenchmarkBrief, BenchmarkOut, BenchmarkRow, MetricLine, RoundRow, ShareRow
from hodcarrier.wire.remarks import LineRemark


def add_benchmark(work: Workspace, body: BenchmarkBody, member: Member | None) -> BenchmarkBrief:
    """Set up a benchmark of one own site against one to ten competitors."""
    with work.session() as session:
        site = fetch(session, Site, body.site_id, "site")
        if site.kind != SiteKind.OWN:
            raise InvalidInput(f"{site.host} is a competitor itself.", "Name one of the client's own sites.", "site_id")
        for competitor in body.competitor_ids:
            fetch(session, Site, competitor, "site")
        if site.id in body.competitor_ids or len(set(body.competitor_ids)) < len(body.competitor_ids):
            raise InvalidInput("A site cannot stand against itself.", "Name each competitor once.", "competitor_ids")
        row = Benchmark(
            name=body.name,
            site_id=site.id,
            competitor_ids=body.competitor_ids,
            pages_max=body.pages_max,
            rate_per_s=body.rate_per_s,
            created_at=work.now(),
        )
        with unless_taken(session, f"There is already a benchmark called {body.name}.", "Give another name."):
            session.add(row)
        log(session, work.now(), member.id if member else None, "benchmark added", body.name)
        return benchmark_brief(session, row)


def start_round(work: Workspace, benchmark_id: int, member: Member | None = None, at: datetime | None = None) -> int:
    """Queue a run of every site under the common plan (catalogue defaults, one page limit). Returns the round's id."""
    with work.session() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        if row.site.archived:
            raise Conflict(f"{row.site.client.name} is archived.", "Restore the client first.")
        sites = [row.site_id, *row.competitor_ids]
        if session.scalar(
            select(Run).where(Run.site_id.in_(sites), Run.purpose == RunPurpose.BENCHMARK, Run.state.in_(ACTIVE_RUN))
        ):
            raise Conflict("A round with one of these sites is still running.", "Wait for it to end.")
        fresh = BenchmarkRound(benchmark_id=row.id, requested_at=at or work.now())
        session.add(fresh)
        session.flush()
        round_id = fresh.id
        plans = {site.id: _common_plan(site, row) for site in session.scalars(select(Site).where(Site.id.in_(sites)))}
        log(session, work.now(), member.id if member else None, "round started", row.name)
    for site_id in sites:
        queue_run(work, site_id, member, purpose=RunPurpose.BENCHMARK, round_id=round_id, plan=plans[site_id], at=at)
    return round_id


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
        rank = next((r.ranks[0] for r in _rows(finished[-1][1]) if r.measure.id == "health"), None)
    return BenchmarkBrief(
        id=row.id, name=row.name, site_id=row.site_id, site_host=hosts[0], competitors=hosts[1:], rounds=len(finished), rank=rank
    )


def _hosts(session: Session, row: Benchmark) -> list[str]:
    hosts = {s.id: s.host for s in session.scalars(select(Site).where(Site.id.in_([row.site_id, *row.competitor_ids])))}
    return [hosts.get(i, "removed site") for i in (row.site_id, *row.competitor_ids)]


def keep_result(session: Session, round_id: int) -> None:
    """Keep the result of a round whose runs have all ended: it stays when runs or sites are removed."""
    round_row = session.get_one(BenchmarkRound, round_id)
    round_row.result = _result(session, session.get_one(Benchmark, round_row.benchmark_id), round_row)


def _result(session: Session, row: Benchmark, round_row: BenchmarkRound) -> RoundResult:
    runs = {r.site_id: r for r in session.scalars(select(Run).where(Run.round_id == round_row.id).options(undefer(Run.summary)))}
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
                measures=summary.measures if summary else None,
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
        if result.sites[0].measures is not None:
            found.append((round_row, result))
    return found


def _rows(result: RoundResult) -> list[Row]:
    """The measures of a round. A site of which too little could be examined is shown and takes no rank."""
    figures = [asdict(site.measures) if site.measures else {} for site in result.sites]
    return compare_sites(figures, unranked=[i for i, site in enumerate(result.sites) if _is_thin(site)])


def _is_thin(site: RoundSite) -> bool:
    found = site.measures
    return found is not None and bool(found.known) and not comparable(found.documents, found.known or 0, found.documents)


def _thin_words(site: RoundSite) -> str:
    found = site.measures
    examined = f"{found.documents:,} of its {found.known:,} known pages" if found else "none of its pages"
    return f"{site.host} takes no rank: only {examined} could be examined."


def get_benchmark(work: Workspace, benchmark_id: int) -> BenchmarkOut:
    """The latest finished round of a benchmark: measures with ranks and gaps, shares of pages, sentences."""
    with work.reading() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        brief, hosts, finished = benchmark_brief(session, row), _hosts(session, row), _finished(session, row)
        running = len(row.rounds) > len(finished) and session.scalar(
            select(Run.id).where(Run.round_id.in_([r.id for r in row.rounds]), Run.state.in_(ACTIVE_RUN)).limit(1)
        )
        last = finished[-1][1] if finished else RoundResult([RoundSite(0, host, "", None, None) for host in hosts])
        table = _rows(last)
        audit = latest_run(session, fetch(session, Site, row.site_id, "site"))
        history = []
        for round_row, result in finished:
            ranks = {r.measure.id: list(r.ranks) for r in _rows(result)}
            healths = [site.measures.health if site.measures else None for site in result.sites]
            history.append(RoundRow(at=round_row.requested_at, ranks=ranks.get("health", []), health=healths))
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
            rows=[
                BenchmarkRow(
                    id=r.measure.id,
                    name=r.measure.name,
                    unit=r.measure.unit,
                    high_is_good=r.measure.high_is_good,
                    values=list(r.values),
                    ranks=list(r.ranks),
                    gap_to_best=r.gap_to_best,
                    gap_to_median=r.gap_to_median,
                )
                for r in table
            ],
            shares=shares(last),
            sentences=sentences(table, hosts),
            metrics=_metrics(session, row),
            rank_history=history,
            remarks=_remarks(session, row, finished[0][0].requested_at.date() if finished else work.now().date()),
        )


def shares(result: RoundResult) -> list[ShareRow]:
    """Share of pages with each failing check, with its 95 % interval; the own site's largest first."""
    known = load()
    rows = []
    for check in dict.fromkeys(name for site in result.sites for name in site.failing_pages):
        shares: list[tuple[float, float, float] | None] = []
        for site in result.sites:
            failing = site.failing_pages.get(check)
            if not site.pages or failing is None:
                shares.append(None)
                continue
            low, high = wilson(min(failing, site.pages), site.pages)
            shares.append((100 * failing / site.pages, 100 * low, 100 * high))
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
