"""To-dos that come back: made again on the days of a rule, while the last one is done."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.errors import InvalidSchedule
from hodcarrier.core.schedule import Recurrence, read_recurrence, short_rule
from hodcarrier.core.states import UNFINISHED_TODO
from hodcarrier.register.models import Member, RecurringTodo, Site, Todo
from hodcarrier.usecases.limits import sees
from hodcarrier.usecases.todo_making import PlainTodo, due_in, make_plain
from hodcarrier.usecases.todo_story import worker_for
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.todo_things import RecurringBody, RecurringOut


def list_recurring(work: Workspace, client_id: int | None = None) -> list[RecurringOut]:
    """Recurring to-dos by when the next one is made; those of archived clients when the client is named."""
    chosen = select(RecurringTodo).join(Site).order_by(RecurringTodo.next_on.nulls_last(), RecurringTodo.id)
    chosen = chosen.where(Site.client_id == client_id if client_id is not None else ~Site.archived)
    with work.reading() as session:
        rows = session.scalars(
            chosen.options(joinedload(RecurringTodo.site).joinedload(Site.client), joinedload(RecurringTodo.assignee))
        )
        return [_out(row) for row in rows]


def add_recurring(work: Workspace, body: RecurringBody, member: Member) -> RecurringOut:
    """Let a to-do come back, the first time on the next day of its rule, today among them. Raises :class:`InvalidSchedule`."""
    today = work.now().date()
    recurrence = _read(body.rule, today)
    with work.session() as session:
        site = fetch(session, Site, body.site_id, "site")
        assignee = worker_for(session, site, body.assignee)
        row = RecurringTodo(
            site_id=body.site_id,
            title=body.title,
            note=body.note,
            rule=recurrence.rule,
            anchor=today,
            next_on=_next(recurrence, today - timedelta(days=1)),
            days=body.days,
            assignee_id=assignee.id if assignee is not None else None,
            author_id=member.id,
            priority=body.priority,
            estimate_hours=body.estimate_hours,
            labels=list(body.labels),
            created_at=work.now(),
        )
        session.add(row)
        session.flush()
        log(session, work.now(), member.id, "recurring to-do added", body.title)
        return _out(row)


def remove_recurring(work: Workspace, recurring_id: int, member: Member) -> None:
    """Let a to-do come back no more; those that were made stay."""
    with work.session() as session:
        row = fetch(session, RecurringTodo, recurring_id, "recurring")
        log(session, work.now(), member.id, "recurring to-do removed", row.title)
        session.delete(row)


def make_due(work: Workspace) -> list[int]:
    """Make the to-dos whose day has come; gives their numbers. Days that were missed are made up for once, and none is made while the last one is not
    done, nor for archived clients. Each in a transaction of its own: one that cannot be made stops none of the others."""
    today = work.now().date()
    with work.reading() as session:
        due = session.scalars(select(RecurringTodo.id).join(Site).where(RecurringTodo.next_on <= today, ~Site.archived)).all()
    made = []
    for number in due:
        with work.session() as session:
            row = session.get(RecurringTodo, number)
            if row is None or row.next_on is None or row.next_on > today:
                continue
            row.next_on = _following(row, today)
            if not _is_open(session, row):
                made.append(_make(session, work, row))
    return made


def _is_open(session: Session, row: RecurringTodo) -> bool:
    last = session.get(Todo, row.last_id) if row.last_id is not None else None
    return last is not None and last.state in UNFINISHED_TODO


def _make(session: Session, work: Workspace, row: RecurringTodo) -> int:
    assignee = row.assignee if row.assignee is not None and row.assignee.active and sees(row.assignee, row.site.client) else None
    todo = make_plain(
        session,
        work,
        row.site,
        PlainTodo(
            title=row.title,
            note=row.note,
            due=due_in(row.site, work.now().date(), row.days),
            assignee_id=assignee.id if assignee is not None else None,
            priority=row.priority,
            estimate_hours=row.estimate_hours,
            labels=tuple(row.labels),
        ),
        None,
        f"Made because it comes back {_words(row)}.",
    )
    row.last_id = todo.id
    return todo.id


def _on_days(rule: str, anchor: date) -> Recurrence:
    """A rule without a time of day. Raises :class:`InvalidSchedule`."""
    return read_recurrence(rule, "00:00", "UTC", datetime.combine(anchor, time(), UTC))


def _read(rule: str, anchor: date) -> Recurrence:
    """A rule of days. Raises :class:`InvalidSchedule`, also for one whose days are all over."""
    recurrence = _on_days(rule, anchor)
    if _next(recurrence, anchor - timedelta(days=1)) is None:
        raise InvalidSchedule(f"“{rule}” names no day that is still to come.", "Give one that goes on.", "rule")
    return recurrence


def _next(recurrence: Recurrence, after: date) -> date | None:
    due = recurrence.next_due(datetime.combine(after, time(), UTC))
    return due.date() if due is not None else None


def _following(row: RecurringTodo, today: date) -> date | None:
    """The next day after today; none for a rule that a later release understands no more."""
    try:
        return _next(_on_days(row.rule, row.anchor), today)
    except InvalidSchedule:
        return None


def _words(row: RecurringTodo) -> str:
    try:
        words = _on_days(row.rule, row.anchor).words
    except InvalidSchedule:
        return "by a rule that cannot be kept any more"
    return words.replace(" at 00:00 (UTC)", "")


def _out(row: RecurringTodo) -> RecurringOut:
    return RecurringOut(
        id=row.id,
        site_id=row.site_id,
        site_host=row.site.host,
        client_name=row.site.client.name,
        title=row.title,
        note=row.note,
        rule=short_rule(row.rule),
        words=_words(row),
        days=row.days,
        assignee=row.assignee_id,
        assignee_name=row.assignee.name if row.assignee is not None else "",
        priority=row.priority,
        estimate_hours=row.estimate_hours,
        labels=row.labels,
        next_on=row.next_on,
        last_todo=row.last_id,
    )
