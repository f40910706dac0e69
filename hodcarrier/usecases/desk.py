"""The desk: what needs attention today, across clients."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hodcarrier.core.judge.health import RANK
from hodcarrier.core.states import (
    ACTIVE_RUN,
    Change,
    DeliveryState,
    FileState,
    RunPurpose,
    RunState,
    Severity,
    SiteKind,
    TodoState,
)
from hodcarrier.register.models import EXAMINED, EXAMINED_OR_FAILED, Alarm, Delivery, Member, Run, Site, WaiverRow
from hodcarrier.usecases.runs import health_change, run_brief
from hodcarrier.usecases.sites import site_out
from hodcarrier.usecases.todos import list_todos
from hodcarrier.usecases.waivers import waiver_out
from hodcarrier.usecases.workspace import Workspace, latest_run
from hodcarrier.wire.desk import DeskItem, DeskItemKind, DeskOut, DeskSite
from hodcarrier.wire.todos import TodoOut

LINE_RUNS = 10


def get_desk(work: Workspace, member: Member, building: str = "", troubles: Sequence[str] = ()) -> DeskOut:
    """Everything on the desk of a member. ``building`` says that a history is still being audited, ``troubles`` what keeps the service
    from its work."""
    now = work.now()
    with work.reading() as session:
        sites = session.scalars(select(Site).where(Site.kind == SiteKind.OWN)).all()
        rows = [_site_row(session, site) for site in sites]
        items = [*_service(troubles), *_failures(session, sites), *_lost_files(session), *_mails(session), *_alarms(session)]
        ending = session.scalars(
            select(WaiverRow).where(~WaiverRow.replaced, WaiverRow.end.between(now.date(), now.date() + timedelta(days=7)))
        ).all()
        waivers = [_waiver_item(session, row) for row in ending]
        running = [run_brief(r) for r in session.scalars(select(Run).where(Run.state.in_(ACTIVE_RUN)).order_by(Run.sequence))]
        night = session.execute(
            select(Run.state, func.count())
            .where(Run.finished_at > now - timedelta(hours=24), Run.purpose == RunPurpose.AUDIT)
            .group_by(Run.state)
        )
        ended = dict(night.all())
    todos = list_todos(work, state="live")
    mine = [t for t in todos if t.assignee_id == member.id and t.state != TodoState.DONE]
    week = now.date() + timedelta(days=7)
    rows.sort(key=lambda r: -r.attention)
    return DeskOut(
        now=now,
        sentence=_sentence(ended, rows),
        items=[*items, *_late_work(todos, member), *waivers],
        my_todos=mine[:6],
        overdue=sum(t.overdue for t in mine),
        this_week=sum(1 for t in mine if t.due and not t.overdue and t.due <= week),
        sites=rows,
        running=running,
        building=building,
    )


def _sentence(ended: dict[RunState, int], rows: list[DeskSite]) -> str:
    done, failed = ended.get(RunState.DONE, 0), ended.get(RunState.FAILED, 0)
    worse = sum(1 for r in rows if r.change is not None and r.change < -0.5)
    parts = [f"{done} audit{'s' if done != 1 else ''} in the last 24 hours"]
    if stopped := ended.get(RunState.STOPPED, 0):
        parts.append(f"{stopped} stopped")
    if failed:
        parts.append(f"{failed} failed")
    parts.append(f"{worse} site{'s' if worse != 1 else ''} got worse" if worse else "no site got worse")
    due = [r.next_due_at for r in rows if r.next_due_at]
    if due:
        parts.append(f"next run {min(due):%a %d %b %H:%M} UTC")
    return " · ".join(parts)


def _audits(session: Session, site: Site, count: int) -> list[Run]:
    runs = session.scalars(
        select(Run)
        .where(Run.site_id == site.id, Run.purpose == RunPurpose.AUDIT, EXAMINED_OR_FAILED)
        .order_by(Run.sequence.desc())
        .limit(count)
    ).all()
    return list(reversed(runs))


def _site_row(session: Session, site: Site) -> DeskSite:
    runs = _audits(session, site, LINE_RUNS)
    done = [r for r in runs if r.summary is not None]
    last = done[-1] if done else None
    change = health_change(last, done[-2] if len(done) > 1 else None) if last else None
    severities = last.summary.severities if last and last.summary else {}
    changes = last.changes if last else None
    out = site_out(session, site)
    critical = severities[Severity.CRITICAL].findings if severities else 0
    high = severities[Severity.HIGH].findings if severities else 0
    attention = max(0.0, -(change or 0.0)) * 4 + critical + high / 10 + (50 if runs and runs[-1].state == RunState.FAILED else 0)
    attention += (100 - last.health) / 10 if last and last.health is not None else 0
    return DeskSite(
        site=out,
        change=change,
        line=[r.health for r in runs],
        critical=critical,
        high=high,
        new=changes.new if changes is not None else None,
        returned=changes.counts.get(Change.RETURNED, 0) if changes is not None else None,
        fixed=changes.counts.get(Change.FIXED, 0) if changes is not None else None,
        next_due_at=site.schedule.next_due_at if site.schedule else None,
        attention=attention,
    )


def _failures(session: Session, sites: Sequence[Site]) -> list[DeskItem]:
    """Sites whose last audit failed, until one ends well."""
    items = []
    for site in sites:
        runs = _audits(session, site, 1)
        if runs and runs[-1].state == RunState.FAILED:
            text = f"The audit failed: {runs[-1].reason}"
            items.append(
                DeskItem(kind=DeskItemKind.FAILED, text=text, link=f"/sites/{site.id}", action="Open run", **_place(site))
            )
    return items


def _service(troubles: Sequence[str]) -> list[DeskItem]:
    """What keeps the service from its work: it concerns everybody, so it stands first."""
    return [DeskItem(kind=DeskItemKind.SERVICE, text=trouble, link="/team", action="Open settings") for trouble in troubles]


def _lost_files(session: Session) -> list[DeskItem]:
    """Sites whose latest examined run cannot be opened any more, because its file was damaged."""
    items = []
    for run in session.scalars(select(Run).where(Run.file == FileState.DAMAGED, EXAMINED).order_by(Run.sequence)):
        latest = latest_run(session, run.site)
        if latest is not None and latest.id == run.id:
            text = f"The file of the run of {run.requested_at:%a %d %b %Y} was damaged and is set aside"
            detail = "Run the audit again, or restore the file from a backup; the run keeps its figures."
            items.append(
                DeskItem(
                    kind=DeskItemKind.FAILED,
                    text=text,
                    detail=detail,
                    link=f"/sites/{run.site_id}",
                    action="Open site",
                    **_place(run.site),
                )
            )
    return items


def _mails(session: Session) -> list[DeskItem]:
    """Mails that were given up, until somebody sends them again or a week has passed."""
    count = session.scalar(select(func.count()).where(Delivery.state == DeliveryState.GIVEN_UP)) or 0
    if not count:
        return []
    text = "1 mail could not be sent" if count == 1 else f"{count:,} mails could not be sent"
    latest = session.scalars(
        select(Delivery).where(Delivery.state == DeliveryState.GIVEN_UP).order_by(Delivery.at.desc()).limit(1)
    ).one()
    detail = f"The latest, to {latest.recipient}: {latest.error}"
    return [DeskItem(kind=DeskItemKind.MAIL, text=text, detail=detail, link="/team", action="Open mails")]


def _alarms(session: Session) -> list[DeskItem]:
    """What runs changed for the worse and nobody has fixed or acknowledged, the worst first."""
    alarms = session.scalars(select(Alarm).join(Site).where(Alarm.acknowledged_at.is_(None), Site.kind == SiteKind.OWN)).all()
    return [
        DeskItem(
            kind=DeskItemKind.CHANGE,
            severity=alarm.severity,
            text=f"{alarm.summary}: {alarm.findings:,} new",
            detail=alarm.detail,
            since=alarm.raised_at,
            link=f"/sites/{alarm.site_id}/checks/{alarm.check_id}",
            action="Open check",
            alarm_id=alarm.id,
            **_place(alarm.site),
        )
        for alarm in sorted(alarms, key=lambda a: (RANK[a.severity], -a.findings, a.id))
    ]


def _place(site: Site) -> dict[str, Any]:
    return {"site_id": site.id, "host": site.host, "client_name": site.client.name}


def _late_work(todos: Sequence[TodoOut], member: Member) -> list[DeskItem]:
    """Overdue to-dos of others and of nobody, a line for each person; one's own stand in a list of their own."""
    late: dict[tuple[int | None, str], list[TodoOut]] = {}
    for todo in todos:
        if todo.overdue and todo.assignee_id != member.id:
            late.setdefault((todo.assignee_id, todo.assignee), []).append(todo)
    items = []
    for (number, name), rows in late.items():
        oldest = max(rows, key=lambda t: t.days_late)
        count = f"{len(rows)} to-do{'s' if len(rows) != 1 else ''} overdue"
        items.append(
            DeskItem(
                kind=DeskItemKind.TODO,
                text=f"{name}: {count}" if number is not None else f"{count}, assigned to nobody",
                detail=f"{oldest.title}, {oldest.client_name}: {oldest.days_late} day{'s' if oldest.days_late != 1 else ''} late",
                link=f"/todos?who={number}" if number is not None else "/todos",
                action="Open to-dos",
            )
        )
    return sorted(items, key=lambda i: i.text)


def _waiver_item(session: Session, row: WaiverRow) -> DeskItem:
    site = session.get_one(Site, row.site_id)
    return DeskItem(
        kind=DeskItemKind.WAIVER,
        severity=None,
        **_place(site),
        text=f"The waiver of “{waiver_out(row, row.start).summary}” ends on {row.end:%a %d %b}",
        detail=row.reason,
        link=f"/sites/{site.id}/plan",
        action="Open waivers",
    )
