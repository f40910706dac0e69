"""Attachments of to-dos: pictures and documents that help to fix something."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload, undefer

from hodcarrier.core.attachments import bytes_of, clean_name, media_of
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.states import TodoEventKind
from hodcarrier.register.models import Member, Todo, TodoFile
from hodcarrier.usecases.todo_story import note
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.todo_things import FILE_BYTES_MAX, TodoFileBody, TodoFileOut

FILES_MAX = 20


def list_files(work: Workspace, todo_id: int) -> list[TodoFileOut]:
    """The attachments of a to-do, the oldest first."""
    with work.reading() as session:
        fetch(session, Todo, todo_id, "todo")
        chosen = select(TodoFile).where(TodoFile.todo_id == todo_id).order_by(TodoFile.id).options(joinedload(TodoFile.author))
        return [_out(row) for row in session.scalars(chosen)]


def add_file(work: Workspace, todo_id: int, body: TodoFileBody, member: Member) -> TodoFileOut:
    """Attach a file. Raises :class:`InvalidInput` for what is no base64 or too large, and :class:`Conflict` for more than :data:`FILES_MAX`."""
    content = bytes_of(body.content)
    if not content:
        raise InvalidInput("The file is empty.", "Choose another one.", "content")
    if len(content) > FILE_BYTES_MAX:
        raise InvalidInput("The file is larger than 5 MiB.", "Attach a smaller one, or link to it in the note.", "content")
    now = work.now()
    with work.session() as session:
        todo = fetch(session, Todo, todo_id, "todo")
        if (session.scalar(select(func.count()).where(TodoFile.todo_id == todo_id)) or 0) >= FILES_MAX:
            raise Conflict(f"The to-do has {FILES_MAX} attachments already.", "Remove one first.")
        row = TodoFile(
            todo_id=todo.id,
            name=clean_name(body.name),
            media=media_of(content),
            size=len(content),
            content=content,
            author_id=member.id,
            created_at=now,
        )
        session.add(row)
        note(session, todo, now, member, TodoEventKind.CHANGED, f"Attached {row.name}.")
        log(session, now, member.id, "file attached", f"{row.name}, to-do {todo.id}")
        session.flush()
        return _out(row)


def read_file(work: Workspace, todo_id: int, file_id: int) -> tuple[TodoFileOut, bytes]:
    """An attachment and its bytes. Raises :class:`NotFound`."""
    with work.reading() as session:
        row = _fetch(session, todo_id, file_id)
        return _out(row), row.content


def remove_file(work: Workspace, todo_id: int, file_id: int, member: Member) -> None:
    """Take an attachment away."""
    with work.session() as session:
        row = _fetch(session, todo_id, file_id)
        todo = fetch(session, Todo, todo_id, "todo")
        note(session, todo, work.now(), member, TodoEventKind.CHANGED, f"Removed the attachment {row.name}.")
        log(session, work.now(), member.id, "attachment removed", f"{row.name}, to-do {todo_id}")
        session.delete(row)


def _fetch(session: Session, todo_id: int, file_id: int) -> TodoFile:
    row = session.scalar(
        select(TodoFile).where(TodoFile.id == file_id, TodoFile.todo_id == todo_id).options(undefer(TodoFile.content))
    )
    if row is None:
        raise NotFound(f"There is no attachment {file_id} of to-do {todo_id}.", "Load the to-do again.")
    return row


def _out(row: TodoFile) -> TodoFileOut:
    author = row.author.name if row.author is not None else ""
    return TodoFileOut(id=row.id, name=row.name, media=row.media, size=row.size, author=author, created_at=row.created_at)
