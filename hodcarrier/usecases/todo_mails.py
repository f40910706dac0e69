"""What people are told of to-dos by mail: noted in the transaction in which it happens, gathered into one mail a person when it is due."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.judge.todos import is_due_soon
from hodcarrier.core.mailing import mail_due, mail_times
from hodcarrier.core.mentions import mentioned
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import UNFINISHED_TODO, MailKind, TodoState
from hodcarrier.core.words import fill
from hodcarrier.register.models import Client, Member, Site, Todo, TodoEvent, TodoMail
from hodcarrier.report.mail import Mail, MailItem, MailPart, draw_mail
from hodcarrier.usecases import outbox
from hodcarrier.usecases.workspace import Workspace, fetch

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


def tell(
    session: Session,
    now: datetime,
    todo: Todo,
    kind: MailKind,
    to: Iterable[Member | None],
    occasion: str,
    text: str = "",
    quote: str = "",
) -> None:
    """Note that members are to be told of a to-do, each at the time they have chosen for that kind. Of one occasion everybody is told once."""
    for member in {each.id: each for each in to if each is not None and each.active and each.role != Role.GUEST}.values():
        due = mail_due(mail_times(member.mail_times)[kind], now, member.mail_zone, member.mail_hour)
        if due is not None:
            told = {
                "todo_id": todo.id,
                "member_id": member.id,
                "kind": kind,
                "occasion": occasion,
                "at": now,
                "due_at": due,
                "text": text,
                "quote": quote,
            }
            session.execute(insert(TodoMail).values(told).on_conflict_do_nothing())


def tell_assigned(session: Session, todo: Todo, event: TodoEvent, by: Member | None) -> None:
    """Tell whoever a to-do was given to, unless they took it themselves."""
    if todo.assignee is not None and (by is None or by.id != todo.assignee.id):
        text = f"{by.name} gave it to you." if by is not None else ""
        tell(session, event.at, todo, MailKind.ASSIGNED, [todo.assignee], _occasion(event), text)


def tell_comment(session: Session, todo: Todo, event: TodoEvent, by: Member) -> None:
    """Tell those whom a comment mentions, and those whom the to-do concerns, that there is one; nobody twice, and its author never."""
    members = session.scalars(select(Member).where(Member.active, Member.role != Role.GUEST, Member.id != by.id)).all()
    called = set(mentioned(event.text, {member.id: member.name for member in members}))
    tell(
        session,
        event.at,
        todo,
        MailKind.MENTIONED,
        [m for m in members if m.id in called],
        _occasion(event),
        f"{by.name} wrote:",
        event.text,
    )
    rest = [member for member in _concerned(todo) if member.id != by.id and member.id not in called]
    tell(session, event.at, todo, MailKind.COMMENTED, rest, _occasion(event), f"{by.name} wrote:", event.text)


def tell_judged(session: Session, todo: Todo, before: TodoState, event: TodoEvent, by: Member | None = None) -> None:
    """Tell those whom a to-do concerns that a run, or a look that ``by`` asked for, has confirmed it or opened it again."""
    to = [member for member in _concerned(todo) if by is None or member.id != by.id]
    if todo.state == TodoState.CONFIRMED != before:
        tell(session, event.at, todo, MailKind.CONFIRMED, to, _occasion(event), event.text)
    elif todo.state == TodoState.OPEN and before in (TodoState.DONE, TodoState.CONFIRMED):
        tell(session, event.at, todo, MailKind.REOPENED, to, _occasion(event), event.text)


def _concerned(todo: Todo) -> list[Member]:
    return [member for member in (todo.assignee, todo.author, *todo.watchers) if member is not None]


def _occasion(event: TodoEvent) -> str:
    return f"event {event.id}"


def remind(work: Workspace) -> None:
    """Note who is to be reminded: of what is due by the next working day, and of what is overdue. Of each due date everybody is told once."""
    now = work.now()
    today = now.date()
    # A working day, a weekend and a row of holidays lie within this.
    horizon = today + timedelta(days=21)
    wanted: list[tuple[int, MailKind, str]] = []
    with work.reading() as session:
        chosen = (
            select(Todo)
            .join(Site)
            .join(Client)
            .where(Todo.state.in_(UNFINISHED_TODO), Todo.due <= horizon, Todo.assignee_id.is_not(None))
            .options(joinedload(Todo.site).joinedload(Site.client), joinedload(Todo.assignee))
        )
        told = select(TodoMail.todo_id, TodoMail.kind, TodoMail.occasion).where(
            TodoMail.kind.in_((MailKind.DUE_SOON, MailKind.OVERDUE)), TodoMail.todo_id == Todo.id
        )
        known = set(session.execute(told.where(Todo.state.in_(UNFINISHED_TODO))).all())
        for todo in session.scalars(chosen):
            assert todo.due is not None
            occasion = f"due {todo.due.isoformat()}"
            if todo.due < today:
                kind = MailKind.OVERDUE
            elif is_due_soon(todo.due, today, [date.fromisoformat(day) for day in todo.site.client.holidays]):
                kind = MailKind.DUE_SOON
            else:
                continue
            if (todo.id, kind, occasion) not in known:
                wanted.append((todo.id, kind, occasion))
    if wanted:
        with work.session() as session:
            for todo_id, kind, occasion in wanted:
                todo = fetch(session, Todo, todo_id, "todo")
                tell(session, now, todo, kind, [todo.assignee], occasion)


def gather(work: Workspace) -> int:
    """Write the mails that are due: one to each member, with all that is to be told by now. Returns how many were written.

    What is no longer so, such as a reminder of a to-do that is done by now, is left out.
    """
    now = work.now()
    with work.reading() as session:
        waiting = session.scalars(
            select(TodoMail.member_id).where(TodoMail.taken_at.is_(None), TodoMail.due_at <= now).distinct()
        ).all()
    written = 0
    for member_id in waiting:
        with work.session() as session:
            written += _write(work, session, fetch(session, Member, member_id, "member"), now)
    return written


def _write(work: Workspace, session: Session, member: Member, now: datetime) -> bool:
    rows = session.scalars(
        select(TodoMail)
        .where(TodoMail.member_id == member.id, TodoMail.taken_at.is_(None), TodoMail.due_at <= now)
        .order_by(TodoMail.id)
        .options(joinedload(TodoMail.todo).joinedload(Todo.site).joinedload(Site.client))
    ).all()
    told = [row for row in rows if member.active and _is_so(row, now.date())]
    mail = _drawn(work, told, now.date()) if told else None
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


def _drawn(work: Workspace, rows: Sequence[TodoMail], today: date) -> Mail:
    parts = []
    for kind in MailKind:
        of_kind = sorted((row for row in rows if row.kind == kind), key=lambda row: (row.todo.due or date.max, row.id))
        if of_kind:
            parts.append(MailPart(HEADINGS[kind], [_item(work, row, today) for row in of_kind]))
    return draw_mail(
        _subject(rows),
        _opening(rows),
        parts,
        "You get this because the to-dos are yours, you watch them, or somebody mentioned you.",
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
