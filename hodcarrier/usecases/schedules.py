"""When sites are audited."""

from __future__ import annotations

from datetime import datetime
from functools import lru_cache

from hodcarrier.core.errors import InvalidInput, InvalidSchedule, NotFound
from hodcarrier.core.schedule import read_recurrence, short_rule
from hodcarrier.register.models import Member, Schedule, Site
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
    words = _words(row.rule, row.at, row.zone, row.anchor)
    return ScheduleOut(
        rule=short_rule(row.rule), at=row.at, zone=row.zone, mail_to=row.mail_to, next_due_at=row.next_due_at, words=words
    )


@lru_cache(maxsize=2_000)
def _words(rule: str, at: str, zone: str, anchor: datetime) -> str:
    """When that is, in a sentence. To work out a rule takes as long as to read a site."""
    try:
        return read_recurrence(rule, at, zone, anchor).words
    except InvalidSchedule as problem:
        return f"cannot be kept any more ({problem.message}) Set it anew."


def set_schedule(work: Workspace, site_id: int, body: ScheduleBody, member: Member | None) -> ScheduleOut:
    """Set when a site is audited. Raises :class:`InvalidSchedule`."""
    now = work.now()
    recurrence = read_recurrence(body.rule, body.at, body.zone, now)
    due = recurrence.next_due(now)
    if due is None:
        raise InvalidSchedule(f"“{body.rule}” names no day that is still to come.", "Give one that goes on.", "rule")
    for address in body.mail_to:
        if "@" not in address.strip("@"):
            raise InvalidInput(f"“{address}” is not an e-mail address.", "Give one such as imke@agency.example.", "mail_to")
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        row = site.schedule or Schedule(site_id=site.id, mail_to=[])
        row.rule, row.at, row.zone, row.anchor = recurrence.rule, f"{recurrence.at:%H:%M}", body.zone, now
        row.next_due_at, row.mail_to = due, body.mail_to
        session.add(row)
        session.flush()
        log(session, now, member.id if member else None, "schedule set", site.host)
        return schedule_out(row)


def remove_schedule(work: Workspace, site_id: int, member: Member) -> None:
    """Stop auditing a site by itself."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        if site.schedule is None:
            raise NotFound(f"{site.host} has no schedule.", "There is nothing to remove.")
        session.delete(site.schedule)
        log(session, work.now(), member.id, "schedule removed", site.host)
