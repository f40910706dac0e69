"""Runs: queued, begun, finished, failed, stopped, and what they found."""

from __future__ import annotations

import json
import secrets
from datetime import datetime
from pathlib import Path
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict
from hodcarrier.core.plan import plan_values, read_plan
from hodcarrier.core.schedule import read_recurrence
from hodcarrier.core.urls import normalize
from hodcarrier.register.models import Delivery, Member, Run, Schedule, Site, Todo, WaiverRow
from hodcarrier.runfile import results
from hodcarrier.runfile.comparison import compare
from hodcarrier.usecases import todos
from hodcarrier.usecases.sites import run_brief
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.base import Listed
from hodcarrier.wire.results import CauseRow, CheckOnSite, CheckRow, FindingRow, PageOut, PageRow, TodoRef
from hodcarrier.wire.sites import RunBrief, RunOut

ACTIVE = ("queued", "crawling", "examining")


def queue_run(
    work: Workspace,
    site_id: int,
    member: Member | None = None,
    *,
    purpose: str = "audit",
    round_id: int | None = None,
    plan: dict[str, Any] | None = None,
    at: datetime | None = None,
) -> RunBrief:
    """Ask for a run of a site. Raises :class:`Conflict` while one of the same purpose waits or runs.

    ``at`` shifts the run's clock to that moment (for histories that are audited afterwards).
    """
    now = work.now()
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        busy = session.scalar(select(Run).where(Run.site_id == site_id, Run.purpose == purpose, Run.state.in_(ACTIVE)))
        if busy is not None:
            raise Conflict(f"{site.host} is being audited already (run {busy.id}, {busy.state}).", "Wait for it, or stop it.")
        run = Run(
            id=secrets.token_hex(5),
            site_id=site_id,
            state="queued",
            purpose=purpose,
            round_id=round_id,
            plan=plan_values(read_plan({**site.plan, **(plan or {})})),
            requested_at=at or now,
            clock_offset_s=(at - now).total_seconds() if at else 0.0,
        )
        session.add(run)
        session.flush()
        log(session, now, member.id if member else None, "run queued", site.host)
        return run_brief(run)


def queue_due_runs(work: Workspace) -> list[RunBrief]:
    """Queue a run for every schedule that is due. One missed while the service was down is caught up once."""
    now = work.now()
    queued = []
    with work.session() as session:
        due = session.scalars(select(Schedule).where(Schedule.next_due_at <= now)).all()
        for row in due:
            row.next_due_at = read_recurrence(row.rule, row.at, row.zone, row.anchor).next_due(now)
        sites = [row.site_id for row in due]
    for site_id in sites:
        try:
            queued.append(queue_run(work, site_id))
        except Conflict:
            continue
    return queued


def next_queued(work: Workspace) -> str | None:
    """The run that has waited longest and whose site is not being fetched now."""
    with work.session() as session:
        busy = set(session.scalars(select(Run.site_id).where(Run.state.in_(("crawling", "examining")))))
        for run in session.scalars(select(Run).where(Run.state == "queued").order_by(Run.requested_at, Run.id)):
            if run.site_id not in busy:
                return run.id
    return None


def begin_run(work: Workspace, run_id: str) -> dict[str, Any]:
    """Mark a run as crawling and return the job for its worker."""
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        base = _base_of(session, run)
        run.state = "crawling"
        run.base_id = base.id if base else None
        run.started_at = run.started_at or (run.requested_at if run.clock_offset_s else work.now())
        waivers = (
            session.scalars(select(WaiverRow).where(WaiverRow.site_id == run.site_id)).all() if run.purpose == "audit" else []
        )
        base_path = work.run_path(base.id) if base else None
        return {
            "run_id": run.id,
            "site": run.site.host,
            "site_id": run.site_id,
            "folder": str(work.folder),
            "plan": run.plan,
            "base": str(base_path) if base_path and base_path.exists() else None,
            "clock_offset_s": run.clock_offset_s,
            "waivers": [
                {
                    "check": w.check_id,
                    "pattern": w.pattern,
                    "fingerprint": w.fingerprint,
                    "start": w.start.isoformat(),
                    "end": w.end.isoformat() if w.end else None,
                }
                for w in waivers
            ],
        }


