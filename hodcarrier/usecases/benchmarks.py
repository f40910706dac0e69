"""Benchmarks: rounds of runs over an own site and its competitors, under one plan."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.benchmark import compare_sites, sentences, wilson
from hodcarrier.core.catalogue import load
from hodcarrier.core.errors import Conflict, InvalidInput
from hodcarrier.core.health import RANK
from hodcarrier.register.models import Benchmark, BenchmarkRound, Member, Metric, Run, Site
from hodcarrier.usecases.runs import ACTIVE, queue_run
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.work import BenchmarkBody, BenchmarkBrief, BenchmarkOut, BenchmarkRow, ShareRow


def add_benchmark(work: Workspace, body: BenchmarkBody, member: Member | None) -> BenchmarkBrief:
    """Set up a benchmark of one own site against one to ten competitors."""
    with work.session() as session:
        site = fetch(session, Site, body.site_id, "site")
        if site.kind != "own":
            raise InvalidInput(f"{site.host} is a competitor itself.", "Name one of the client's own sites.", "site_id")
        if session.scalar(select(Benchmark).where(Benchmark.name == body.name)):
            raise Conflict(f"There is already a benchmark called {body.name}.", "Give another name.")
        for competitor in body.competitor_ids:
            fetch(session, Site, competitor, "site")
        if site.id in body.competitor_ids or len(set(body.competitor_ids)) < len(body.competitor_ids):
            raise InvalidInput("A site cannot stand against itself.", "Name each competitor once.", "competitor_ids")
        row = Benchmark(
            name=body.name, site_id=site.id, competitor_ids=body.competitor_ids, pages_max=body.pages_max, created_at=work.now()
        )
        session.add(row)
        session.flush()
        log(session, work.now(), member.id if member else None, "benchmark added", body.name)
        return _brief(session, row)


def start_round(work: Workspace, benchmark_id: int, member: Member | None = None, at: datetime | None = None) -> int:
    """Queue a run of every site under the common plan (catalogue defaults, one page limit). Returns the round's id."""
    with work.session() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        sites = [row.site_id, *row.competitor_ids]
        if session.scalar(select(Run).where(Run.site_id.in_(sites), Run.purpose == "benchmark", Run.state.in_(ACTIVE))):
            raise Conflict("A round with one of these sites is still running.", "Wait for it to end.")
        fresh = BenchmarkRound(benchmark_id=row.id, requested_at=at or work.now())
        session.add(fresh)
        session.flush()
        round_id, common = fresh.id, {"pages_max": row.pages_max, "thresholds": {}, "checks_off": []}
        log(session, work.now(), member.id if member else None, "round started", row.name)
    for site_id in sites:
        queue_run(work, site_id, member, purpose="benchmark", round_id=round_id, plan=common, at=at)
    return round_id


def list_benchmarks(work: Workspace) -> list[BenchmarkBrief]:
    """All benchmarks by name."""
    with work.session() as session:
        return [_brief(session, row) for row in session.scalars(select(Benchmark).order_by(Benchmark.name))]


def _brief(session: Session, row: Benchmark) -> BenchmarkBrief:
    hosts = _hosts(session, row)
    finished = _finished(session, row)
    rank = None
    if finished:
        rows = compare_sites([_figures(run) for run in finished[-1][1]])
        rank = next((r.ranks[0] for r in rows if r.measure.id == "health"), None)
    return BenchmarkBrief(
        id=row.id, name=row.name, site_id=row.site_id, site_host=hosts[0], competitors=hosts[1:], rounds=len(finished), rank=rank
    )


def _hosts(session: Session, row: Benchmark) -> list[str]:
    hosts = {s.id: s.host for s in session.scalars(select(Site).where(Site.id.in_([row.site_id, *row.competitor_ids])))}
    return [hosts.get(i, "removed site") for i in (row.site_id, *row.competitor_ids)]


