"""Share links of to-dos: somebody without an account reads one, comments on it, says it is done, and agrees to it when asked."""

from __future__ import annotations

import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.judge.todos import NEXT_STATES
from hodcarrier.core.states import Approval, TodoEventKind, TodoState, Topic
from hodcarrier.register.models import Member, Todo, TodoEvent, TodoLink
from hodcarrier.usecases.announcements import announce_todo
from hodcarrier.usecases.passwords import hash_secret
from hodcarrier.usecases.todo_mails import tell_comment
from hodcarrier.usecases.todo_sheet import TodoSheet, todo_sheet
from hodcarrier.usecases.todo_story import note, set_state
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.todos import TodoLinkBody, TodoLinkOut

COMMENT_CHARS = 5_000
# A link can be passed on; what comes by one must not fill the register.
COMMENTS_MAX = 200


@dataclass(frozen=True)
class Shared:
    """A to-do as somebody with a link sees it. ``may_finish``: it can be said to be done; ``asks``: an answer is waited for."""

    sheet: TodoSheet
    name: str
    may_finish: bool
    asks: bool


def add_todo_link(work: Workspace, todo_id: int, body: TodoLinkBody, member: Member) -> TodoLinkOut:
    """Share a to-do with somebody; the address is in this answer and never again. With ``asks_approval`` the to-do waits for an answer."""
    secret = secrets.token_urlsafe(32)
    with work.session() as session:
        todo = fetch(session, Todo, todo_id, "todo")
        now = work.now()
        link = TodoLink(
            todo_id=todo.id,
            name=body.name,
            secret_hash=hash_secret(secret),
            asks_approval=body.asks_approval,
            author_id=member.id,
            created_at=now,
            expires_at=now + timedelta(days=body.days),
        )
        session.add(link)
        said = f"Shared with {body.name} by a link."
        if body.asks_approval:
            todo.approval = Approval.WAITING
            said = f"{body.name} is asked to agree, by a link."
        note(session, todo, now, member, TodoEventKind.CHANGED, said)
        log(session, now, member.id, "to-do shared", f"{todo.title}, with {body.name}")
        session.flush()
        return _out(link, now, f"{work.address.rstrip('/')}/shared/{secret}")


def list_todo_links(work: Workspace, todo_id: int) -> list[TodoLinkOut]:
    """Whom a to-do was shared with, the latest first."""
    with work.reading() as session:
        fetch(session, Todo, todo_id, "todo")
        rows = session.scalars(select(TodoLink).where(TodoLink.todo_id == todo_id).order_by(TodoLink.id.desc()))
        return [_out(link, work.now()) for link in rows]


def revoke_todo_link(work: Workspace, todo_id: int, link_id: int, member: Member) -> None:
    """End a share link: its address answers no more."""
    with work.session() as session:
        link = session.get(TodoLink, link_id)
        if link is None or link.todo_id != todo_id:
            raise NotFound(f"To-do {todo_id} has no link {link_id}.", f"See `hodcarrier todo links {todo_id}`.")
        link.revoked_at = link.revoked_at or work.now()
        log(session, work.now(), member.id, "to-do link revoked", f"{link.todo.title}, of {link.name}")


def open_link(work: Workspace, secret: str) -> Shared:
    """What a share link shows. Raises :class:`NotFound` for one that there is not, or that has ended."""
    with work.session() as session:
        link = _link(session, work, secret)
        link.seen, link.seen_at = link.seen + 1, work.now()
    return _shared(work, secret)


def answer_link(work: Workspace, secret: str, comment: str, *, done: bool = False, agrees: bool = False) -> Shared:
    """Comment on a shared to-do, say that it is done, or agree to it. Raises :class:`InvalidInput` when nothing is said, :class:`Conflict` when it is done."""
    comment = comment.strip()
    if not (comment or done or agrees):
        raise InvalidInput("The comment is empty.", "Write something.", "comment")
    if len(comment) > COMMENT_CHARS:
        raise InvalidInput(f"The comment is longer than {COMMENT_CHARS:,} characters.", "Shorten it.", "comment")
    with work.session() as session:
        link = _link(session, work, secret)
        todo, now = link.todo, work.now()
        if agrees and link.asks_approval:
            todo.approval = Approval.GIVEN
            note(session, todo, now, None, TodoEventKind.CHANGED, "Agreed to.", by_link=link.name)
        if done:
            _finish(session, todo, link, now)
        if comment:
            _comment(session, todo, link, comment, now)
        todo.version += 1
    return _shared(work, secret)


def _finish(session: Session, todo: Todo, link: TodoLink, now: datetime) -> None:
    if TodoState.DONE not in NEXT_STATES[todo.state]:
        raise Conflict(f"This to-do is {todo.state} already.", "Write a comment if something is missing.")
    note(session, todo, now, None, TodoEventKind.STATE, f"From {todo.state} to done.", by_link=link.name)
    with unless_taken(session, "Its findings are in another to-do by now.", "Write a comment instead."):
        set_state(todo, TodoState.DONE)
    todo.flag = ""
    announce_todo(session, now, Topic.TODO_CHANGED, todo, "Changed: state.", link.name)


def _comment(session: Session, todo: Todo, link: TodoLink, comment: str, now: datetime) -> None:
    written = select(func.count()).where(TodoEvent.todo_id == todo.id, TodoEvent.by_link == link.name)
    if (session.scalar(written) or 0) >= COMMENTS_MAX:
        raise Conflict("There are many comments on this to-do already.", "Ask the agency for a new link.")
    event = note(session, todo, now, None, TodoEventKind.COMMENT, comment, by_link=link.name)
    tell_comment(session, todo, event, link.name)
    announce_todo(session, now, Topic.TODO_COMMENTED, todo, comment, link.name)


def _link(session: Session, work: Workspace, secret: str) -> TodoLink:
    link = session.scalar(select(TodoLink).where(TodoLink.secret_hash == hash_secret(secret)))
    if link is None or link.revoked_at is not None or link.expires_at <= work.now():
        raise NotFound("This link is not valid any more.", "Ask the agency for a new one.")
    return link


def _shared(work: Workspace, secret: str) -> Shared:
    with work.reading() as session:
        link = _link(session, work, secret)
        todo = link.todo
        may_finish = TodoState.DONE in NEXT_STATES[todo.state]
        asks, name, todo_id = link.asks_approval and todo.approval == Approval.WAITING, link.name, todo.id
    return Shared(todo_sheet(work, todo_id), name, may_finish, asks)


def _out(link: TodoLink, now: datetime, url: str | None = None) -> TodoLinkOut:
    return TodoLinkOut(
        id=link.id,
        name=link.name,
        asks_approval=link.asks_approval,
        active=link.revoked_at is None and link.expires_at > now,
        created_at=link.created_at,
        expires_at=link.expires_at,
        seen=link.seen or 0,
        seen_at=link.seen_at,
        url=url,
    )
