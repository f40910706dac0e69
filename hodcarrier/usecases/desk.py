"""The desk: what needs attention today, across clients."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy import and_, func, or_, select
from sqlalchemy.orm import Session

from hodcarrier.core.judge.health import RANK
from hodcarrier.core.states import (
    ACTIVE_RUN,
    UNFINISHED_TODO,
    DeliveryState,
    FileState,
    RunPurpose,
    RunState,
    SiteKind,
    TodoOrder,
)
from hodcarrier.register.models import (
    Alert,
    Client,
    Delivery,
    Member,
    Run,
    Site,
    SiteState,
    Todo,
    WaiverRow,
    Webhook,
    WebhookDelivery,
)
from hodcarrier.usecases.run_brief import BRIEF, run_brief
from hodcarrier.usecases.sites import read_sites, sites_out
from hodcarrier.usecases.todo_lists import in_order, todo_out
from hodcarrier.usecases.waivers import waiver_out
from hodcarrier.usecases.workspace import AnyRow, Workspace
from hodcarrier.wire.desk import DeskItem, DeskItemKind, DeskOut, DeskSite
from hodcarrier.wire.sites import SiteOut
from hodcarrier.wire.todos import TodoOut

DAY = timedelta(hours=24)
TODOS_SHOWN = 6
# A receiver that is restarted is no trouble; one that fails again and again is.
WEBHOOK_FAILURES = 3


def get_desk(work: Workspace, member: Member, building: str = "", troubles: Sequence[str] = ()) -> DeskOut:
    """Everything on the desk of a member. ``building`` says that a history is still being audited, ``troubles`` what keeps the service
    from its work."""
    now = work.now()
    today = now.date()
    with work.reading() as session:
        # Competitors too: what happened to them is told as well.
        known = read_sites(session)
        sites = [site for site in known if site.kind == SiteKind.OWN]
        runs = _runs(session, now)
        by_id, places = {run.id: run for run in runs}, {site.id: _place(site) for site in known}
        shown = sites_out(session, sites, runs)
        rows = [_site_row(site, out, by_id) for site, out in zip(sites, shown, strict=True)]
        items = [
            *_service(troubles),
            *_failures(sites, by_id),
            *_lost_files(known, by_id),
            *_mails(session),
            *_webhooks(session),
            *_alerts(session, places),
        ]
        late = _late_work(session, member, today)
        ending = session.scalars(
            select(WaiverRow).where(~WaiverRow.replaced, WaiverRow.end.between(today, today + timedelta(days=7)))
        ).all()
        waivers = [_waiver_item(places, row) for row in ending]
        running = [run_brief(run) for run in sorted(runs, key=lambda each: each.sequence) if run.state in ACTIVE_RUN]
        ended = Counter(
            run.state for run in runs if run.purpose == RunPurpose.AUDIT and run.finished_at and run.finished_at > now - DAY
        )
        mine, overdue, this_week = _own_work(session, member, today)
    rows.sort(key=lambda r: -r.attention)
    return DeskOut(
        now=now,
        sentence=_sentence(ended, rows),
        items=[*items, *late, *waivers],
        my_todos=mine,
        overdue=overdue,
        this_week=this_week,
        sites=rows,
        running=running,
        building=building,
    )


def _runs(session: Session, now: datetime) -> Sequence[AnyRow]:
    """The runs that the states of sites name, those under way, and those that ended since yesterday."""
    named = select(SiteState.last_id).union(select(SiteState.done_id))
    wanted = or_(Run.id.in_(named), Run.state.in_(ACTIVE_RUN), Run.finished_at > now - DAY)
    return session.execute(select(*BRIEF).join(Site).where(wanted)).all()


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


def _site_row(site: AnyRow, out: SiteOut, runs: Mapping[str, AnyRow]) -> DeskSite:
    done = runs.get(site.done_id)
    change, critical, high = (site.change, done.critical or 0, done.high or 0) if done else (None, 0, 0)
    attention = max(0.0, -(change or 0.0)) * 4 + critical + high / 10 + (50 if _failure(site, runs) is not None else 0)
    attention += (100 - done.health) / 10 if done and done.health is not None else 0
    return DeskSite(
        site=out,
        change=change,
        line=site.line or [],
        critical=critical,
        high=high,
        new=done.new if done else None,
        returned=done.returned if done else None,
        fixed=done.fixed if done else None,
        next_due_at=site.next_due_at,
        attention=attention,
    )


def _failure(site: AnyRow, runs: Mapping[str, AnyRow]) -> str | None:
    """Why the last audit of a site failed; ``None`` when it did not."""
    last = runs.get(site.last_id)
    return str(last.reason) if last is not None and last.state == RunState.FAILED else None


def _failures(sites: Sequence[AnyRow], runs: Mapping[str, AnyRow]) -> list[DeskItem]:
    """Sites whose last audit failed, until one ends well."""
    failed = ((site, _failure(site, runs)) for site in sites)
    return [
        DeskItem(
            kind=DeskItemKind.FAILED,
            text=f"The audit failed: {reason}",
            link=f"/sites/{site.id}",
            action="Open run",
            **_place(site),
        )
        for site, reason in failed
        if reason is not None
    ]


def _service(troubles: Sequence[str]) -> list[DeskItem]:
    """What keeps the service from its work: it concerns everybody, so it stands first."""
    return [DeskItem(kind=DeskItemKind.SERVICE, text=trouble, link="/team", action="Open settings") for trouble in troubles]


def _lost_files(sites: Sequence[AnyRow], runs: Mapping[str, AnyRow]) -> list[DeskItem]:
    """Sites whose latest examined run cannot be opened any more, because its file was damaged."""
    items = []
    for site in sites:
        run = runs.get(site.done_id)
        if run is not None and run.file == FileState.DAMAGED:
            text = f"The file of the run of {run.requested_at:%a %d %b %Y} was damaged and is set aside"
            detail = "Run the audit again, or restore the file from a backup; the run keeps its figures."
            items.append(
                DeskItem(
                    kind=DeskItemKind.FAILED,
                    text=text,
                    detail=detail,
                    link=f"/sites/{site.id}",
                    action="Open site",
                    **_place(site),
                )
            )
    return items


def _mails(session: Session) -> list[DeskItem]:
    """Mails that were given up, until somebody sends them again or a week has passed."""
    given_up = select(Delivery, func.count().over()).where(Delivery.state == DeliveryState.GIVEN_UP)
    found = session.execute(given_up.order_by(Delivery.at.desc()).limit(1)).first()
    if found is None:
        return []
    latest, count = found
    text = "1 mail could not be sent" if count == 1 else f"{count:,} mails could not be sent"
    detail = f"The latest, to {latest.recipient}: {latest.error}"
    return [DeskItem(kind=DeskItemKind.MAIL, text=text, detail=detail, link="/team?tab=deliveries", action="Open mails")]


def _webhooks(session: Session) -> list[DeskItem]:
    """Webhooks that have not been reached for a while, until one takes a message, and those that have given messages up."""
    given_up = select(func.count()).where(
        WebhookDelivery.webhook_id == Webhook.id, WebhookDelivery.state == DeliveryState.GIVEN_UP
    )
    last = (
        select(WebhookDelivery.error)
        .where(WebhookDelivery.webhook_id == Webhook.id, WebhookDelivery.attempts > 0)
        .order_by(WebhookDelivery.id.desc())
        .limit(1)
    )
    failing = select(Webhook.name, last.scalar_subquery().label("error")).where(
        Webhook.active, or_(Webhook.failures >= WEBHOOK_FAILURES, given_up.scalar_subquery() > 0)
    )
    return [
        DeskItem(
            kind=DeskItemKind.WEBHOOK,
            text=f"The webhook “{row.name}” does not take messages",
            detail=row.error or "",
            link="/team?tab=deliveries",
            action="Open webhooks",
        )
        for row in session.execute(failing.order_by(Webhook.id))
    ]


def _alerts(session: Session, places: Mapping[int, dict[str, Any]]) -> list[DeskItem]:
    """What runs changed for the worse and nobody has fixed or acknowledged, the worst first."""
    alerts = session.scalars(select(Alert).join(Site).where(Alert.acknowledged_at.is_(None), Site.kind == SiteKind.OWN)).all()
    return [
        DeskItem(
            kind=DeskItemKind.CHANGE,
            severity=alert.severity,
            text=f"{alert.summary}: {alert.findings:,} new",
            detail=alert.detail,
            since=alert.raised_at,
            link=f"/sites/{alert.site_id}/checks/{alert.check_id}",
            action="Open check",
            alert_id=alert.id,
            **places[alert.site_id],
        )
        for alert in sorted(alerts, key=lambda a: (RANK[a.severity], -a.findings, a.id))
    ]


def _place(site: AnyRow) -> dict[str, Any]:
    return {"site_id": site.id, "host": site.host, "client_name": site.client_name}


def _own_work(session: Session, member: Member, today: date) -> tuple[list[TodoOut], int, int]:
    """The first of a member's to-dos, how many are overdue, and how many are due within a week."""
    own = and_(Todo.assignee_id == member.id, Todo.state.in_(UNFINISHED_TODO))
    overdue = select(func.count()).where(own, Todo.due < today).correlate(None).scalar_subquery()
    soon = select(func.count()).where(own, Todo.due.between(today, today + timedelta(days=7))).correlate(None).scalar_subquery()
    rows = session.execute(in_order(select(Todo).where(own), TodoOrder.DUE).add_columns(overdue, soon).limit(TODOS_SHOWN)).all()
    return [todo_out(todo, today) for todo, *_ in rows], rows[0][1] if rows else 0, rows[0][2] if rows else 0