def _base_of(session: Session, run: Run) -> Run | None:
    """The run before: the last done audit of the site. Benchmark runs stand alone."""
    if run.purpose != "audit":
        return None
    return session.scalar(
        select(Run)
        .where(
            Run.site_id == run.site_id,
            Run.purpose == "audit",
            Run.state == "done",
            Run.requested_at <= run.requested_at,
            Run.id != run.id,
        )
        .order_by(Run.requested_at.desc())
        .limit(1)
    )


def set_state(work: Workspace, run_id: str, state: str) -> None:
    """Note that a run has gone from crawling to examining, or back into the queue."""
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        if run.state in ACTIVE:
            run.state = state


def finish_run(work: Workspace, run_id: str) -> None:
    """Take a finished run file's summary into the register, judge the to-dos, tell people: wholly or not at all."""
    with work.open_run(run_id) as head, work.session() as session:
        run = fetch(session, Run, run_id, "run")
        summary = head.meta("summary")
        run.summary, run.health = summary, summary["health"]
        run.finished_at = datetime.fromisoformat(head.meta("finished_at"))
        run.state = "done"
        run.reason = ""
        if run.base_id and work.run_path(run.base_id).exists():
            with work.open_run(run.base_id) as base:
                comparison = compare(base, head)
            run.changes = {
                "counts": dict(comparison.balance.counts),
                "by_check": comparison.by_check()[:60],
                "settings": comparison.settings,
                "robots_changed": bool(comparison.robots_diff),
                "newly_blocked": len(comparison.newly_blocked),
            }
        confirmed = todos.judge_after_run(session, work.now() if not run.clock_offset_s else run.finished_at, run, head)
        if run.changes is not None:
            run.changes = {**run.changes, "todos_confirmed": confirmed}
    _tell(work, run_id)


def _tell(work: Workspace, run_id: str) -> None:
    """Mail those who asked for it that a run is done or has failed. A mail that cannot be sent is kept with its reason.

    The mails go out between two transactions, so that a slow mail server never holds up the register.
    """
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        schedule = session.get(Schedule, run.site_id)
        if schedule is None or run.purpose != "audit":
            return
        subject, text = _mail_text(work, session, run)
        recipients = list(schedule.mail_to)
    sent = [(recipient, _send(work, recipient, subject, text)) for recipient in recipients]
    with work.session() as session:
        for recipient, error in sent:
            session.add(Delivery(at=work.now(), run_id=run_id, recipient=recipient, subject=subject, error=error))


def _send(work: Workspace, recipient: str, subject: str, text: str) -> str:
    """Send one mail; returns why it could not be sent, or nothing."""
    try:
        work.mailer.send(recipient, subject, text)
    except OSError as problem:
        return str(problem)
    return ""


def _mail_text(work: Workspace, session: Session, run: Run) -> tuple[str, str]:
    host = run.site.host
    link = f"{work.address}/sites/{run.site_id}" if work.address else ""
    if run.state == "failed":
        return f"{host}: the audit failed", f"The audit of {host} failed: {run.reason}\n\n{link}\n"
    health = "no health (no page was scored)" if run.health is None else f"health {run.health:.1f} of 100"
    lines = [f"The audit of {host} is done: {health}."]
    base = session.get(Run, run.base_id) if run.base_id else None
    if base is not None and base.health is not None and run.health is not None:
        lines.append(f"That is {run.health - base.health:+.1f} points since {base.requested_at:%a %d %b %Y}.")
    counts = (run.changes or {}).get("counts", {})
    new = sum(counts.get(name, 0) for name in ("new", "new-with-page", "new-to-view"))
    if counts:
        lines.append(f"New findings: {new}. Returned: {counts.get('returned', 0)}. Fixed: {counts.get('fixed', 0)}.")
    lines.extend(run.summary["notices"] if run.summary else [])
    return f"{host}: {health}", "\n".join([*lines, "", link, ""])


