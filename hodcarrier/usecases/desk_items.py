"""The lines of the desk: what needs a person, each with where something is done about it."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy import func, literal, or_, select, union_all
from sqlalchemy.orm import Session

from hodcarrier.core.figures.domains import ends_soon, ends_words
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.states import CLAIMED_RUN, UNFINISHED_TODO, DeliveryState, FileState, ReportState, RunState, SiteKind
from hodcarrier.core.words import fill
from hodcarrier.register.models import Alert, Client, Delivery, Member, Report, Site, Todo, WaiverRow, Webhook, WebhookDelivery
from hodcarrier.usecases import domain_records, figure_feeds
from hodcarrier.usecases.waivers import waiver_out
from hodcarrier.usecases.workspace import AnyRow
from hodcarrier.wire.desk import DeskItem, DeskItemKind
from hodcarrier.wire.sites import SiteOut

# A receiver that is restarted is no trouble; one that fails again and again is.
WEBHOOK_FAILURES = 3
FEED_FAILURES = 3
# A worker tells how far it is every few seconds, and examining a large run takes minutes.
SILENT = timedelta(minutes=30)
QUEUED_LONG = timedelta(hours=6)
# A site that is audited monthly has been within this.
RECENT = timedelta(weeks=5)
NEW = timedelta(days=1)
CERTIFICATE_SOON = timedelta(days=21)
CERTIFICATE_CHECK = "secure-expiring"


def failure(site: AnyRow, runs: Mapping[str, AnyRow]) -> str | None:
    """Why the last audit of a site failed; ``None`` when it did not."""
    last = runs.get(site.last_id)
    return str(last.reason) if last is not None and last.state == RunState.FAILED else None


def failures(sites: Sequence[AnyRow], runs: Mapping[str, AnyRow]) -> list[DeskItem]:
    """Sites whose last audit failed, until one ends well."""
    failed = ((site, failure(site, runs)) for site in sites)
    return [
        DeskItem(
            kind=DeskItemKind.FAILED,
            text=f"The audit failed: {reason}",
            link=f"/sites/{site.id}",
            action="Open run",
            **place(site),
        )
        for site, reason in failed
        if reason is not None
    ]


def stuck(active: Sequence[AnyRow], places: Mapping[int, dict[str, Any]], now: datetime) -> list[DeskItem]:
    """Runs that give no sign of life, or wait in the queue for hours."""
    items = []
    for run in active:
        claimed = run.state in CLAIMED_RUN
        silent = now - (run.sign_at or run.started_at or run.requested_at if claimed else run.requested_at)
        if silent > (SILENT if claimed else QUEUED_LONG):
            hours, minutes = divmod(round(silent.total_seconds() / 60), 60)
            span = fill("{n:hour}", {"n": hours}) if hours else fill("{n:minute}", {"n": minutes})
            items.append(
                DeskItem(
                    kind=DeskItemKind.STUCK,
                    text=f"The audit has not moved for {span}"
                    if claimed
                    else f"The audit has been waiting in the queue for {span}",
                    detail="It goes on by itself when its worker is replaced; stop it if that does not help."
                    if claimed
                    else "All workers are busy. Start audits at different times, or give the service more workers.",
                    link=f"/sites/{run.site_id}",
                    action="Open run",
                    **places[run.site_id],
                )
            )
    return items


def stale(sites: Sequence[AnyRow], shown: Sequence[SiteOut], now: datetime) -> list[DeskItem]:
    """Own sites that have not been audited for five weeks, or never, and are not being audited now."""
    items = []
    for site, out in zip(sites, shown, strict=True):
        last = out.last_run
        if out.running is not None or (last is not None and last.state == RunState.FAILED):
            continue
        then = (last.finished_at or last.requested_at) if last is not None else site.created_at
        if now - then > (RECENT if last is not None else NEW):
            items.append(
                DeskItem(
                    kind=DeskItemKind.STALE,
                    text=f"No audit since {then:%a} {then.day} {then:%b %Y}" if last is not None else "Not audited yet",
                    detail="" if site.rule else "It has no schedule.",
                    link=f"/sites/{site.id}",
                    action="Open site",
                    **place(site),
                )
            )
    return items


def certificates(sites: Sequence[AnyRow], now: datetime) -> list[DeskItem]:
    """Own sites whose certificate ends within three weeks, or has ended, as their latest audit saw it; the earliest first."""
    ending = [site for site in sites if site.certificate_ends is not None and site.certificate_ends - now <= CERTIFICATE_SOON]
    return [
        DeskItem(
            kind=DeskItemKind.CERTIFICATE,
            text=_ends_words(site.certificate_ends, now),
            detail="Browsers warn visitors off once it has ended. Ask who runs the server to renew it.",
            link=f"/sites/{site.id}",
            action="Open site",
            **place(site),
        )
        for site in sorted(ending, key=lambda each: (each.certificate_ends, each.host))
    ]


def _ends_words(ends: datetime, now: datetime) -> str:
    day = f"{ends:%a} {ends.day} {ends:%b}"
    if ends <= now:
        return f"The certificate ended on {day}"
    return f"The certificate ends on {day}, in {fill('{n:day}', {'n': max(1, (ends - now).days)})}"


def feeds(sites: Sequence[AnyRow], today: date) -> list[DeskItem]:
    """Feeds of figures that have nothing new for days, or have failed again and again."""
    return [
        DeskItem(
            kind=DeskItemKind.FEED,
            text=f"The feed “{each.name}” {'cannot be read' if each.failing else 'has nothing new'}",
            detail=each.sentence,
            link=f"/sites/{site.id}/figures?show=tables",
            action="Open figures",
            **place(site),
        )
        for site in sites
        for each in figure_feeds.troubles(site.feeds, FEED_FAILURES, today)
    ]


def domains(sites: Sequence[AnyRow], today: date) -> list[DeskItem]:
    """Domains of sites whose registration ends within a month, or has ended, the earliest first."""
    known = ((site, domain_records.named(site.domain)) for site in sites)
    ending = [(site, domain, ends) for site, (domain, ends) in known if ends is not None and ends_soon(ends, today)]
    return [
        DeskItem(
            kind=DeskItemKind.DOMAIN,
            text=f"The registration of {domain} {ends_words(ends, today)}",
            detail="Site and mail go dark when it has ended. Ask whoever registered it to renew it.",
            link=f"/sites/{site.id}/figures?show=tables",
            action="Open figures",
            **place(site),
        )
        for site, domain, ends in sorted(ending, key=lambda each: (each[2], each[1]))
    ]


def service(troubles: Sequence[str]) -> list[DeskItem]:
    """What keeps the service from its work: it concerns everybody, so it stands first."""
    return [DeskItem(kind=DeskItemKind.SERVICE, text=trouble, link="/team", action="Open settings") for trouble in troubles]


def lost_files(sites: Sequence[AnyRow], runs: Mapping[str, AnyRow]) -> list[DeskItem]:
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
                    **place(site),
                )
            )
    return items


def waiting(session: Session) -> tuple[list[DeskItem], list[DeskItem]]:
    """Reports of schedules that wait to be approved; and what was not delivered: mails that were given up, until somebody sends them again; and webhooks that have not been reached for a while, until one takes a message,
    or that have given messages up."""
    mails = (
        select(
            literal("mail").label("kind"), Delivery.recipient.label("name"), Delivery.error, func.count().over().label("number")
        )
        .where(Delivery.state == DeliveryState.GIVEN_UP)
        .order_by(Delivery.at.desc())
        .limit(1)
        .subquery()
    )
    of_hook = WebhookDelivery.webhook_id == Webhook.id
    last = select(WebhookDelivery.error).where(of_hook, WebhookDelivery.attempts > 0).order_by(WebhookDelivery.id.desc()).limit(1)
    given_up = select(func.count()).where(of_hook, WebhookDelivery.state == DeliveryState.GIVEN_UP).scalar_subquery()
    hooks = (
        select(literal("webhook"), Webhook.name, func.coalesce(last.scalar_subquery(), ""), literal(1))
        .where(Webhook.active, or_(Webhook.failures >= WEBHOOK_FAILURES, given_up > 0))
        .order_by(Webhook.id)
        .subquery()
    )
    drafts = (
        select(literal("report"), Report.title, Site.host, Report.id)
        .join(Site, Site.id == Report.site_id)
        .where(Report.schedule_id.is_not(None), Report.state == ReportState.DRAFT, ~Site.archived)
        .order_by(Report.id)
        .subquery()
    )
    items = {"mail": _mails_item, "webhook": _webhook_item, "report": _report_item}
    found = session.execute(union_all(select(mails), select(hooks), select(drafts))).all()
    told = [(row.kind, items[row.kind](row.name, row.error, row.number)) for row in found]
    return [item for kind, item in told if kind == "report"], [item for kind, item in told if kind != "report"]


def _report_item(title: str, host: str, number: int) -> DeskItem:
    text = f"{title} waits to be approved"
    link = f"/reports/{number}"
    return DeskItem(kind=DeskItemKind.REPORT, host=host, text=text, link=link, action="Open report")


def _mails_item(recipient: str, error: str, count: int) -> DeskItem:
    text = "1 mail could not be sent" if count == 1 else f"{count:,} mails could not be sent"
    detail = f"The latest, to {recipient}: {error}"
    return DeskItem(kind=DeskItemKind.MAIL, text=text, detail=detail, link="/team?tab=deliveries", action="Open mails")


def _webhook_item(name: str, error: str, _number: int) -> DeskItem:
    text = f"The webhook “{name}” does not take messages"
    return DeskItem(kind=DeskItemKind.WEBHOOK, text=text, detail=error, link="/team?tab=deliveries", action="Open webhooks")


def alerts(session: Session, places: Mapping[int, dict[str, Any]], told: Collection[int | None] = ()) -> list[DeskItem]:
    """What runs changed for the worse and nobody has fixed or acknowledged, the worst first. That a certificate ends is left out for the sites of
    which that is ``told`` already."""
    alerts = session.scalars(
        select(Alert).join(Site).where(Alert.acknowledged_at.is_(None), Site.kind == SiteKind.OWN, ~Site.archived)
    ).all()
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
        if not (alert.check_id == CERTIFICATE_CHECK and alert.site_id in told)
    ]


def place(site: AnyRow) -> dict[str, Any]:
    """Where a line belongs: the fields of an item that name its site."""
    return {"site_id": site.id, "host": site.host, "client_name": site.client_name}


def late_work(session: Session, member: Member, today: date) -> list[DeskItem]:
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
        .where(Todo.state.in_(UNFINISHED_TODO), Todo.due < today, Todo.assignee_id.is_distinct_from(member.id), ~Site.archived)
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


def waiver_item(places: Mapping[int, dict[str, Any]], row: WaiverRow) -> DeskItem:
    """A waiver that ends soon."""
    return DeskItem(
        kind=DeskItemKind.WAIVER,
        severity=None,
        **places[row.site_id],
        text=f"The waiver of “{waiver_out(row, row.start).summary}” ends on {row.end:%a %d %b}",
        detail=row.reason,
        link=f"/sites/{row.site_id}/plan",
        action="Open waivers",
    )
