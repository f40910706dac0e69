"""The desk: what needs a person today, across clients."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import DamagedRun
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.states import ACTIVE_RUN, Change, RunPurpose, RunState, Severity, SiteKind, TodoState
from hodcarrier.register.models import Member, Run, Site, WaiverRow
from hodcarrier.runfile import results
from hodcarrier.usecases.runs import health_change, run_brief
from hodcarrier.usecases.sites import site_out
from hodcarrier.usecases.todos import list_todos
from hodcarrier.usecases.waivers import waiver_out
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.desk import DeskItem, DeskItemKind, DeskOut, DeskSite

ITEMS_MAX = 8
LINE_RUNS = 10


def get_desk(work: Workspace, member: Member, building: str = "") -> DeskOut:
    """Everything on the desk of a member. ``building`` says that a history is still being audited."""
    now = work.now()
    with work.reading() as session:
        sites = session.scalars(select(Site).where(Site.kind == SiteKind.OWN)).all()
        rows = [_site_row(session, site) for site in sites]
        items = [item for site in sites for item in _site_items(work, session, site)]
        ending = session.scalars(
            select(WaiverRow).where(~WaiverRow.replaced, WaiverRow.end.between(now.date(), now.date() + timedelta(days=7)))
        ).all()
        items.extend(_waiver_item(session, row) for row in ending)
        running = [run_brief(r) for r in session.scalars(select(Run).where(Run.state.in_(ACTIVE_RUN)).order_by(Run.requested_at))]
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
    items.sort(key=lambda i: len(RANK) if i.severity is None else RANK[i.severity])
    return DeskOut(
        now=now,
        sentence=_sentence(ended, rows),
        items=items[:ITEMS_MAX],
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
        .where(Run.site_id == site.id, Run.purpose == RunPurpose.AUDIT, Run.state.in_((RunState.DONE, RunState.FAILED)))
        .order_by(Run.requested_at.desc())
        .limit(count)
    ).all()
    return list(reversed(runs))


def _site_row(session: Session, site: Site) -> DeskSite:
    runs = _audits(session, site, LINE_RUNS)
    done = [r for r in runs if r.state == RunState.DONE]
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
        new=changes.new + changes.counts.get(Change.RETURNED, 0) if changes is not None else None,
        fixed=changes.counts.get(Change.FIXED, 0) if changes is not None else None,
        next_due_at=site.schedule.next_due_at if site.schedule else None,
        attention=attention,
    )


def _site_items(work: Workspace, session: Session, site: Site) -> list[DeskItem]:
    """What the last run of a site changed for the worse: its severe checks with new findings, or its failure."""
    runs = _audits(session, site, 2)
    if not runs:
        return []
    last = runs[-1]
    base: dict[str, Any] = {"site_id": site.id, "host": site.host, "client_name": site.client.name}
    if last.state == RunState.FAILED:
        return [
            DeskItem(
                kind=DeskItemKind.FAILED,
                severity=None,
                text=f"The audit failed: {last.reason}",
                link=f"/sites/{site.id}",
                action="look",
                **base,
            )
        ]
    worse = [
        row
        for row in (last.changes.by_check if last.changes else [])
        if row.severity in (Severity.CRITICAL, Severity.HIGH) and row.new
    ]
    items = []
    for row in worse[:4]:
        detail = _cause_line(work, last, row.check)
        items.append(
            DeskItem(
                kind=DeskItemKind.CHANGE,
                severity=row.severity,
                text=f"{row.summary}: {row.new} new",
                detail=detail,
                link=f"/sites/{site.id}/checks/{row.check}",
                action="look",
                **base,
            )
        )
    return items


def _cause_line(work: Workspace, run: Run, check: str) -> str:
    try:
        with work.open_run(run.id) as opened:
            found = results.causes(opened, check, limit=1)
    except DamagedRun:
        return ""
    return str(found[0]["line"]) if found else ""


def _waiver_item(session: Session, row: WaiverRow) -> DeskItem:
    site = session.get_one(Site, row.site_id)
    return DeskItem(
        kind=DeskItemKind.WAIVER,
        severity=None,
        site_id=site.id,
        host=site.host,
        client_name=site.client.name,
        text=f"The waiver of “{waiver_out(row, row.start).summary}” ends on {row.end:%a %d %b}",
        detail=row.reason,
        link=f"/sites/{site.id}/plan",
        action="look",
    )