def fail_run(work: Workspace, run_id: str, reason: str) -> None:
    """Mark a run as failed, with the reason in words."""
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        run.state, run.reason, run.finished_at = "failed", reason, work.now() if not run.clock_offset_s else run.requested_at
    _tell(work, run_id)


def stop_run(work: Workspace, run_id: str, member: Member) -> str:
    """Ask a run to stop. One that has not begun never does; any other is examined as far as it came. Returns its state.

    The wish is kept beside the run file, so that neither a worker that is just starting nor a restart of the service loses it.
    """
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        if run.state not in ACTIVE:
            raise Conflict(f"Run {run_id} is {run.state} already.", "There is nothing to stop.")
        log(session, work.now(), member.id, "run stopped", run.site.host)
        if run.state == "queued" and not (work.folder / f"{run_id}.part").exists():
            run.state, run.reason, run.finished_at = "stopped", "Stopped before it began.", work.now()
        else:
            (work.folder / f"{run_id}.stop").touch()
        return run.state


def resume_run(work: Workspace, run_id: str, member: Member) -> RunBrief:
    """Let a run that broke off go on from its last batch. Raises :class:`Conflict` when there is nothing to go on with."""
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        if run.state != "failed" or not (work.folder / f"{run_id}.part").exists():
            raise Conflict(f"Run {run_id} is {run.state} and cannot go on.", "Start a new one with `hodcarrier run start SITE`.")
        busy = session.scalar(select(Run).where(Run.site_id == run.site_id, Run.purpose == run.purpose, Run.state.in_(ACTIVE)))
        if busy is not None:
            raise Conflict(f"{run.site.host} is being audited already (run {busy.id}, {busy.state}).", "Wait for it, or stop it.")
        run.state, run.reason, run.finished_at = "queued", "", None
        (work.folder / f"{run_id}.stop").unlink(missing_ok=True)
        log(session, work.now(), member.id, "run goes on", run.site.host)
        return run_brief(run)


def list_runs(work: Workspace, site_id: int | None = None, limit: int = 100, purpose: str = "") -> list[RunBrief]:
    """Runs, the latest first."""
    with work.session() as session:
        chosen = select(Run).order_by(Run.requested_at.desc(), Run.id).limit(limit)
        if site_id is not None:
            fetch(session, Site, site_id, "site")
            chosen = chosen.where(Run.site_id == site_id)
        if purpose:
            chosen = chosen.where(Run.purpose == purpose)
        return [run_brief(run) for run in session.scalars(chosen)]


def get_run(work: Workspace, run_id: str) -> RunOut:
    """A run in full; ``latest`` is resolved by the caller."""
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        base = session.get(Run, run.base_id) if run.base_id else None
        progress = read_progress(work.folder, run_id) if run.state in ACTIVE else None
        return RunOut(
            **run_brief(run).model_dump(),
            site_host=run.site.host,
            client_name=run.site.client.name,
            base_id=base.id if base else None,
            base_at=base.requested_at if base else None,
            summary=run.summary,
            changes=run.changes,
            progress=progress,
            plan=run.plan,
        )


def read_progress(folder: Path, run_id: str) -> dict[str, Any] | None:
    """How far a crawl has come, as its worker tells it; ``None`` before its first batch."""
    try:
        found: dict[str, Any] = json.loads((folder / f"{run_id}.progress").read_text())
    except (OSError, ValueError):
        return None
    return found


def _todo_refs(session: Session, run: Run) -> list[tuple[TodoRef, str, set[bytes]]]:
    """Live to-dos of the run's site with their checks and fingerprints."""
    rows = session.scalars(select(Todo).where(Todo.site_id == run.site_id, Todo.state.in_(("open", "doing", "done")))).all()
    return [
        (
            TodoRef(
                id=t.id,
                title=t.title,
                state=t.state,
                assignee=t.assignee.name if t.assignee else "",
                due=t.due.isoformat() if t.due else None,
            ),
            t.check_id,
            {link.fingerprint for link in t.linked},
        )
        for t in rows
    ]


