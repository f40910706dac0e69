"""The mails to people that are due: all that is to be told to one of them is one mail."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.mailing import next_morning
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import UNFINISHED_TODO, MailKind, TodoState
from hodcarrier.core.words import fill
from hodcarrier.register.models import Member, Site, Todo, TodoMail
from hodcarrier.report.mail import Mail, MailItem, MailPart, draw_mail
from hodcarrier.usecases import outbox
from hodcarrier.usecases.desk import get_desk
from hodcarrier.usecases.desk_mail import desk_parts, desk_subject
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.desk import DeskOut

HEADINGS = {
    MailKind.MENTIONED: "You were mentioned",
    MailKind.ASSIGNED: "Assigned to you",
    MailKind.REOPENED: "Opened again",
    MailKind.OVERDUE: "Overdue",
    MailKind.DUE_SOON: "Due by the next working day",
    MailKind.COMMENTED: "Comments",
    MailKind.CONFIRMED: "Confirmed",
}
_CLOSED = (TodoState.CONFIRMED, TodoState.DROPPED)


def gather(work: Workspace) -> int:
    """Write the mails that are due: one to each member, with the desk for those who want it in the morning, and all that is to be told of to-dos by now.
    Returns how many were written.

    What is no longer so, such as a reminder of a to-do that is done by now, is left out.
    """
    now = work.now()
    told = select(TodoMail.member_id).where(TodoMail.taken_at.is_(None), TodoMail.due_at <= now)
    waking = select(Member.id).where(Member.morning_at <= now)
    with work.reading() as session:
        waiting = session.scalars(told.union(waking)).all()
    written = 0
    for member_id in waiting:
        with work.reading() as session:
            member = fetch(session, Member, member_id, "member")
            session.expunge(member)
        wanted = member.morning_at is not None and member.morning_at <= now and member.active and member.role != Role.GUEST
        desk = get_desk(work, member) if wanted else None
        with work.session() as session:
            written += _write(work, session, fetch(session, Member, member_id, "member"), now, desk)
    return written


def _write(work: Workspace, session: Session, member: Member, now: datetime, desk: DeskOut | None) -> bool:
    if member.morning_at is not None and member.morning_at <= now:
        member.morning_at = next_morning(now, member.mail_zone, member.mail_hour) if member.morning else None
    else:
        desk = None  # another one has sent it meanwhile
    rows = session.scalars(
        select(TodoMail)
        .where(TodoMail.member_id == member.id, TodoMail.taken_at.is_(None), TodoMail.due_at <= now)
        .order_by(TodoMail.id)
        .options(joinedload(TodoMail.todo).joinedload(Todo.site).joinedload(Site.client))
    ).all()
    told = [row for row in rows if member.active and _is_so(row, now.date())]
    mail = _drawn(work, told, now.date(), desk) if told or desk else None
    delivery = outbox.post_one(session, now, None, member.email, mail.subject, mail.text, mail.html) if mail else None
    for row in rows:
        row.taken_at = now
        row.delivery_id = delivery.id if delivery is not None and row in told else None
    return mail is not None


def _is_so(row: TodoMail, today: date) -> bool:
    """Whether what was to be told is so still."""
    todo = row.todo
    match row.kind:
        case MailKind.ASSIGNED:
            return todo.assignee_id == row.member_id and todo.state not in _CLOSED
        case MailKind.DUE_SOON | MailKind.OVERDUE:
            same = todo.due is not None and row.occasion == f"due {todo.due.isoformat()}" and todo.assignee_id == row.member_id
            late = todo.due is not None and todo.due < today
            return same and todo.state in UNFINISHED_TODO and late == (row.kind == MailKind.OVERDUE)
        case MailKind.REOPENED:
            return todo.state in (*UNFINISHED_TODO, TodoState.DONE)
        case MailKind.CONFIRMED:
            return todo.state == TodoState.CONFIRMED
        case MailKind.MENTIONED | MailKind.COMMENTED:
            return True


def _drawn(work: Workspace, rows: Sequence[TodoMail], today: date, desk: DeskOut | None) -> Mail:
    parts = desk_parts(desk, work.address) if desk is not None else []
    for kind in MailKind:
        of_kind = sorted((row for row in rows if row.kind == kind), key=lambda row: (row.todo.due or date.max, row.id))
        if of_kind:
            parts.append(MailPart(HEADINGS[kind], [_item(work, row, today) for row in of_kind]))
    return draw_mail(
        desk_subject(desk) if desk is not None else _subject(rows),
        ("Everything is quiet. " if desk.quiet else "") + f"{desk.sentence}." if desk is not None else _opening(rows),
        parts,
        "You get the desk every working morning because you asked for it."
        if desk is not None
        else "You get this because the to-dos are yours, you watch them, or somebody mentioned you.",
        f"{work.address}/team?tab=you#mails" if work.address else "",
    )


def _subject(rows: Sequence[TodoMail]) -> str:
    kinds = {row.kind for row in rows}
    if len(rows) == 1:
        todo = rows[0].todo
        return f"{HEADINGS[rows[0].kind]}: {todo.title} ({todo.site.host})"
    if len(kinds) == 1:
        return f"{HEADINGS[rows[0].kind]}: {_todos(rows)}"
    return f"News of {_todos(rows)}"


def _opening(rows: Sequence[TodoMail]) -> str:
    counts = [(kind, sum(row.kind == kind for row in rows)) for kind in MailKind]
    said = [fill(_COUNTED[kind], {"n": count}) for kind, count in counts if count]
    return f"{', '.join(said[:-1])} and {said[-1]}." if len(said) > 1 else f"{said[0]}."


_COUNTED = {
    MailKind.MENTIONED: "{n:mention}",
    MailKind.ASSIGNED: "{n:to-do} assigned to you",
    MailKind.REOPENED: "{n:to-do} opened again",
    MailKind.OVERDUE: "{n:to-do} overdue",
    MailKind.DUE_SOON: "{n:to-do} due by the next working day",
    MailKind.COMMENTED: "{n:comment}",
    MailKind.CONFIRMED: "{n:to-do} confirmed",
}


def _todos(rows: Sequence[TodoMail]) -> str:
    return fill("{n:to-do}", {"n": len({row.todo_id for row in rows})})


def _item(work: Workspace, row: TodoMail, today: date) -> MailItem:
    todo = row.todo
    facts = [todo.site.client.name, todo.site.host, todo.severity.value]
    if todo.places:
        facts.append(
            f"{todo.cleared} of {todo.places:,} places cleared" if todo.cleared else fill("{n:place}", {"n": todo.places})
        )
    if todo.due is not None and todo.state not in _CLOSED:
        late = (today - todo.due).days
        facts.append(
            f"due {todo.due:%a} {todo.due.day} {todo.due:%b %Y}" + (fill(", {n:day} overdue", {"n": late}) if late > 0 else "")
        )
    url = f"{work.address}/todos/{todo.id}" if work.address else ""
    lines = [" · ".join(facts), *([row.text] if row.text else [])]
    return MailItem(f"{todo.id}. {todo.title}", url, lines, row.quote)
