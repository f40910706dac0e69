"""Who has what to do by when, and how the week stands."""

from __future__ import annotations

from datetime import UTC, datetime, time, timedelta

from sqlalchemy import func, select

from hodcarrier.core.judge.todos import REOPENED
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import UNFINISHED_TODO, DueSpan, TodoEventKind, TodoState
from hodcarrier.register.models import Member, Site, Todo, TodoEvent
from hodcarrier.usecases.todo_lists import due_span
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.todos import LoadOut, LoadPart, LoadRow


def get_load(work: Workspace, *, client_id: int | None = None) -> LoadOut:
    """What everybody has to do of open and begun to-dos, by the week it is due, and what nobody has been given. Members without any are there too, so
    that somebody who has time is seen."""
    today = work.now().date()
    monday = today - timedelta(days=today.weekday())
    span = due_span(today)
    with work.reading() as session:
        chosen = select(Todo.assignee_id, span, func.count(), func.coalesce(func.sum(Todo.estimate_hours), 0.0)).join(Site)
        unfinished = Todo.state.in_(UNFINISHED_TODO)
        of_client = [Site.client_id == client_id] if client_id is not None else [~Site.archived]
        parts: dict[int | None, dict[str, LoadPart]] = {}
        for person, name, todos, hours in session.execute(chosen.where(unfinished, *of_client).group_by(Todo.assignee_id, span)):
            parts.setdefault(person, {})[name] = LoadPart(todos=todos, hours=hours or 0.0)
        members = session.execute(
            select(Member.id, Member.name)
            .where(
                (Member.active & (Member.role != Role.GUEST)) | Member.id.in_([person for person in parts if person is not None])
            )
            .order_by(Member.name)
        ).all()
        oldest = session.scalar(select(func.min(Todo.due)).join(Site).where(unfinished, Todo.due < today, *of_client))
        since = datetime.combine(monday, time(), UTC)
        happened = select(func.count(func.distinct(Todo.id))).select_from(Todo).join(Site)
        confirmed = session.scalar(happened.where(Todo.state == TodoState.CONFIRMED, Todo.closed_at >= since, *of_client))
        reopened = session.scalar(
            happened.join(TodoEvent, TodoEvent.todo_id == Todo.id).where(
                TodoEvent.kind == TodoEventKind.RUN, TodoEvent.at >= since, TodoEvent.text.startswith(REOPENED), *of_client
            )
        )
    rows = [_row(member_id, name, parts.get(member_id, {})) for member_id, name in members]
    if None in parts:
        rows.append(_row(None, "", parts[None]))
    return LoadOut(
        people=rows,
        overdue=sum(row.overdue.todos for row in rows),
        oldest_days=(today - oldest).days if oldest else 0,
        due_this_week=sum(row.this_week.todos for row in rows),
        confirmed_this_week=confirmed or 0,
        reopened_this_week=reopened or 0,
    )


def _row(member_id: int | None, name: str, parts: dict[str, LoadPart]) -> LoadRow:
    by_field = {span.replace("-", "_"): parts.get(span, LoadPart()) for span in DueSpan}
    return LoadRow(member_id=member_id, name=name, **by_field)