def _late_work(session: Session, member: Member, today: date) -> list[DeskItem]:
    """Overdue to-dos of others and of nobody, a line for each person; one's own stand in a list of their own."""
    place = func.row_number().over(partition_by=Todo.assignee_id, order_by=(Todo.due, Todo.id)).label("place")
    ranked = (
        select(
            Todo.assignee_id,
            Todo.title,
            Todo.due,
            Client.name.label("client"),
            place,
            func.count().over(partition_by=Todo.assignee_id).label("number"),
        )
        .join(Site, Site.id == Todo.site_id)
        .join(Client)
        .where(Todo.state.in_(UNFINISHED_TODO), Todo.due < today, Todo.assignee_id.is_distinct_from(member.id))
        .subquery()
    )
    oldest = select(ranked, Member.name).outerjoin(Member, Member.id == ranked.c.assignee_id).where(ranked.c.place == 1)
    items = []
    for row in session.execute(oldest):
        count = f"{row.number} to-do{'s' if row.number != 1 else ''} overdue"
        late = (today - row.due).days
        items.append(
            DeskItem(
                kind=DeskItemKind.TODO,
                text=f"{row.name}: {count}" if row.assignee_id is not None else f"{count}, assigned to nobody",
                detail=f"{row.title}, {row.client}: {late} day{'s' if late != 1 else ''} late",
                link=f"/todos?who={row.assignee_id}" if row.assignee_id is not None else "/todos",
                action="Open to-dos",
            )
        )
    return sorted(items, key=lambda i: i.text)


def _waiver_item(places: Mapping[int, dict[str, Any]], row: WaiverRow) -> DeskItem:
    return DeskItem(
        kind=DeskItemKind.WAIVER,
        severity=None,
        **places[row.site_id],
        text=f"The waiver of “{waiver_out(row, row.start).summary}” ends on {row.end:%a %d %b}",
        detail=row.reason,
        link=f"/sites/{row.site_id}/plan",
        action="Open waivers",
    )
