"""When sites are audited."""

from __future__ import annotations

from collections.abc import Collection
from contextlib import suppress
from datetime import datetime
from functools import lru_cache

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import InvalidInput, InvalidSchedule, NotFound
from hodcarrier.core.schedule import read_recurrence, short_rule
from hodcarrier.register.models import ByRule, Client, Member, Schedule, Site
from hodcarrier.usecases.workspace import AnyRow, Workspace, fetch, log
from hodcarrier.wire.schedules import ScheduleBody, ScheduleOut


def get_schedule(work: Workspace, site_id: int) -> ScheduleOut:
    """When a site is audited. Raises :class:`NotFound` when it has no schedule."""
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        if site.schedule is None:
            raise NotFound(
                f"{site.host} has no schedule.", f"Set one with `hodcarrier schedule edit {site.host} weekly:tuesday`."
            )
        return schedule_out(site.schedule)


def schedule_out(row: Schedule | AnyRow) -> ScheduleOut:
    """A schedule, or a row with its columns, as the surfaces show it."""
    words = schedule_words(row.rule, row.at, row.zone, row.anchor)
    return ScheduleOut(
        rule=short_rule(row.rule),
        at=row.at,
        zone=row.zone,
        mail_to=row.mail_to,
        next_due_at=row.next_due_at if row.paused_at is None else None,
        paused_at=row.paused_at,
        retry_at=row.retry_at,
        words=words,
    )


def following(schedule: Schedule, now: datetime) -> datetime | None:
    """When a site is audited next, on a day that its client does not rule out. Raises :class:`InvalidSchedule` for a rule that can be kept no more."""
    return next_time(schedule, schedule.site.client, now)


def next_time(schedule: ByRule, client: Client, now: datetime) -> datetime | None:
    """When a schedule falls due next, on a day that a client does not rule out. Raises :class:`InvalidSchedule` for a rule that can be kept no more."""
    recurrence = read_recurrence(schedule.rule, schedule.at, schedule.zone, schedule.anchor)
    return recurrence.next_due(now, client.blackout_dates)


def keep_rule(row: ByRule, rule: str, at: str, zone: str, client: Client, now: datetime) -> None:
    """Give a schedule the rule that somebody asks for. Raises :class:`InvalidSchedule` for one that cannot be kept, or never falls due."""
    recurrence = read_recurrence(rule, at, zone, now)
    due = recurrence.next_due(now, client.blackout_dates)
    if due is None:
        raise InvalidSchedule(f"“{rule}” names no day that is still to come.", "Give one that goes on.", "rule")
    row.rule, row.at, row.zone, row.anchor = recurrence.rule, f"{recurrence.at:%H:%M}", zone, now
    row.next_due_at = due


def plan_again(session: Session, now: datetime, site_ids: Collection[int]) -> None:
    """Work out anew when these sites are audited next. A schedule that cannot be kept stays as it is; it is told when it is due."""
    for schedule in session.scalars(select(Schedule).where(Schedule.site_id.in_(site_ids))):
        with suppress(InvalidSchedule):
            schedule.next_due_at = following(schedule, now)


def pause_schedule(work: Workspace, site_id: int, member: Member, *, paused: bool) -> ScheduleOut:
    """Let a schedule rest, or go on from now: what it missed is not caught up with. Raises :class:`NotFound` without one."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        if site.schedule is None:
            raise NotFound(
                f"{site.host} has no schedule.", f"Set one with `hodcarrier schedule edit {site.host} weekly:tuesday`."
            )
        set_paused(session, work.now(), site.schedule, paused=paused)
        log(session, work.now(), member.id, "schedule paused" if paused else "schedule resumed", site.host)
        return schedule_out(site.schedule)


def set_paused(session: Session, now: datetime, schedule: Schedule, *, paused: bool) -> None:
    """Pause a schedule or let it go on, in a transaction of its caller."""
    if paused == (schedule.paused_at is not None):
        return
    schedule.paused_at = now if paused else None
    schedule.retry_at = schedule.retry_of = None
    session.flush()
    if not paused:
        plan_again(session, now, [schedule.site_id])


@lru_cache(maxsize=2_000)
def schedule_words(rule: str, at: str, zone: str, anchor: datetime) -> str:
    """When that is, in a sentence. To work out a rule takes as long as to read a site."""
    try:
        return read_recurrence(rule, at, zone, anchor).words
    except InvalidSchedule as problem:
        return f"cannot be kept any more ({problem.message}) Set it anew."


def set_schedule(work: Workspace, site_id: int, body: ScheduleBody, member: Member | None) -> ScheduleOut:
    """Set when a site is audited. Raises :class:`InvalidSchedule`."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        row = put_schedule(session, work.now(), site, body)
        log(session, work.now(), member.id if member else None, "schedule set", site.host)
        return schedule_out(row)


def put_schedule(session: Session, now: datetime, site: Site, body: ScheduleBody) -> Schedule:
    """Give a site a schedule, in a transaction of its caller; one that was paused stays so. Raises :class:`InvalidSchedule` and
    :class:`InvalidInput`."""
    row = site.schedule or Schedule(site_id=site.id, mail_to=[])
    keep_rule(row, body.rule, body.at, body.zone, site.client, now)
    for address in body.mail_to:
        if "@" not in address.strip("@"):
            raise InvalidInput(f"“{address}” is not an e-mail address.", "Give one such as imke@agency.example.", "mail_to")
    row.mail_to = body.mail_to
    row.retry_at = row.retry_of = None
    session.add(row)
    session.flush()
    return row


def remove_schedule(work: Workspace, site_id: int, member: Member) -> None:
    """Stop auditing a site by itself."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        if site.schedule is None:
            raise NotFound(f"{site.host} has no schedule.", "There is nothing to remove.")
        session.delete(site.schedule)
        log(session, work.now(), member.id, "schedule removed", site.host)
