"""From a claimed run to its end: what its worker is to do, the summary taken in, to-dos judged, people told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import DamagedRun
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.plan import Plan, check_patterns
from hodcarrier.core.states import ACTIVE_RUN, IN_LINE, Change, ComparedList, FileState, RunPurpose, RunState
from hodcarrier.core.summary import SUMMARY, Event, RunChanges, RunEnd
from hodcarrier.core.words import fill, signed
from hodcarrier.register.models import EXAMINED, Run, Schedule, WaiverRow
from hodcarrier.runfile.comparison import Classed
from hodcarrier.runfile.site_figures import site_figures
from hodcarrier.usecases import alerts, benchmarks, outbox, plans, remarks, todo_runs
from hodcarrier.usecases.announcements import announce_comparison, announce_run
from hodcarrier.usecases.comparisons import compared
from hodcarrier.usecases.due_runs import try_again_later
from hodcarrier.usecases.runs import forget_progress
from hodcarrier.usecases.site_states import health_change, set_headline, update_site_state
from hodcarrier.usecases.waiver_scopes import understood, waiver_value
from hodcarrier.usecases.workspace import Workspace, fetch


@dataclass(frozen=True)
class Job:
    """What a worker needs to do one run. ``access`` opens a site that is not public; it is never written anywhere. ``notices`` are
    what its reader must be told. ``source_id`` is the run whose facts are judged anew instead of fetching any."""

    run_id: str
    host: str
    plan: Plan
    base_id: str | None
    waivers: Sequence[Waiver]
    clock_offset_s: float
    access: dict[str, Any] | None
    notices: Sequence[str] = ()
    source_id: str | None = None


def begin_run(work: Workspace, run_id: str) -> Job:
    """Note that a claimed run begins, or goes on, and say what there is to do.

    Raises :class:`InvalidPlan` when a pattern of its plan, stored by an older release, is understood no more; a waiver like that covers nothing.
    """
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        check_patterns(run.plan)
        again = run.purpose == RunPurpose.RE_EXAMINATION
        base = _base_of_source(session, run) if again else _base_of(session, run)
        if not again:
            run.base_id = base.id if base else None
        if run.started_at is None:
            run.started_at = run.requested_at if run.clock_offset_s else work.now()
            announce_run(session, work.now(), run)
        waivers = []
        if run.purpose != RunPurpose.BENCHMARK:
            waivers = [
                waiver_value(w)
                for w in session.scalars(select(WaiverRow).where(WaiverRow.site_id == run.site_id, ~WaiverRow.replaced))
                if understood(w)
            ]
        job = Job(
            run.id,
            run.site.host,
            run.plan,
            base.id if base else None,
            waivers,
            run.clock_offset_s,
            None,
            source_id=run.source_id if again else None,
        )
        site_id = run.site_id
    if again:
        return job
    access = plans.open_access(work, site_id)
    withheld = access["bound"].why_withheld(job.plan) if access else ""
    return replace(job, access=access, notices=[withheld] if withheld else [])


def _base_of(session: Session, run: Run) -> Run | None:
    """The run before: the last examined audit of the site whose file is there. With it what another user agent is served is compared too; benchmark
    runs stand alone."""
    if run.purpose == RunPurpose.BENCHMARK:
        return None
    return session.scalar(
        select(Run)
        .where(
            Run.site_id == run.site_id,
            Run.purpose == RunPurpose.AUDIT,
            EXAMINED,
            Run.sequence <= run.sequence,
            Run.id != run.id,
            Run.file == FileState.KEPT,
        )
        .order_by(Run.sequence.desc())
        .limit(1)
    )


def _base_of_source(session: Session, run: Run) -> Run | None:
    """The run before the one that is judged anew, whose history it carries on, where its file is still there."""
    source = session.get(Run, run.source_id)
    base = session.get(Run, source.base_id) if source is not None and source.base_id else None
    return base if base is not None and base.file == FileState.KEPT else None


def finish_run(work: Workspace, run_id: str) -> None:
    """Take a finished run file's summary into the register, judge the to-dos, tell people: wholly or not at all.

    The run before may be unreadable by now: then the run has no changes, which it says, and is done all the same.
    """
    with work.open_run(run_id) as head:
        changes, worse = _changes(work, run_id)
        with work.reading() as session:
            compared_sites = fetch(session, Run, run_id, "run").purpose == RunPurpose.BENCHMARK
        figures = site_figures(head) if compared_sites else None
        with work.session() as session:
            run = fetch(session, Run, run_id, "run")
            run.site_figures = figures
            summary = SUMMARY.load(head.meta("summary"))
            run.finished_at = datetime.fromisoformat(head.meta("finished_at"))
            run.state = RunState.STOPPED if summary.end == RunEnd.STOPPED else RunState.DONE
            run.reason, run.worker_id, run.lease_until = "", None, None
            confirmed = todo_runs.judge_after_run(session, work.now() if not run.clock_offset_s else run.finished_at, run, head)
            set_headline(run, summary, replace(changes, todos_confirmed=confirmed) if changes is not None else None)
            state = update_site_state(session, run.site)
            if run.purpose == RunPurpose.AUDIT:
                state.certificate_ends = head.certificate_ends(run.plan.start[0])
                alerts.update_alerts(session, work.now(), run, head, worse)
                announce_comparison(session, work.now(), run)
                remarks.remark_on_run(session, run)
            forget_progress(session, run_id)
            _end_round(session, run)
            _tell(work, session, run)


def take_in_again(work: Workspace, run_id: str) -> None:
    """Take the summary of the latest run into the register again, whose waivers have changed since. To-dos wait for the next run, and nobody is told."""
    with work.open_run(run_id) as head:
        changes, _ = _changes(work, run_id)
        with work.session() as session:
            run = fetch(session, Run, run_id, "run")
            before = run.changes
            confirmed = before.todos_confirmed if before is not None else 0
            known = replace(changes, todos_confirmed=confirmed) if changes is not None else before
            set_headline(run, SUMMARY.load(head.meta("summary")), known)
            update_site_state(session, run.site)
            alerts.update_alerts(session, work.now(), run, head, {})


def _changes(work: Workspace, run_id: str) -> tuple[RunChanges | None, dict[str, list[Classed]]]:
    """What changed since the run before, computed before the register is locked; ``None`` without a base that can be read.

    Also the new findings of severe checks, by check.
    """
    with work.reading() as session:
        base_id = fetch(session, Run, run_id, "run").base_id
    if base_id is None or not work.store.has(base_id):
        return None, {}
    try:
        with compared(work, base_id, run_id) as found:
            figures, fresh = found.figures, found.found(alerts.WORSE, alerts.SEVERE)
    except DamagedRun:
        return None, {}
    worse: dict[str, list[Classed]] = {}
    for item in fresh:
        worse.setdefault(item.check, []).append(item)
    changes = RunChanges(
        counts=figures.counts,
        by_check=figures.by_check,
        settings=figures.settings,
        robots_changed=bool(figures.robots_lines),
        newly_blocked=figures.listed.get(ComparedList.BLOCKED, 0),
        health=figures.health,
        areas=figures.areas,
        sentence=figures.sentence,
        events=figures.events,
    )
    return changes, worse


def _end_round(session: Session, run: Run) -> None:
    """Keep the result of a benchmark round when its last run has ended."""
    if run.round_id is None:
        return
    session.flush()
    waiting = session.scalar(select(Run.id).where(Run.round_id == run.round_id, Run.state.in_(ACTIVE_RUN)).limit(1))
    if waiting is None:
        benchmarks.keep_result(session, run.round_id)


def note_failure(work: Workspace, run_id: str, worker_id: str, reason: str) -> None:
    """Mark a claimed run as failed, with the reason in words. A worker whose claim was taken over has no say."""
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        if run.worker_id == worker_id:
            _mark_failed(work, session, run, reason)


def fail_run(work: Workspace, run_id: str, reason: str) -> None:
    """Mark a run as failed, with the reason in words, and tell people."""
    with work.session() as session:
        _mark_failed(work, session, fetch(session, Run, run_id, "run"), reason)


def _mark_failed(work: Workspace, session: Session, run: Run, reason: str) -> None:
    run.state, run.reason = RunState.FAILED, reason
    run.worker_id, run.lease_until = None, None
    run.finished_at = work.now() if not run.clock_offset_s else run.requested_at
    update_site_state(session, run.site)
    if run.purpose in IN_LINE:
        remarks.remark_on_run(session, run)
    forget_progress(session, run.id)
    _end_round(session, run)
    try_again_later(session, work.now(), run)
    _tell(work, session, run)


def _tell(work: Workspace, session: Session, run: Run) -> None:
    """Tell webhooks, and those who asked for a mail, that a run is done or has failed, in the transaction that says so."""
    announce_run(session, work.now(), run)
    schedule = session.get(Schedule, run.site_id)
    if schedule is not None and schedule.mail_to and run.purpose == RunPurpose.AUDIT:
        session.flush()
        subject, text = _mail_text(work, session, run)
        outbox.post(session, work.now(), run.id, schedule.mail_to, subject, text)


def _mail_text(work: Workspace, session: Session, run: Run) -> tuple[str, str]:
    host = run.site.host
    link = f"{work.address}/sites/{run.site_id}" if work.address else ""
    if run.state == RunState.FAILED:
        schedule = session.get(Schedule, run.site_id)
        again = schedule.retry_at if schedule is not None and schedule.retry_of == run.id else None
        more = f"\n\nIt is tried again at {again:%H:%M} UTC." if again else ""
        return f"{host}: the audit failed", f"The audit of {host} failed: {run.reason}{more}\n\n{link}\n"
    health = "no health (no page was scored)" if run.health is None else f"health {run.health:.1f} of 100"
    lines = [f"The audit of {host} {'was stopped' if run.state == RunState.STOPPED else 'is done'}: {health}."]
    base = session.get(Run, run.base_id) if run.base_id else None
    change = health_change(run, base)
    if base is not None and change is not None:
        lines.append(f"That is {change:+.1f} points since {base.requested_at:%a %d %b %Y}.".replace("-", "−"))
    elif base is not None and run.changes is not None and run.changes.health is not None:
        pages = run.changes.health
        lines.append(
            f"Health is not compared with the run of {base.requested_at:%a %d %b %Y}: the two share {pages.pages:,} of"
            f" {pages.pages_larger:,} pages."
        )
    if run.changes is not None and run.changes.counts:
        counts = run.changes.counts
        lines.append(
            f"New findings: {run.changes.new}. Returned: {counts.get(Change.RETURNED, 0)}. Fixed: {counts.get(Change.FIXED, 0)}."
        )
        if run.changes.todos_confirmed:
            lines.append(fill("{n:to-do} confirmed.", {"n": run.changes.todos_confirmed}))
    lines.extend(run.summary.notices if run.summary else [])
    if run.changes is not None and run.changes.events:
        lines += ["", "What happened, with its share of the change in health:", *map(_event_line, run.changes.events)]
        if link:
            link += f"/changes?base={run.base_id}&head={run.id}"
    return f"{host}: {health}", "\n".join([*lines, "", link, ""])


def _event_line(event: Event) -> str:
    return f"{signed(event.shown):>6}  {event.title}" + (f" ({event.detail})" if event.detail else "")
