"""To-dos that are about no finding: made by hand in numbers, with a client, from a table, or because they come back."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date

from sqlalchemy.orm import Session

from hodcarrier.core.judge.todos import add_working_days
from hodcarrier.core.states import Approval, Priority, Severity, TodoEventKind, TodoState, Topic
from hodcarrier.register.models import Member, Site, Todo
from hodcarrier.usecases.announcements import announce_todo
from hodcarrier.usecases.clients import targets_of
from hodcarrier.usecases.todo_mails import tell_assigned
from hodcarrier.usecases.todo_story import note, set_labels
from hodcarrier.usecases.workspace import Workspace


@dataclass(frozen=True)
class PlainTodo:
    """A to-do as it is to be made. Without ``due`` it is due by the client's target for its severity."""

    title: str
    note: str = ""
    due: date | None = None
    assignee_id: int | None = None
    severity: Severity = Severity.MEDIUM
    priority: Priority = Priority.NORMAL
    estimate_hours: float | None = None
    labels: tuple[str, ...] = field(default=())


def make_plain(session: Session, work: Workspace, site: Site, wanted: PlainTodo, member: Member | None, words: str) -> Todo:
    """Make a to-do in a transaction of the caller, and tell its assignee and webhooks; ``words`` say in its story where it comes from."""
    now = work.now()
    due = wanted.due if wanted.due is not None else due_in(site, now.date(), targets_of(site.client)[wanted.severity])
    todo = Todo(
        site_id=site.id,
        site=site,
        title=wanted.title,
        note=wanted.note,
        severity=wanted.severity,
        state=TodoState.OPEN,
        approval=first_approval(site),
        assignee_id=wanted.assignee_id,
        author_id=member.id if member is not None else None,
        due=due,
        priority=wanted.priority,
        estimate_hours=wanted.estimate_hours,
        created_at=now,
    )
    set_labels(todo, wanted.labels)
    session.add(todo)
    session.flush()
    event = note(session, todo, now, member, TodoEventKind.MADE, words)
    tell_assigned(session, todo, event, member)
    announce_todo(session, now, Topic.TODO_ADDED, todo, words, member.name if member is not None else "")
    return todo


def first_approval(site: Site) -> Approval:
    """Whether a new to-do waits for the client to agree."""
    return Approval.WAITING if site.client.approves else Approval.NONE


def due_in(site: Site, day: date, days: int) -> date:
    """The day so many working days of a site's client after another."""
    return add_working_days(day, days, [date.fromisoformat(each) for each in site.client.holidays])
