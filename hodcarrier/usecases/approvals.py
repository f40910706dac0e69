"""Clients agree to to-dos, or ask back: signed in as a guest, where the client wants that of every to-do, or it was asked of one."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, InvalidInput
from hodcarrier.core.states import LIVE_TODO, Approval, TodoEventKind, Topic
from hodcarrier.register.models import Member, Site, Todo
from hodcarrier.usecases.announcements import announce_todo
from hodcarrier.usecases.todo_mails import tell_comment
from hodcarrier.usecases.todo_story import note
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.approvals import AnswerBody, ApprovalOut


def list_approvals(work: Workspace, only: int | None = None) -> list[ApprovalOut]:
    """Live to-dos that wait for a client to agree, by due date; ``only`` is the client a guest belongs to."""
    chosen = (
        select(Todo)
        .join(Site)
        .where(Todo.approval == Approval.WAITING, Todo.state.in_(LIVE_TODO), ~Site.archived)
        .order_by(Todo.due.nulls_last(), Todo.id)
        .options(joinedload(Todo.site).joinedload(Site.client))
    )
    if only is not None:
        chosen = chosen.where(Site.client_id == only)
    with work.reading() as session:
        return [_out(todo) for todo in session.scalars(chosen)]


def answer_approval(work: Workspace, todo_id: int, body: AnswerBody, member: Member) -> ApprovalOut:
    """Agree to a to-do, or ask back, which whoever works on it is told. Raises :class:`Conflict` when nobody is asked any more, and
    :class:`InvalidInput` for a question without words."""
    if not body.agrees and not body.comment:
        raise InvalidInput("What should be different?", "Write it, so that it can be answered.", "comment")
    now = work.now()
    with work.session() as session:
        todo = fetch(session, Todo, todo_id, "todo")
        if todo.approval != Approval.WAITING:
            raise Conflict("This to-do does not wait for an answer any more.", "Load the list again.")
        if body.agrees:
            todo.approval = Approval.GIVEN
            note(session, todo, now, member, TodoEventKind.CHANGED, "Agreed to.")
            announce_todo(session, now, Topic.TODO_CHANGED, todo, "Agreed to.", member.name)
        if body.comment:
            event = note(session, todo, now, member, TodoEventKind.COMMENT, body.comment)
            tell_comment(session, todo, event, member.name, member.id or 0)
            announce_todo(session, now, Topic.TODO_COMMENTED, todo, body.comment, member.name)
        todo.version += 1
        return _out(todo)


def _out(todo: Todo) -> ApprovalOut:
    known = catalogue.load()
    return ApprovalOut(
        todo_id=todo.id,
        title=todo.title,
        note=todo.note,
        client_name=todo.site.client.name,
        site_host=todo.site.host,
        why=known[todo.check_id].check.why if todo.check_id in known else "",
        severity=todo.severity,
        priority=todo.priority,
        state=todo.state,
        due=todo.due,
        places=todo.places,
        gain=todo.gain,
        version=todo.version,
    )
