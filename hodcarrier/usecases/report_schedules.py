"""Reports that are made by themselves: when, from which template, who approves them, whom they go to."""

from __future__ import annotations

from datetime import datetime
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.errors import Conflict, HodcarrierError, InvalidInput, InvalidSchedule
from hodcarrier.core.reports.days import covered, due_after, due_by
from hodcarrier.core.schedule import read_time
from hodcarrier.core.states import ReportSpan, SiteKind
from hodcarrier.register.models import Member, Report, ReportSchedule, Site
from hodcarrier.report.mail import MailItem, MailPart, draw_mail
from hodcarrier.usecases import outbox
from hodcarrier.usecases.report_templates import find_report_template
from hodcarrier.usecases.reports import add_report
from hodcarrier.usecases.todo_story import member_for
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.reports import (
    Recipient,
    ReportBody,
    ReportScheduleBody,
    ReportScheduleChange,
    ReportScheduleOut,
)

_ORDINALS = {1: "first", 2: "second", 3: "third"}
_TAKEN = "There is a schedule for this site, template and span already."


def list_report_schedules(work: Workspace, client_id: int | None = None) -> list[ReportScheduleOut]:
    """Schedules of reports by when the next one is made; those of archived clients when the client is named."""
    chosen = select(ReportSchedule).join(Site).order_by(ReportSchedule.next_due_at.nulls_last(), ReportSchedule.id)
    chosen = chosen.where(Site.client_id == client_id if client_id is not None else ~Site.archived)
    chosen = chosen.options(joinedload(ReportSchedule.site).joinedload(Site.client), joinedload(ReportSchedule.owner))
    with work.reading() as session:
        return [_out(session, row) for row in session.scalars(chosen)]


def add_report_schedule(work: Workspace, body: ReportScheduleBody, member: Member) -> ReportScheduleOut:
    """Let reports of a site be made by themselves. Raises :class:`InvalidSchedule` for a time that is none, and :class:`Conflict` when there is such a schedule."""
    with work.session() as session:
        site = fetch(session, Site, body.site_id, "site")
        if site.kind != SiteKind.OWN:
            raise InvalidInput(f"{site.host} is a competitor.", "Name one of the client's own sites.", "site_id")
        find_report_template(session, body.template)
        owner = member_for(session, body.owner_id, "owner_id")
        row = ReportSchedule(
            site_id=site.id,
            template=body.template,
            span=body.span,
            working_day=body.working_day,
            at=body.at,
            zone=body.zone,
            recipients=_stored(body.recipients),
            subject=body.subject,
            cover=body.cover,
            owner_id=owner.id if owner is not None else site.client.owner_id,
            created_at=work.now(),
        )
        row.next_due_at = _next(row, site, work.now())
        with unless_taken(session, _TAKEN, "Change that one."):
            session.add(row)
            session.flush()
        log(session, work.now(), member.id, "report schedule added", site.host)
        session.refresh(row)
        return _out(session, row)


def change_report_schedule(work: Workspace, schedule_id: int, body: ReportScheduleChange, member: Member) -> ReportScheduleOut:
    """Change what is given; one that goes on again does so from now."""
    with work.session() as session:
        row = fetch(session, ReportSchedule, schedule_id, "schedule")
        if body.template is not None:
            find_report_template(session, body.template)
        if "owner_id" in body.model_fields_set:
            owner = member_for(session, body.owner_id, "owner_id")
            row.owner_id = owner.id if owner is not None else None
        with unless_taken(session, _TAKEN, "Change that one."):
            for name in ("template", "span", "working_day", "at", "zone", "subject", "cover"):
                value = getattr(body, name)
                if value is not None:
                    setattr(row, name, value)
            if body.recipients is not None:
                row.recipients = _stored(body.recipients)
            if body.paused is not None and body.paused != (row.paused_at is not None):
                row.paused_at = work.now() if body.paused else None
            row.trouble, row.next_due_at = "", _next(row, row.site, work.now())
            session.flush()
        log(session, work.now(), member.id, "report schedule changed", row.site.host)
        session.refresh(row)
        return _out(session, row)


def remove_report_schedule(work: Workspace, schedule_id: int, member: Member) -> None:
    """Let no more reports be made by it; those that were made stay."""
    with work.session() as session:
        row = fetch(session, ReportSchedule, schedule_id, "schedule")
        log(session, work.now(), member.id, "report schedule removed", row.site.host)
        session.delete(row)


def make_due_reports(work: Workspace, agency: str) -> list[int]:
    """Make the reports that are due, each by itself; gives their numbers. Of several that were missed the latest is made. One that cannot be made says why on its schedule,
    and is tried again the next time round."""
    now = work.now()
    with work.reading() as session:
        due = session.scalars(
            select(ReportSchedule.id)
            .join(Site)
            .where(ReportSchedule.next_due_at <= now, ReportSchedule.paused_at.is_(None), ~Site.archived)
        ).all()
    return [number for schedule_id in due if (number := _make_and_go_on(work, schedule_id, agency)) is not None]


