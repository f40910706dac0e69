"""What people are told of to-dos by mail: noted in the transaction in which it happens, with the moment at which it is due."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.judge.todos import is_due_soon
from hodcarrier.core.mailing import mail_due, mail_times
from hodcarrier.core.mentions import mentioned
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import UNFINISHED_TODO, MailKind
from hodcarrier.register.models import Client, Member, Site, Todo, TodoEvent, TodoMail
from hodcarrier.usecases.workspace import Workspace, fetch


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


def tell_comment(session: Session, todo: Todo, event: TodoEvent, name: str, by: int = 0) -> None:
    """Tell those whom a comment mentions, and those whom the to-do concerns, that there is one; nobody twice, and its author (``by``) never."""
    members = session.scalars(select(Member).where(Member.active, Member.role != Role.GUEST, Member.id != by)).all()
    called = set(mentioned(event.text, {member.id: member.name for member in members}))
    tell(
        session,
        event.at,
        todo,
        MailKind.MENTIONED,
        [m for m in members if m.id in called],
        _occasion(event),
        f"{name} wrote:",
        event.text,
    )
    rest = [member for member in _concerned(todo) if member.id != by and member.id not in called]
    tell(session, event.at, todo, MailKind.COMMENTED, rest, _occasion(event), f"{name} wrote:", event.text)


def tell_judged(session: Session, todo: Todo, kind: MailKind, event: TodoEvent, by: Member | None = None) -> None:
    """Tell those whom a to-do concerns that a run, or a look that ``by`` asked for, has confirmed it or opened it again (``kind``)."""
    to = [member for member in _concerned(todo) if by is None or member.id != by.id]
    tell(session, event.at, todo, kind, to, _occasion(event), event.text)


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
            .where(Todo.state.in_(UNFINISHED_TODO), Todo.due <= horizon, Todo.assignee_id.is_not(None), ~Site.archived)
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
            elif is_due_soon(todo.due, today, todo.site.client.holiday_dates):
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
