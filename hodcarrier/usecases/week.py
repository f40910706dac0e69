"""The runs of some days: those that were, and those that schedules plan."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import UTC, date, datetime, time, timedelta

from sqlalchemy import ColumnElement, select
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.errors import InvalidInput, InvalidSchedule
from hodcarrier.core.schedule import read_recurrence
from hodcarrier.core.states import IN_LINE, RunPurpose
from hodcarrier.register.models import Benchmark, BenchmarkSchedule, ByRule, Client, Run, Schedule, Site, SiteState
from hodcarrier.usecases.run_brief import BRIEF
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.week import BlackoutDay, WeekOut, WeekRun

DAYS_MAX = 35
RUNS_MAX = 5_000


def get_week(work: Workspace, start: date | None = None, days: int = 7, client_id: int | None = None) -> WeekOut:
    """The runs of so many days from ``start`` on (default: Monday of this week), in UTC, the earliest first: runs that began, and from now on
    those that are planned. Raises :class:`InvalidInput` for a span that is too long."""
    now = work.now()
    if not 1 <= days <= DAYS_MAX:
        raise InvalidInput(f"{days} days cannot be shown.", f"Ask for 1 to {DAYS_MAX}.", "days")
    first = start or now.date() - timedelta(days=now.date().weekday())
    begins = datetime.combine(first, time(), UTC)
    try:
        ends = begins + timedelta(days=days)
    except OverflowError:
        raise InvalidInput(f"The days after {first} cannot be shown.", "Give an earlier day.", "from") from None
    with work.reading() as session:
        of_client = [Site.client_id == client_id] if client_id is not None else [~Site.archived]
        rows = session.execute(
            select(*BRIEF, Client.name.label("client_name"))
            .join(Site, Site.id == Run.site_id)
            .join(Client, Client.id == Site.client_id)
            .where(Run.purpose.in_(IN_LINE), Run.requested_at >= begins, Run.requested_at < ends, *of_client)
            .order_by(Run.requested_at)
            .limit(RUNS_MAX)
        )
        runs = [
            WeekRun(
                site_id=row.site_id,
                host=row.site_host,
                client_name=row.client_name,
                at=row.requested_at,
                run_id=row.id,
                state=row.state,
                reason=row.reason,
                health=row.health,
                scheduled=row.scheduled,
                benchmark=row.purpose == RunPurpose.BENCHMARK,
                minutes=_minutes(row.started_at, row.finished_at),
            )
            for row in rows
        ]
        chosen = (
            select(Schedule, SiteState.done_id)
            .select_from(Schedule)
            .join(Site)
            .outerjoin(SiteState, SiteState.site_id == Site.id)
            .where(*of_client)
        )
        schedules = session.execute(chosen.options(joinedload(Schedule.site).joinedload(Site.client))).all()
        lasted = _lasted(session, [done for _, done in schedules])
        for schedule, done in schedules:
            runs += _planned(schedule, max(begins, now), ends, lasted.get(done))
        runs += _planned_rounds(session, max(begins, now), ends, of_client)
        blackout = _blackout(session, first, days, client_id)
    runs.sort(key=lambda run: (run.at, run.host))
    return WeekOut(start=first, days=days, now=now, runs=runs, blackout=blackout)


def _minutes(started: datetime | None, finished: datetime | None) -> float | None:
    return (finished - started).total_seconds() / 60 if started is not None and finished is not None else None


def _lasted(session: Session, run_ids: Sequence[str | None]) -> dict[str | None, float | None]:
    """How many minutes runs took, by their ids."""
    rows = session.execute(select(Run.id, Run.started_at, Run.finished_at).where(Run.id.in_([i for i in run_ids if i])))
    return {row.id: _minutes(row.started_at, row.finished_at) for row in rows}


def _planned(schedule: Schedule, after: datetime, ends: datetime, minutes: float | None) -> Iterator[WeekRun]:
    """When a schedule starts runs between two moments. One that cannot be kept plans none."""
    site = schedule.site
    moments = [schedule.retry_at] if schedule.retry_at is not None and after <= schedule.retry_at < ends else []
    for moment in [*moments, *_moments(schedule, site.client, after, ends)]:
        yield WeekRun(
            site_id=site.id,
            host=site.host,
            client_name=site.client.name,
            at=moment,
            scheduled=True,
            paused=schedule.paused_at is not None,
            retry=moment == schedule.retry_at,
            minutes=minutes,
        )


def _planned_rounds(
    session: Session, after: datetime, ends: datetime, of_client: Sequence[ColumnElement[bool]]
) -> Iterator[WeekRun]:
    """The runs of the rounds that benchmarks start by themselves between two moments."""
    chosen = select(Benchmark).join(BenchmarkSchedule).join(Site, Site.id == Benchmark.site_id).where(*of_client)
    loaded = chosen.options(joinedload(Benchmark.schedule), joinedload(Benchmark.site).joinedload(Site.client))
    rows = session.scalars(loaded).all()
    sites = {site for row in rows for site in (row.site_id, *row.competitor_ids)}
    hosts = dict(session.execute(select(Site.id, Site.host).where(Site.id.in_(sites))).all()) if sites else {}
    for row in rows:
        client = row.site.client
        for moment in _moments(row.schedule, client, after, ends) if row.schedule else ():
            for site in (row.site_id, *row.competitor_ids):
                if site in hosts:
                    yield WeekRun(
                        site_id=site, host=hosts[site], client_name=client.name, at=moment, scheduled=True, benchmark=True
                    )


def _moments(schedule: ByRule, client: Client, after: datetime, ends: datetime) -> Iterator[datetime]:
    """When a schedule falls due between two moments, but for the days that its client rules out. One that cannot be kept never does."""
    blackout = client.blackout_dates
    try:
        recurrence = read_recurrence(schedule.rule, schedule.at, schedule.zone, schedule.anchor)
        # What is due already starts with the next look of the supervisor.
        due = schedule.next_due_at
        if due is not None and due < after:
            due = recurrence.next_due(after, blackout)
        while due is not None and due < ends:
            yield due
            due = recurrence.next_due(due, blackout)
    except InvalidSchedule:
        return


def _blackout(session: Session, first: date, days: int, client_id: int | None) -> list[BlackoutDay]:
    chosen = select(Client).where(Client.id == client_id if client_id is not None else Client.archived_at.is_(None))
    last = first + timedelta(days=days - 1)
    return [
        BlackoutDay(day=day, client_name=client.name)
        for client in session.scalars(chosen.order_by(Client.name))
        for day in map(date.fromisoformat, client.blackout_days)
        if first <= day <= last
    ]
