"""Runs: asked for, claimed by workers, stopped, gone on with.

What must hold at any moment is held by the database: one active run of a purpose for a site is a unique index, and a claim is a
conditional update, so that two services and any number of threads agree.
"""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from dataclasses import asdict, replace
from datetime import datetime, timedelta
from typing import Any

import msgspec
from sqlalchemy import delete, exists, func, select, update
from sqlalchemy.orm import Session, aliased

from hodcarrier.core.errors import Conflict
from hodcarrier.core.plan import Plan, plan_values, read_plan
from hodcarrier.core.progress import Progress
from hodcarrier.core.states import ACTIVE_RUN, CLAIMED_RUN, Appearance, RunPurpose, RunState
from hodcarrier.register.models import Member, Run, RunProgress, Site
from hodcarrier.usecases.profiles import judged_plan
from hodcarrier.usecases.run_brief import BRIEF, run_brief
from hodcarrier.usecases.site_states import health_change, update_site_state
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.base import Listed
from hodcarrier.wire.runs import RunBrief, RunOut

_ASKED_OF = {RunPurpose.RE_EXAMINATION: "examined", RunPurpose.USER_AGENT: "fetched with another user agent"}
LEASE = timedelta(seconds=60)
EXAMINATION_MAX_S = 2 * 3600


def queue_run(
    work: Workspace,
    site_id: int,
    member: Member | None = None,
    *,
    purpose: RunPurpose = RunPurpose.AUDIT,
    round_id: int | None = None,
    plan: dict[str, Any] | None = None,
    at: datetime | None = None,
) -> RunBrief:
    """Ask for a run of a site. Raises :class:`Conflict` while one of the same purpose waits or runs.

    ``at`` shifts the run's clock to that moment (for histories that are audited afterwards).
    """
    with work.session() as session:
        return queue_in(work, session, site_id, member, purpose, round_id, plan, at)


def queue_in(
    work: Workspace,
    session: Session,
    site_id: int,
    member: Member | None,
    purpose: RunPurpose = RunPurpose.AUDIT,
    round_id: int | None = None,
    plan: dict[str, Any] | None = None,
    at: datetime | None = None,
    *,
    scheduled: bool = False,
    retry_of: str | None = None,
    appearance: Appearance | None = None,
) -> RunBrief:
    """Ask for a run in a transaction of the caller, with another user agent than the plan's where one is given. Raises what :func:`queue_run` raises."""
    now = work.now()
    site = fetch(session, Site, site_id, "site")
    if site.archived:
        raise Conflict(f"{site.client.name} is archived, so {site.host} is not audited.", "Restore the client first.")
    asked = _plan_for(site.plan, plan) if plan else judged_plan(site)
    run = Run(
        scheduled=scheduled,
        retry_of=retry_of,
        id=secrets.token_hex(5),
        site_id=site_id,
        state=RunState.QUEUED,
        purpose=purpose,
        appearance=appearance,
        round_id=round_id,
        plan=replace(asked, appearance=appearance) if appearance else asked,
        requested_at=at or now,
        clock_offset_s=(at - now).total_seconds() if at else 0.0,
    )
    activate(session, site, run)
    subject = f"{site.host}, user agent {appearance}" if appearance else site.host
    log(session, now, member.id if member else None, "run queued", subject)
    return run_brief(run)


def _plan_for(plan: Plan, changes: dict[str, Any]) -> Plan:
    return read_plan({**plan_values(plan), **changes})


def activate(session: Session, site: Site, run: Run) -> None:
    """Let a run wait in the queue. Raises :class:`Conflict` naming the one that is active already."""
    try:
        with unless_taken(session, "", ""):
            session.add(run)
    except Conflict:
        busy = session.execute(
            select(Run.id, Run.state).where(Run.site_id == site.id, Run.purpose == run.purpose, Run.state.in_(ACTIVE_RUN))
        ).first()
        which = f" (run {busy.id}, {busy.state})" if busy else ""
        what = _ASKED_OF.get(run.purpose, "audited")
        raise Conflict(f"{site.host} is being {what} already{which}.", "Wait for it, or stop it.") from None


# -- claims ------------------------------------------------------------------------------------------------------


