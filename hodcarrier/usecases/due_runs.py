"""Runs that begin by themselves: those that schedules make due, and second attempts after one that failed."""

from __future__ import annotations

from contextlib import suppress
from datetime import datetime, timedelta

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict, HodcarrierError
from hodcarrier.core.states import RunPurpose, RunState
from hodcarrier.register.models import Run, Schedule, Site
from hodcarrier.usecases.runs import queue_in
from hodcarrier.usecases.schedules import following
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.runs import RunBrief

# What kept a site from answering may have passed by then.
RETRY_AFTER = timedelta(hours=1)


def queue_due_runs(work: Workspace) -> list[RunBrief]:
    """Queue a run for every schedule that is due, and for those whose run failed and is tried again now. One missed while the service was down is
    caught up once.

    A schedule's next time is moved by a conditional update, in the transaction that queues the run: whoever moves it queues it, and a crash
    between the two loses neither. A schedule that cannot be kept is set aside, and the others go on.
    """
    now = work.now()
    queued = _queue_retries(work, now)
    with work.reading() as session:
        in_use = select(Schedule.site_id, Schedule.next_due_at).join(Site).where(Schedule.paused_at.is_(None), ~Site.archived)
        due = session.execute(in_use.where(Schedule.next_due_at <= now)).all()
    for site_id, due_at in due:
        try:
            with work.session() as session:
                schedule = session.get(Schedule, site_id)
                if schedule is None or schedule.next_due_at != due_at:
                    continue
                schedule.next_due_at = following(schedule, now)
                schedule.retry_at = schedule.retry_of = None
                with suppress(Conflict):  # the site is being audited already
                    queued.append(queue_in(work, session, site_id, None, scheduled=True))
        except HodcarrierError as problem:
            _set_aside(work, site_id, due_at, str(problem))
    return queued


def _queue_retries(work: Workspace, now: datetime) -> list[RunBrief]:
    """Queue the second attempts that are due. None is made where the site has been audited since, or is now."""
    queued = []
    with work.reading() as session:
        waiting = select(Schedule.site_id).join(Site).where(Schedule.paused_at.is_(None), ~Site.archived)
        due = session.scalars(waiting.where(Schedule.retry_at <= now)).all()
    for site_id in due:
        with work.session() as session:
            schedule = session.get(Schedule, site_id)
            failed = session.get(Run, schedule.retry_of) if schedule is not None and schedule.retry_of else None
            if schedule is None or failed is None:
                continue
            schedule.retry_at = schedule.retry_of = None
            later = select(Run.id).where(Run.site_id == site_id, Run.purpose == RunPurpose.AUDIT, Run.sequence > failed.sequence)
            if failed.state == RunState.FAILED and session.scalar(later.limit(1)) is None:
                with suppress(Conflict):
                    queued.append(queue_in(work, session, site_id, None, scheduled=True, retry_of=failed.id))
    return queued


def try_again_later(session: Session, now: datetime, run: Run) -> datetime | None:
    """Let a scheduled run that failed be tried again, once; gives when, or ``None`` when it is not."""
    schedule = session.get(Schedule, run.site_id)
    if schedule is None or not run.scheduled or run.retry_of is not None or schedule.paused_at is not None:
        return None
    schedule.retry_at, schedule.retry_of = now + RETRY_AFTER, run.id
    return schedule.retry_at


def bring_back_schedules(work: Workspace) -> list[int]:
    """Set the next time of schedules anew that lie further away than their rule allows: the clock was ahead when they were moved.

    Gives the sites. One that is overdue stays so, and is caught up with; one that cannot be kept is left to :func:`queue_due_runs`.
    """
    now = work.now()
    moved = []
    with work.session() as session:
        for schedule in session.scalars(select(Schedule).where(Schedule.next_due_at > now)):
            try:
                due = following(schedule, now)
            except HodcarrierError:
                continue
            if due is not None and schedule.next_due_at is not None and schedule.next_due_at > due:
                schedule.next_due_at = due
                moved.append(schedule.site_id)
    return moved


def _set_aside(work: Workspace, site_id: int, due_at: datetime | None, problem: str) -> None:
    """A schedule that cannot be kept any more (its zone was taken away, its plan is damaged) waits for somebody to set it anew."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        set_aside = update(Schedule).where(Schedule.site_id == site_id, Schedule.next_due_at == due_at).values(next_due_at=None)
        session.execute(set_aside)
        log(session, work.now(), None, "schedule set aside", f"{site.host}: {problem}")