def make_report(work: Workspace, schedule_id: int, agency: str) -> int | None:
    """Make the report of a schedule whose day came last, and tell whoever is in charge; gives its number, ``None`` when it is there already. Raises
    :class:`HodcarrierError` when it cannot be made."""
    with work.reading() as session:
        row = fetch(session, ReportSchedule, schedule_id, "schedule")
        holidays = row.site.client.holiday_dates
        due = due_by(row.span, row.working_day, read_time(row.at, "at"), row.zone, work.now(), holidays)
        first, last = covered(row.span, row.working_day, due.astimezone(ZoneInfo(row.zone)).date(), holidays)
        body = ReportBody(site_id=row.site_id, from_day=first, to_day=last, template=row.template)
        made = select(Report.id).where(Report.schedule_id == row.id, Report.from_day == first)
        if session.scalar(made) is not None:
            return None
    try:
        number = add_report(work, body, None, agency, schedule_id).id
    except Conflict:
        return None  # another one has made it meanwhile
    with work.session() as session:
        _tell(work, session, fetch(session, ReportSchedule, schedule_id, "schedule"), fetch(session, Report, number, "report"))
    return number


def _make_and_go_on(work: Workspace, schedule_id: int, agency: str) -> int | None:
    """Make the report that a schedule asks for, and wait for the next; what cannot be made says why."""
    number, trouble = None, ""
    try:
        number = make_report(work, schedule_id, agency)
    except HodcarrierError as problem:
        trouble = f"{problem.message} {problem.hint}"
    with work.session() as session:
        row = session.get(ReportSchedule, schedule_id)
        if row is None:
            return number
        if trouble:
            if row.trouble != trouble:
                log(session, work.now(), None, "report not made", f"{row.site.host}: {trouble}")
            row.trouble = trouble
            return None
        row.trouble, row.next_due_at = "", _next(row, row.site, work.now())
    return number


def _tell(work: Workspace, session: Session, row: ReportSchedule, report: Report) -> None:
    """Tell whoever is in charge that a report waits to be approved."""
    owner = row.owner or row.site.client.owner
    if owner is None or not owner.active:
        return
    goes_to = ", ".join(each["name"] for each in row.recipients) or "nobody yet"
    item = MailItem(report.title, f"{work.address}/reports/{report.id}", [f"Goes to: {goes_to}"])
    opening = "A report was made by its schedule. Read it, add your notes, and approve it: nothing goes to a client before."
    mail = draw_mail(
        f"To approve: {report.title}",
        opening,
        [MailPart("Waits for you", [item])],
        "You get this because you are in charge of this schedule.",
        "",
    )
    outbox.post_one(session, work.now(), None, owner.email, mail.subject, mail.text, mail.html)


def _next(row: ReportSchedule, site: Site, now: datetime) -> datetime:
    at = read_time(row.at, "at")
    try:
        ZoneInfo(row.zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise InvalidSchedule(f"“{row.zone}” is no time zone.", "Give one such as Europe/London.", "zone") from None
    row.at = f"{at:%H:%M}"
    return due_after(row.span, row.working_day, at, row.zone, now, site.client.holiday_dates)


def schedule_words(row: ReportSchedule) -> str:
    """When that is, in words."""
    nth = _ORDINALS.get(row.working_day, f"{row.working_day}th")
    span = {ReportSpan.WEEK: "week", ReportSpan.MONTH: "month", ReportSpan.QUARTER: "quarter"}[row.span]
    return f"on the {nth} working day after each {span} at {row.at} ({row.zone})"


def _stored(recipients: list[Recipient]) -> list[dict[str, object]]:
    return [each.model_dump() for each in recipients]


def _out(session: Session, row: ReportSchedule) -> ReportScheduleOut:
    try:
        name = find_report_template(session, row.template).name
    except HodcarrierError:
        name = "a template that was removed"
    return ReportScheduleOut(
        id=row.id,
        site_id=row.site_id,
        site_host=row.site.host,
        client_name=row.site.client.name,
        template=row.template,
        template_name=name,
        span=row.span,
        working_day=row.working_day,
        at=row.at,
        zone=row.zone,
        recipients=[Recipient.model_validate(each) for each in row.recipients],
        subject=row.subject,
        cover=row.cover,
        owner_id=row.owner_id,
        owner=row.owner.name if row.owner is not None else "",
        words=schedule_words(row),
        next_due_at=row.next_due_at if row.paused_at is None else None,
        paused_at=row.paused_at,
        trouble=row.trouble,
    )
