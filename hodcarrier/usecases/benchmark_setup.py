"""Benchmarks set up, changed and taken away, and the rounds that begin by themselves."""

from __future__ import annotations

from contextlib import suppress
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict, HodcarrierError, InvalidInput, NotFound
from hodcarrier.core.states import ACTIVE_RUN, SiteKind
from hodcarrier.register.models import Benchmark, BenchmarkSchedule, Member, Run, Site
from hodcarrier.usecases.benchmarks import benchmark_brief, round_schedule_out, start_round_in
from hodcarrier.usecases.schedules import keep_rule, next_time
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.benchmarks import BenchmarkBody, BenchmarkBrief, BenchmarkChange, RoundSchedule, RoundScheduleBody


def add_benchmark(work: Workspace, body: BenchmarkBody, member: Member | None) -> BenchmarkBrief:
    """Set up a benchmark of one own site against one to ten competitors."""
    with work.session() as session:
        site = fetch(session, Site, body.site_id, "site")
        if site.kind != SiteKind.OWN:
            raise InvalidInput(f"{site.host} is a competitor itself.", "Name one of the client's own sites.", "site_id")
        _check_competitors(session, site.id, body.competitor_ids)
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


def _check_competitors(session: Session, own: int, competitors: list[int]) -> None:
    for competitor in competitors:
        fetch(session, Site, competitor, "site")
    if own in competitors or len(set(competitors)) < len(competitors):
        raise InvalidInput("A site cannot stand against itself.", "Name each competitor once.", "competitor_ids")


def change_benchmark(work: Workspace, benchmark_id: int, body: BenchmarkChange, member: Member) -> BenchmarkBrief:
    """Change what is given. Rounds that have ended stay as they were; the next one is of the new sites, under the new limits."""
    with work.session() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        if body.competitor_ids is not None:
            _check_competitors(session, row.site_id, body.competitor_ids)
            row.competitor_ids = body.competitor_ids
        row.pages_max = body.pages_max or row.pages_max
        row.rate_per_s = body.rate_per_s or row.rate_per_s
        with unless_taken(session, f"There is already a benchmark called {body.name}.", "Give another name."):
            row.name = body.name or row.name
        log(session, work.now(), member.id, "benchmark changed", row.name)
        return benchmark_brief(session, row)


def remove_benchmark(work: Workspace, benchmark_id: int, member: Member) -> None:
    """Take a benchmark away with its rounds. Raises :class:`Conflict` while one is running."""
    with work.session() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        running = select(Run.id).where(Run.round_id.in_([r.id for r in row.rounds]), Run.state.in_(ACTIVE_RUN)).limit(1)
        if session.scalar(running) is not None:
            raise Conflict(f"A round of {row.name} is running.", "Wait for it to end, or stop its runs.")
        log(session, work.now(), member.id, "benchmark removed", f"{row.name}, {len(row.rounds):,} rounds")
        session.delete(row)


def set_round_schedule(work: Workspace, benchmark_id: int, body: RoundScheduleBody, member: Member) -> RoundSchedule:
    """Set when rounds begin by themselves. Raises :class:`InvalidSchedule`."""
    now = work.now()
    with work.session() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        schedule = row.schedule or BenchmarkSchedule(benchmark_id=row.id)
        keep_rule(schedule, body.rule, body.at, body.zone, row.site.client, now)
        session.add(schedule)
        log(session, now, member.id, "round schedule set", row.name)
        return round_schedule_out(schedule)


def remove_round_schedule(work: Workspace, benchmark_id: int, member: Member) -> None:
    """Let rounds begin only when somebody asks for one. Raises :class:`NotFound` without a schedule."""
    with work.session() as session:
        row = fetch(session, Benchmark, benchmark_id, "benchmark")
        if row.schedule is None:
            raise NotFound(f"{row.name} has no schedule.", "There is nothing to remove.")
        session.delete(row.schedule)
        log(session, work.now(), member.id, "round schedule removed", row.name)


def start_due_rounds(work: Workspace) -> list[int]:
    """Start the rounds that are due; one that was missed while the service was down is caught up with once. Gives the ids of the benchmarks.

    The next time is moved in the transaction that queues the runs. A round with a site that still runs is left out, and a schedule that cannot
    be kept any more waits for somebody to set it anew.
    """
    now = work.now()
    with work.reading() as session:
        in_use = select(BenchmarkSchedule.benchmark_id, BenchmarkSchedule.next_due_at).join(Benchmark).join(Site)
        due = session.execute(in_use.where(BenchmarkSchedule.next_due_at <= now, ~Site.archived)).all()
    started = []
    for benchmark_id, due_at in due:
        with work.session() as session:
            schedule = session.get(BenchmarkSchedule, benchmark_id)
            row = session.get(Benchmark, benchmark_id)
            if schedule is None or row is None or schedule.next_due_at != due_at:
                continue
            schedule.next_due_at = _following(session, now, schedule, row)
            with suppress(Conflict):
                start_round_in(work, session, row, None)
                started.append(benchmark_id)
    return started


def _following(session: Session, now: datetime, schedule: BenchmarkSchedule, row: Benchmark) -> datetime | None:
    try:
        return next_time(schedule, row.site.client, now)
    except HodcarrierError as problem:
        log(session, now, None, "round schedule set aside", f"{row.name}: {problem}")
        return None