def claim_run(work: Workspace, worker_id: str) -> str | None:
    """Claim the run that has waited longest and whose site is not being fetched now; gives its id.

    One statement does it: of several who ask at once, each gets another run or none.
    """
    other = aliased(Run)
    waiting = aliased(Run)
    busy = exists().where(other.site_id == waiting.site_id, other.state.in_(CLAIMED_RUN))
    chosen = (
        select(waiting.id).where(waiting.state == RunState.QUEUED, ~busy).order_by(waiting.sequence).limit(1).scalar_subquery()
    )
    claimed = (
        update(Run)
        .where(Run.id == chosen, Run.state == RunState.QUEUED)
        .values(state=RunState.CRAWLING, worker_id=worker_id, lease_until=work.now() + LEASE)
        .returning(Run.id)
        .execution_options(synchronize_session=False)
    )
    with work.session() as session:
        return session.scalar(claimed)


def renew_claim(work: Workspace, run_id: str, worker_id: str) -> bool:
    """Keep a claim for another while. Returns whether it still is the worker's."""
    kept = (
        update(Run)
        .where(Run.id == run_id, Run.worker_id == worker_id, Run.state.in_(CLAIMED_RUN))
        .values(lease_until=work.now() + LEASE)
        .returning(Run.id)
    )
    with work.session() as session:
        return session.scalar(kept) is not None


def release_run(work: Workspace, run_id: str, worker_id: str) -> bool:
    """Put a claimed run back into the queue, to be gone on with. Returns whether it still was the worker's."""
    put_back = (
        update(Run)
        .where(Run.id == run_id, Run.worker_id == worker_id, Run.state.in_(CLAIMED_RUN))
        .values(state=RunState.QUEUED, worker_id=None, lease_until=None)
        .returning(Run.id)
    )
    with work.session() as session:
        return session.scalar(put_back) is not None


def take_over_lapsed(work: Workspace) -> list[str]:
    """Put runs back into the queue whose worker has not renewed its claim in time; gives their ids."""
    with work.reading() as session:
        lapsed = session.execute(
            select(Run.id, Run.worker_id).where(
                Run.state.in_(CLAIMED_RUN), (Run.lease_until < work.now()) | Run.lease_until.is_(None)
            )
        ).all()
    return [run_id for run_id, worker in lapsed if _put_back(work, run_id, worker)]


def take_over_idle(work: Workspace) -> list[str]:
    """Put claimed runs back into the queue whose file nobody writes: their workers ended with the service that started them."""
    with work.reading() as session:
        claimed = session.execute(select(Run.id, Run.worker_id).where(Run.state.in_(CLAIMED_RUN))).all()
    idle = []
    for run_id, worker in claimed:
        with work.store.hold(run_id) as free:
            if free and _put_back(work, run_id, worker):
                idle.append(run_id)
    return idle


def _put_back(work: Workspace, run_id: str, worker_id: str | None) -> bool:
    with work.session() as session:
        found = session.scalar(
            update(Run)
            .where(Run.id == run_id, Run.worker_id.is_(worker_id) if worker_id is None else Run.worker_id == worker_id)
            .where(Run.state.in_(CLAIMED_RUN))
            .values(state=RunState.QUEUED, worker_id=None, lease_until=None)
            .returning(Run.id)
        )
        return found is not None


def which_are_there(work: Workspace, run_ids: Sequence[str]) -> set[str]:
    """Those of the runs that there still are: one may have been removed with its site."""
    with work.reading() as session:
        return set(session.scalars(select(Run.id).where(Run.id.in_(run_ids))))


def time_limits_s(work: Workspace, run_ids: Sequence[str]) -> dict[str, float]:
    """Of runs that there still are, how many seconds a worker may take: for the crawl, and to examine what it brought."""
    with work.reading() as session:
        plans = session.execute(select(Run.id, Run.plan).where(Run.id.in_(run_ids))).all()
    return {run_id: plan.time_max_s + EXAMINATION_MAX_S for run_id, plan in plans}


def note_examining(work: Workspace, run_id: str) -> None:
    """Note that a run's crawl has ended and that it is being examined."""
    with work.session() as session:
        session.execute(update(Run).where(Run.id == run_id, Run.state == RunState.CRAWLING).values(state=RunState.EXAMINING))


def count_attempt(work: Workspace, run_id: str) -> int:
    """Count a worker that broke off; gives how many have by now."""
    with work.session() as session:
        return session.scalar(update(Run).where(Run.id == run_id).values(attempts=Run.attempts + 1).returning(Run.attempts)) or 0


