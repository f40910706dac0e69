"""To-dos as the surfaces show them, one by one and in lists."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any, Literal

from sqlalchemy import Case, ColumnElement, Select, case, func, select, true
from sqlalchemy.orm import joinedload

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import LIVE_TODO, UNFINISHED_TODO, DueSpan, Priority, Severity, TodoOrder, TodoState
from hodcarrier.register.models import Member, Site, Todo, TodoEvent
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.base import Listed
from hodcarrier.wire.todos import TodoEventOut, TodoOut, TodoPlace, WatcherOut


@dataclass(frozen=True)
class TodoFilter:
    """Which to-dos are meant, and in what order; what is left out narrows nothing. ``state`` may be ``live``: open, doing or done. ``sort`` is a
    :class:`TodoOrder`, with ``-`` in front for descending."""

    site: int | None = None
    client: int | None = None
    assignee: int | None = None
    state: TodoState | Literal["live", ""] = ""
    due: DueSpan | None = None
    label: str = ""
    severity: Severity | None = None
    priority: Priority | None = None
    text: str = ""
    due_from: date | None = None
    due_to: date | None = None
    sort: str = TodoOrder.DUE


def list_todos(work: Workspace, which: TodoFilter | None = None, *, limit: int = 200, after: int = 0) -> Listed[TodoOut]:
    """To-dos, live ones first, a part at a time; ``after`` is the number of those that came before. Raises :class:`InvalidInput` for an order that
    there is not."""
    today = work.now().date()
    which = which or TodoFilter()
    try:
        order = TodoOrder(which.sort.removeprefix("-"))
    except ValueError:
        raise InvalidInput(f"To-dos cannot be sorted by “{which.sort}”.", f"Orders are {', '.join(TodoOrder)}.", "sort") from None
    with work.reading() as session:
        chosen = select(Todo).join(Site).where(*_conditions(which, today))
        total = session.scalar(select(func.count()).select_from(chosen.subquery())) or 0
        ordered = in_order(chosen, order, descending=which.sort.startswith("-")).limit(limit).offset(after)
        items = [todo_out(todo, today) for todo in session.scalars(ordered)]
    following = after + len(items)
    return Listed(items=items, total=total, after=str(following) if following < total else None)


def _conditions(which: TodoFilter, today: date) -> Iterator[ColumnElement[bool]]:
    if which.site is not None:
        yield Todo.site_id == which.site
    if which.client is not None:
        yield Site.client_id == which.client
    elif which.site is None:
        yield ~Site.archived
    if which.assignee is not None:
        yield Todo.assignee_id == which.assignee
    if which.state == "live":
        yield Todo.state.in_(LIVE_TODO)
    elif which.state:
        yield Todo.state == which.state
    if which.due is not None:
        yield due_span(today) == which.due
    if which.due == DueSpan.OVERDUE:
        yield Todo.state.in_(UNFINISHED_TODO)
    if which.label:
        each = func.json_each(Todo.labels).table_valued("value")
        yield select(1).select_from(each).where(func.lower(each.c.value) == which.label.lower()).exists()
    if which.severity is not None:
        yield Todo.severity == which.severity
    if which.priority is not None:
        yield Todo.priority == which.priority
    for word in which.text.split():
        yield Todo.title.icontains(word, autoescape=True) | Todo.note.icontains(word, autoescape=True)
    if which.due_from is not None:
        yield Todo.due >= which.due_from
    if which.due_to is not None:
        yield Todo.due <= which.due_to


def due_span(today: date) -> Case[str]:
    """The :class:`DueSpan` in which a to-do is due, as a column."""
    monday = today - timedelta(days=today.weekday())
    return case(
        (Todo.due.is_(None), DueSpan.UNDATED),
        (Todo.due < today, DueSpan.OVERDUE),
        (Todo.due < monday + timedelta(weeks=1), DueSpan.THIS_WEEK),
        (Todo.due < monday + timedelta(weeks=2), DueSpan.NEXT_WEEK),
        else_=DueSpan.LATER,
    )


def get_todo(work: Workspace, todo_id: int) -> TodoOut:
    """One to-do with its places and everything that happened to it."""
    with work.reading() as session:
        return todo_out(fetch(session, Todo, todo_id, "todo"), work.now().date(), full=True)


def list_labels(work: Workspace) -> list[str]:
    """The labels that to-dos have, by name."""
    with work.reading() as session:
        each = func.json_each(Todo.labels).table_valued("value")
        name = func.lower(each.c.value)
        return list(
            session.scalars(select(func.min(each.c.value)).select_from(Todo).join(each, true()).group_by(name).order_by(name))
        )


def in_order(chosen: Select[Todo], sort: TodoOrder, *, descending: bool = False) -> Select[Todo]:
    """To-dos in an order, live ones first and those without a value last, with what is shown of each read along."""
    severity = case({name: rank for rank, name in enumerate(Severity)}, value=Todo.severity)
    name = select(Member.name).where(Member.id == Todo.assignee_id).scalar_subquery()
    column: dict[TodoOrder, Any] = {
        TodoOrder.DUE: Todo.due,
        TodoOrder.SEVERITY: severity,
        TodoOrder.TITLE: func.lower(Todo.title),
        TodoOrder.STATE: Todo.state,
        TodoOrder.ASSIGNEE: func.lower(name),
        TodoOrder.PRIORITY: case({name: rank for rank, name in enumerate(Priority)}, value=Todo.priority),
        TodoOrder.GAIN: Todo.gain,
        TodoOrder.CREATED: Todo.created_at,
        TodoOrder.CLEARED: Todo.cleared * 1.0 / func.nullif(Todo.places, 0),
    }
    by = column[sort].desc() if descending else column[sort].asc()
    surroundings = (joinedload(Todo.site).joinedload(Site.client), joinedload(Todo.assignee), joinedload(Todo.author))
    return chosen.order_by(Todo.state.not_in(LIVE_TODO), by.nulls_last(), Todo.id).options(*surroundings)


def todo_out(todo: Todo, today: date, full: bool = False, watched: bool = False) -> TodoOut:
    """A to-do as the surfaces show it: in ``full`` with its places and story, or with those who have it ``watched``; lists need neither."""
    overdue = todo.state in UNFINISHED_TODO and todo.due is not None and todo.due < today
    return TodoOut(
        id=todo.id,
        site_id=todo.site_id,
        site_host=todo.site.host,
        client_name=todo.site.client.name,
        title=todo.title,
        note=todo.note,
        check=todo.check_id,
        severity=todo.severity,
        state=todo.state,
        flag=todo.flag,
        drop_reason=todo.drop_reason,
        assignee_id=todo.assignee_id,
        assignee=todo.assignee.name if todo.assignee else "",
        author=todo.author.name if todo.author else "",
        priority=todo.priority,
        estimate_hours=todo.estimate_hours,
        labels=todo.labels,
        watchers=[WatcherOut(id=w.id, name=w.name) for w in todo.watchers] if full or watched else [],
        gain=todo.gain,
        approval=todo.approval,
        due=todo.due,
        overdue=overdue,
        days_late=(today - todo.due).days if overdue and todo.due else 0,
        places=todo.places,
        cleared=todo.cleared,
        created_at=todo.created_at,
        closed_at=todo.closed_at,
        version=todo.version,
        events=[TodoEventOut(at=e.at, who=_who(e), kind=e.kind, text=e.text) for e in todo.events] if full else [],
        linked=[
            TodoPlace(check=k.check_id, subject=k.subject, place=k.place, outcome=k.outcome, fingerprint=k.fingerprint.hex())
            for k in todo.linked
        ]
        if full
        else [],
    )


def _who(event: TodoEvent) -> str:
    if event.by_link:
        return f"{event.by_link}, by a link"
    return event.member.name if event.member else ("the audit" if event.run_id else "the desk")
