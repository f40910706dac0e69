"""The desk: what needs attention today, across clients."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session, defer

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
from hodcarrier.usecases.sites import WITH_SURROUNDINGS, sites_out
from hodcarrier.usecases.todos import list_todos
from hodcarrier.usecases.waivers import waiver_out
from hodcarrier.usecases.workspace import Workspace, latest_run
from hodcarrier.wire.desk import DeskItem, DeskItemKind, DeskOut, DeskSite
from hodcarrier.wire.sites import SiteOut
from hodcarrier.wire.todos import TodoOut

LINE_RUNS = 10


def get_desk(work: Workspace, member: Member, building: str = "", troubles: Sequence[str] = ()) -> DeskOut:
    """Everything on the desk of a member. ``building`` says that a history is still being audited, ``troubles`` what keeps the service
    from its work."""
    now = work.now()
    with work.reading() as session:
        sites = session.scalars(select(Site).where(Site.kind == SiteKind.OWN).options(*WITH_SURROUNDINGS)).all()
        audited = _audited(session)
        shown = sites_out(session, sites)
        rows = [_site_row(site, out, audited.get(site.id, Audited())) for site, out in zip(sites, shown, strict=True)]
        items = [*_service(troubles), *_failures(sites, audited), *_lost_files(session), *_mails(session), *_alarms(session)]
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


@dataclass(frozen=True, slots=True)
class Audited:
    """The last audits of a site, failed ones included, the oldest first: their figures, and the two latest that were examined in full."""

    line: Sequence[Any] = ()
    last: Run | None = None
    before: Run | None = None

    @property
    def failure(self) -> str | None:
        """Why the last audit failed; ``None`` when it did not."""
        return self.line[-1].reason if self.line and self.line[-1].state == RunState.FAILED else None


def _audited(session: Session) -> dict[int, Audited]:
    """By site."""
    place = func.row_number().over(partition_by=Run.site_id, order_by=Run.sequence.desc()).label("place")
    ranked = (
        select(Run.site_id, Run.sequence, Run.state, Run.health, Run.reason, Run.summary.is_not(None).label("examined"), place)
        .where(Run.purpose == RunPurpose.AUDIT, EXAMINED_OR_FAILED)
        .subquery()
    )
    lines: dict[int, list[Any]] = {}
    for row in session.execute(select(ranked).where(ranked.c.place <= LINE_RUNS).order_by(ranked.c.sequence)):
        lines.setdefault(row.site_id, []).append(row)
    latest = {site: [row.sequence for row in line if row.examined][-2:] for site, line in lines.items()}
    wanted = [sequence for found in latest.values() for sequence in found]
    chosen = select(Run).where(Run.sequence.in_(wanted)).options(defer(Run.plan))
    runs = {run.sequence: run for run in session.scalars(chosen)}
    return {
        site: Audited(
            line,
            runs[latest[site][-1]] if latest[site] else None,
            runs[latest[site][0]] if len(latest[site]) > 1 else None,
        )
        for site, line in lines.items()
    }


def _site_row(site: Site, out: SiteOut, audited: Audited) -> DeskSite:
    last = audited.last
    change = health_change(last, audited.before) if last else None
    severities = last.summary.severities if last and last.summary else {}
    changes = last.changes if last else None
    critical = severities[Severity.CRITICAL].findings if severities else 0
    high = severities[Severity.HIGH].findings if severities else 0
    attention = max(0.0, -(change or 0.0)) * 4 + critical + high / 10 + (50 if audited.failure is not None else 0)
    attention += (100 - last.health) / 10 if last and last.health is not None else 0
    return DeskSite(
        site=out,
        change=change,
        line=[row.health for row in audited.line],
        critical=critical,
        high=high,
        new=changes.new if changes is not None else None,
        returned=changes.counts.get(Change.RETURNED, 0) if changes is not None else None,
        fixed=changes.counts.get(Change.FIXED, 0) if changes is not None else None,
        next_due_at=site.schedule.next_due_at if site.schedule else None,
        attention=attention,
    )


def _failures(sites: Sequence[Site], audited: Mapping[int, Audited]) -> list[DeskItem]:
    """Sites whose last audit failed, until one ends well."""
    return [
        DeskItem(
            kind=DeskItemKind.FAILED,
            text=f"The audit failed: {audited[site.id].failure}",
            link=f"/sites/{site.id}",
            action="Open run",
            **_place(site),
        )
        for site in sites
        if site.id in audited and audited[site.id].failure is not None
    ]


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