def _finished(session: Session, row: Benchmark) -> list[tuple[BenchmarkRound, list[Run | None]]]:
    """Rounds of which every run has ended and the own one is done, with the runs in the order of the sites."""
    found: list[tuple[BenchmarkRound, list[Run | None]]] = []
    for round_row in row.rounds:
        runs = {r.site_id: r for r in session.scalars(select(Run).where(Run.round_id == round_row.id))}
        if any(r.state in ACTIVE for r in runs.values()):
            continue
        ordered = [runs.get(i) if i in runs and runs[i].state == "done" else None for i in (row.site_id, *row.competitor_ids)]
        if ordered[0] is not None:
            found.append((round_row, ordered))
    return found


def _figures(run: Run | None) -> dict[str, float | None]:
    return dict((run.summary or {}).get("measures", {})) if run else {}


def get_benchmark(work: Workspace, benchmark_id: int) -> BenchmarkOut:
    """The latest finished round of a benchmark: measures with ranks and gaps, shares of pages, sentences."""
    with work.session() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        brief, hosts, finished = _brief(session, row), _hosts(session, row), _finished(session, row)
        running = len(row.rounds) > len(finished) and session.scalar(
            select(Run).where(Run.round_id.in_([r.id for r in row.rounds]), Run.state.in_(ACTIVE))
        )
        state = "running" if running else ("done" if finished else "no round yet")
        runs: list[Run | None] = finished[-1][1] if finished else [None] * len(hosts)
        table = compare_sites([_figures(run) for run in runs])
        history: list[dict[str, Any]] = []
        for round_row, ordered in finished:
            ranks = {r.measure.id: list(r.ranks) for r in compare_sites([_figures(run) for run in ordered])}
            healths = [run.health if run else None for run in ordered]
            history.append({"at": round_row.requested_at.isoformat(), "ranks": ranks.get("health", []), "health": healths})
        return BenchmarkOut(
            **brief.model_dump(),
            hosts=hosts,
            at=finished[-1][0].requested_at if finished else None,
            pages_max=row.pages_max,
            state=state,
            pages=[(run.summary or {}).get("pages_scored") if run else None for run in runs],
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
            shares=_shares(runs),
            sentences=sentences(table, hosts),
            metrics=_metrics(session, row),
            rank_history=history,
        )


def _shares(runs: list[Run | None]) -> list[ShareRow]:
    """Share of pages with each failing check, with its 95 % interval; the own site's largest first."""
    rows = []
    for check, entry in load().items():
        shares: list[tuple[float, float, float] | None] = []
        for run in runs:
            summary = (run.summary or {}) if run else {}
            total, figures = summary.get("pages_scored") or 0, summary.get("checks", {}).get(check)
            if not total or figures is None or entry.check.subject == "site":
                shares.append(None)
                continue
            low, high = wilson(min(figures["pages"], total), total)
            shares.append((100 * figures["pages"] / total, 100 * low, 100 * high))
        if any(share and share[0] > 0 for share in shares):
            rows.append(ShareRow(check=check, summary=entry.check.summary, severity=entry.check.severity, shares=shares))
    return sorted(rows, key=lambda r: (RANK[r.severity], -(r.shares[0][0] if r.shares[0] else 0)))


def _metrics(session: Session, row: Benchmark) -> list[dict[str, Any]]:
    """The latest imported figure of every name, for every site that has it."""
    ids = [row.site_id, *row.competitor_ids]
    latest: dict[str, dict[int, Metric]] = {}
    for metric in session.scalars(select(Metric).where(Metric.site_id.in_(ids)).order_by(Metric.day)):
        latest.setdefault(metric.name, {})[metric.site_id] = metric
    return [
        {
            "name": name,
            "values": [by_site[i].value if i in by_site else None for i in ids],
            "day": max(m.day for m in by_site.values()).isoformat(),
            "source": next(iter(by_site.values())).source,
        }
        for name, by_site in latest.items()
    ]