def list_checks(work: Workspace, run_id: str) -> list[CheckRow]:
    """Checks that failed in a run, in the order of work, with their to-dos and the change since the run before."""
    with work.session() as session, work.open_run(run_id) as opened:
        run = fetch(session, Run, run_id, "run")
        refs = _todo_refs(session, run)
        base = session.get(Run, run.base_id) if run.base_id else None
        before = (base.summary or {}).get("checks", {}) if base else {}
        rows = []
        for row in results.checks(opened):
            top = results.causes(opened, row["id"], limit=1)
            change = row["findings"] - before.get(row["id"], {}).get("findings", 0) if base else None
            rows.append(
                CheckRow(
                    **row,
                    area_name=catalogue.AREAS[row["area"]],
                    cause=top[0]["line"] if top else "",
                    change=change,
                    todos=[ref for ref, check, _ in refs if check == row["id"]],
                )
            )
        return rows


def list_causes(work: Workspace, run_id: str, check_id: str = "", limit: int = 200, after: int = 0) -> list[CauseRow]:
    """Causes of a check, or of all checks, with the to-dos they are in."""
    with work.session() as session, work.open_run(run_id) as opened:
        run = fetch(session, Run, run_id, "run")
        refs = _todo_refs(session, run)
        in_todo = {fp: ref for ref, _, prints in refs for fp in prints}
        rows = []
        for row in results.causes(opened, check_id, limit, after):
            prints = (
                {fp for (fp,) in opened.rows("SELECT fingerprint FROM finding WHERE cause_id = ?", row["id"])}
                if in_todo
                else set()
            )
            todos_here = {ref.id: ref for fp in prints if (ref := in_todo.get(fp))}
            rows.append(CauseRow(**row, todos=list(todos_here.values())))
        return rows


def get_check(work: Workspace, run_id: str, check_id: str) -> CheckOnSite:
    """One check in a run, with its prose, causes and number of findings over the runs of the site."""
    entry = catalogue.get(check_id)
    with work.session() as session:
        run = fetch(session, Run, run_id, "run")
        earlier = session.scalars(
            select(Run)
            .where(
                Run.site_id == run.site_id, Run.purpose == run.purpose, Run.state == "done", Run.requested_at <= run.requested_at
            )
            .order_by(Run.requested_at)
        ).all()
        history = [(r.requested_at, (r.summary or {}).get("checks", {}).get(check_id, {}).get("findings", 0)) for r in earlier][
            -30:
        ]
    with work.open_run(run_id) as opened:
        figures = results.check(opened, check_id)
    check = entry.check
    figures.pop("revision")
    return CheckOnSite(
        **figures,
        area_name=catalogue.AREAS[entry.area],
        summary=check.summary,
        why=check.why,
        fix=check.fix,
        effort=check.effort,
        standard=check.standard,
        limits={n: {"default": k.default, "unit": k.unit, "meaning": k.meaning} for n, k in check.limits.items()},
        history=history,
        causes=list_causes(work, run_id, check_id),
    )


def list_findings(
    work: Workspace, run_id: str, *, check: str, cause: int | None, severity: str, waived: bool | None, limit: int, after: int
) -> Listed[FindingRow]:
    """Findings of a run, a part at a time."""
    with work.open_run(run_id) as opened:
        rows = results.findings(
            opened, check_id=check, cause=cause, severity=severity, waived=waived, limit=limit + 1, after=after
        )
        total = results.count_findings(opened, check_id=check, cause=cause, severity=severity, waived=waived)
    more = len(rows) > limit
    items = [FindingRow(**row) for row in rows[:limit]]
    return Listed(items=items, total=total, after=str(items[-1].id) if more else None)


def list_pages(
    work: Workspace, run_id: str, filters: list[tuple[str, str, str]], sort: str, limit: int, after: int, role: str
) -> Listed[PageRow]:
    """The inventory of a run, a part at a time."""
    with work.open_run(run_id) as opened:
        rows, total = results.pages(opened, filters, sort, limit, after, role)
    after_next = after + len(rows)
    return Listed(items=[PageRow(**row) for row in rows], total=total, after=str(after_next) if after_next < total else None)


def get_page(work: Workspace, run_id: str, url: str) -> PageOut:
    """Everything known of one URL in a run."""
    with work.open_run(run_id) as opened:
        return PageOut(**results.page(opened, normalize(url)))
