"""To-dos are changed: one, or several at once with the way back."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict, HodcarrierError, InvalidInput
from hodcarrier.core.judge.todos import NEXT_STATES
from hodcarrier.core.states import TodoEventKind, TodoState, Topic
from hodcarrier.register.models import Member, Todo
from hodcarrier.usecases.announcements import announce_todo
from hodcarrier.usecases.todo_lists import todo_out
from hodcarrier.usecases.todo_mails import tell_assigned, tell_comment
from hodcarrier.usecases.todo_story import note, set_labels, set_state, set_watchers, worker_for
from hodcarrier.usecases.workspace import Workspace, fetch, unless_taken
from hodcarrier.wire.todos import TodoChange, TodoEdit, TodoOut, TodosChange, TodosChanged


def change_todo(work: Workspace, todo_id: int, change: TodoChange, version: int | None, member: Member) -> TodoOut:
    """Change a to-do or comment on it. Raises :class:`Conflict` for a step its state does not permit."""
    with work.session() as session:
        todo = fetch(session, Todo, todo_id, "todo")
        _change(session, todo, change, version, work.now(), member)
        return todo_out(todo, work.now().date(), full=True)


def change_todos(work: Workspace, body: TodosChange, member: Member) -> TodosChanged:
    """Change several to-dos, all of them or none; gives them with the changes that would undo it.

    Raises what :func:`change_todo` raises, naming the to-do.
    """
    now, undo = work.now(), []
    with work.session() as session:
        changed = []
        for edit in body.changes:
            todo = fetch(session, Todo, edit.id, "todo")
            before = _as_it_is(todo, edit)
            given = {name: getattr(edit, name) for name in edit.model_fields_set - {"id", "version"}}
            try:
                _change(session, todo, TodoChange(**given), edit.version, now, member, body.undo)
            except HodcarrierError as error:
                error.message = f"To-do {todo.id}, “{todo.title}”: {error.message}"
                raise
            changed.append(todo)
            undo.append(TodoEdit(**before))
        return TodosChanged(todos=[todo_out(todo, now.date(), watched=True) for todo in changed], undo=undo[::-1])


def _as_it_is(todo: Todo, edit: TodoEdit) -> dict[str, Any]:
    """The values that an edit is about to change, as the edit that brings them back."""
    now: dict[str, Any] = {
        "title": todo.title,
        "note": todo.note,
        "assignee": todo.assignee_id,
        "due": todo.due,
        "priority": todo.priority,
        "estimate_hours": todo.estimate_hours,
        "labels": todo.labels,
        "watchers": [watcher.id for watcher in todo.watchers],
    }
    back = {name: value for name, value in now.items() if name in edit.model_fields_set}
    if edit.state is not None and edit.state != todo.state:
        # What was dropped goes back by way of open, the only step there is.
        back["state"] = todo.state if todo.state in NEXT_STATES[edit.state] else TodoState.OPEN
    return {"id": todo.id, **back}


def _change(
    session: Session, todo: Todo, change: TodoChange, version: int | None, now: datetime, member: Member, undo: bool = False
) -> None:
    given = change.model_fields_set
    if version is not None and version != todo.version:
        raise Conflict("Somebody changed this to-do in the meantime.", "Look at what they changed, then repeat yours.")
    if change.due is not None and change.due < now.date() and change.due != todo.due and not undo:
        raise InvalidInput(f"The due date {change.due:%a %d %b %Y} is in the past.", "Give today or a later day.", "due")
    if change.state is not None and change.state != todo.state:
        _move(session, todo, change, now, member)
    said: list[tuple[TodoEventKind, str]] = []
    if "assignee" in given and change.assignee != todo.assignee_id:
        todo.assignee = worker_for(session, todo.site, change.assignee)
        todo.assignee_id = change.assignee
        said.append((TodoEventKind.ASSIGNED, f"Given to {todo.assignee.name}." if todo.assignee else "Given to nobody."))
    if "due" in given and change.due != todo.due:
        todo.due = change.due
        said.append((TodoEventKind.DUE, f"Due {change.due:%a %d %b %Y}." if change.due else "Due date taken away."))
    if change.priority is not None and change.priority != todo.priority:
        todo.priority = change.priority
        said.append((TodoEventKind.CHANGED, f"Priority {change.priority}."))
    if "estimate_hours" in given and change.estimate_hours != todo.estimate_hours:
        todo.estimate_hours = change.estimate_hours
        hours = f"{change.estimate_hours:g} h" if change.estimate_hours is not None else "taken away"
        said.append((TodoEventKind.CHANGED, f"Estimate {hours}."))
    if change.labels is not None:
        set_labels(todo, change.labels)
    if change.watchers is not None:
        set_watchers(session, todo, todo.site, change.watchers)
    if change.title is not None:
        todo.title = change.title
    if change.note is not None:
        todo.note = change.note
    if change.comment:
        said.append((TodoEventKind.COMMENT, change.comment))
    for kind, text in said:
        event = note(session, todo, now, member, kind, text)
        if kind == TodoEventKind.ASSIGNED:
            tell_assigned(session, todo, event, member)
        elif kind == TodoEventKind.COMMENT:
            tell_comment(session, todo, event, member.name, member.id)
            announce_todo(session, now, Topic.TODO_COMMENTED, todo, text, member.name)
    todo.version += 1
    session.flush()
    changed = [name.replace("_", " ") for name in TodoChange.model_fields if name in given - {"comment", "drop_reason"}]
    if changed:
        announce_todo(session, now, Topic.TODO_CHANGED, todo, f"Changed: {', '.join(changed)}.", member.name)


def _move(session: Session, todo: Todo, change: TodoChange, now: datetime, member: Member) -> None:
    state = change.state or todo.state
    if state == TodoState.CONFIRMED:
        raise Conflict("Only a run can confirm a to-do.", "Mark it done; the next run of the site looks at its places.")
    if state not in NEXT_STATES[todo.state]:
        raise Conflict(
            f"A to-do that is {todo.state} cannot become {state}.", f"It can become {' or '.join(NEXT_STATES[todo.state])}."
        )
    if state == TodoState.DROPPED:
        if not (change.drop_reason or "").strip():
            raise InvalidInput("Dropping a to-do needs a reason.", "Say why it will not be done.", "drop_reason")
        todo.drop_reason = change.drop_reason or ""
    reason = f" Reason: {change.drop_reason}" if state == TodoState.DROPPED else ""
    note(session, todo, now, member, TodoEventKind.STATE, f"From {todo.state} to {state}.{reason}")
    with unless_taken(session, "Its findings are in another to-do by now.", "Change that one instead."):
        set_state(todo, state)
    todo.flag = ""
    todo.closed_at = now if state == TodoState.DROPPED else None