# -- progress and stopping ---------------------------------------------------------------------------------------


def tell_progress(work: Workspace, run_id: str, progress: Progress) -> None:
    """Keep how far a run has come."""
    with work.session() as session:
        if session.get(Run, run_id) is not None:
            session.merge(RunProgress(run_id=run_id, at=work.now(), figures=asdict(progress)))


def read_progress(session: Session, run_id: str) -> Progress | None:
    """How far a run has come; ``None`` before its first batch."""
    row = session.get(RunProgress, run_id)
    return msgspec.convert(row.figures, Progress) if row else None


def is_stop_requested(work: Workspace, run_id: str) -> bool:
    """Whether somebody asked a run to stop."""
    with work.reading() as session:
        return session.scalar(select(Run.stop_requested_at).where(Run.id == run_id)) is not None


def stop_run(work: Workspace, run_id: str, member: Member) -> RunState:
    """Ask a run to stop. One that has not begun never does; any other is examined as far as it came. Returns its state.

    The wish is kept in the register, so that neither a worker that is just starting nor a restart of the service loses it.
    """
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        if run.state not in ACTIVE_RUN:
            raise Conflict(f"Run {run_id} is {run.state} already.", "There is nothing to stop.")
        log(session, work.now(), member.id, "run stopped", run.site.host)
        if not work.store.has_part(run_id):
            never_began = session.scalar(
                update(Run)
                .where(Run.id == run_id, Run.state == RunState.QUEUED)
                .values(state=RunState.STOPPED, reason="Stopped before it began.", finished_at=work.now())
                .returning(Run.id)
            )
            if never_began:
                return RunState.STOPPED
        run.stop_requested_at = work.now()
        return run.state


def resume_run(work: Workspace, run_id: str, member: Member) -> RunBrief:
    """Let a run that broke off go on from its last batch. Raises :class:`Conflict` when there is nothing to go on with."""
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        if run.state != RunState.FAILED or not work.store.has_part(run_id):
            raise Conflict(f"Run {run_id} is {run.state} and cannot go on.", "Start a new one with `hodcarrier run start SITE`.")
        site = run.site
        run.state, run.reason, run.finished_at = RunState.QUEUED, "", None
        run.stop_requested_at, run.attempts, run.worker_id, run.lease_until = None, 0, None, None
        activate(session, site, run)
        update_site_state(session, site)
        log(session, work.now(), member.id, "run goes on", site.host)
        return run_brief(run)


# -- reading -----------------------------------------------------------------------------------------------------


def list_runs(
    work: Workspace, site_id: int | None = None, purpose: RunPurpose | None = None, limit: int = 100, after: int = 0
) -> Listed[RunBrief]:
    """Runs, the latest first, a part at a time; ``after`` is the sequence of the last run of the part before."""
    with work.reading() as session:
        chosen = select(*BRIEF).join(Site)
        if site_id is not None:
            fetch(session, Site, site_id, "site")
            chosen = chosen.where(Run.site_id == site_id)
        if purpose:
            chosen = chosen.where(Run.purpose == purpose)
        total = session.scalar(chosen.with_only_columns(func.count())) or 0
        if after:
            chosen = chosen.where(Run.sequence < after)
        rows = session.execute(chosen.order_by(Run.sequence.desc()).limit(limit + 1)).all()
        items = [run_brief(run) for run in rows[:limit]]
    return Listed(items=items, total=total, after=str(rows[limit - 1].sequence) if len(rows) > limit else None)


def get_run(work: Workspace, run_id: str) -> RunOut:
    """A run in full; ``latest`` is resolved by the caller."""
    with work.reading() as session:
        run = fetch(session, Run, run_id, "run")
        base = session.get(Run, run.base_id) if run.base_id else None
        source = session.get(Run, run.source_id) if run.source_id else None
        return RunOut(
            **run_brief(run).model_dump(),
            client_name=run.site.client.name,
            base_id=base.id if base else None,
            base_at=base.requested_at if base else None,
            source_at=source.requested_at if source else None,
            health_change=health_change(run, base),
            summary=run.summary,
            changes=run.changes,
            progress=read_progress(session, run_id) if run.state in ACTIVE_RUN else None,
            plan=run.plan,
        )


def forget_progress(session: Session, run_id: str) -> None:
    """Progress is of no use when a run has ended."""
    session.execute(delete(RunProgress).where(RunProgress.run_id == run_id))
