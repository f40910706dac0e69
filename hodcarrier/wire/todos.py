"""To-dos."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field

from hodcarrier.core.states import Approval, PlaceOutcome, Priority, Severity, TodoEventKind, TodoPer, TodoState
from hodcarrier.wire.base import Label, Wire, Words
from hodcarrier.wire.results import TodoRef

Hours = Annotated[float, Field(gt=0, le=1000)]


class ComparedPick(Wire):
    """Findings of the latest run as a comparison with an earlier one has them together: those of an event, or of a cause, page, folder or
    template, in both cases those that the latest run has."""

    base: str
    head: str = Field(default="", description="left out: the latest run")
    event: int | None = Field(default=None, ge=0)
    part: int | None = Field(default=None, ge=1)


class TodoSelection(Wire):
    """Which findings of the latest run: those of a whole check, of one cause, of several of both, single ones, or an event of a comparison."""

    site_id: int
    check: str = Field(default="", examples=["link-broken"])
    cause: int | None = Field(default=None, description="id of a cause in the latest run")
    checks: list[str] = Field(default_factory=list, max_length=500)
    causes: list[int] = Field(default_factory=list, max_length=500)
    fingerprints: list[str] = Field(default_factory=list)
    compared: ComparedPick | None = None


class TodoFields(TodoSelection):
    """What every to-do that is made has beside its findings."""

    due: date | None = Field(default=None, description="left out: by severity")
    priority: Priority = Priority.NORMAL
    estimate_hours: Hours | None = None
    labels: list[Label] = Field(default_factory=list, max_length=20)
    watchers: list[int] = Field(default_factory=list, max_length=50)
    note: str = ""


class TodoBody(TodoFields):
    """A new to-do: about a whole check, one cause, single findings, an event of a comparison, or nothing but its title."""

    title: Words = Field(default="", max_length=300, description="left out: made from the check or cause")
    assignee: int | None = None


class TodosBody(TodoFields):
    """New to-dos, one for each check, cause, page or template among the chosen findings, spread over ``assignees`` by what each has to do already."""

    per: TodoPer = TodoPer.CAUSE
    assignees: list[int] = Field(default_factory=list, max_length=50)


class TodoDraft(Wire):
    """A to-do that would be made. ``left_out`` findings are in the to-dos named ``elsewhere`` already."""

    title: str
    severity: Severity
    places: int
    assignee_id: int | None
    assignee: str
    due: date
    gain: float | None
    left_out: int
    elsewhere: list[TodoRef]


class TodoChange(Wire):
    """Changes to a to-do; what is left out stays."""

    title: Words | None = Field(default=None, min_length=1, max_length=300)
    note: str | None = None
    state: TodoState | None = None
    assignee: int | None = None
    due: date | None = None
    priority: Priority | None = None
    estimate_hours: Hours | None = None
    labels: list[Label] | None = Field(default=None, max_length=20)
    watchers: list[int] | None = Field(default=None, max_length=50)
    drop_reason: str | None = None
    comment: str | None = None


class TodoEdit(TodoChange):
    """Changes to one of several to-dos. ``version``: only if it is still that one."""

    id: int
    version: int | None = None


class TodosChange(Wire):
    """Changes to several to-dos, made together or not at all. ``undo`` says that they bring back what was before, so that a due date may be past."""

    changes: list[TodoEdit] = Field(min_length=1, max_length=1000)
    undo: bool = False


class WatcherOut(Wire):
    """Somebody who watches a to-do."""

    id: int
    name: str


class LoadPart(Wire):
    """To-dos that are due in one span of time, with the hours of those that have an estimate."""

    todos: int = 0
    hours: float = 0.0


class LoadRow(Wire):
    """What one person has to do, by when it is due. Without a person: what nobody has been given."""

    member_id: int | None
    name: str
    overdue: LoadPart
    this_week: LoadPart
    next_week: LoadPart
    later: LoadPart
    undated: LoadPart


class LoadOut(Wire):
    """Who has what to do, and how the week stands. Weeks begin on Monday."""

    people: list[LoadRow]
    overdue: int
    oldest_days: int
    due_this_week: int
    confirmed_this_week: int
    reopened_this_week: int


class TodoEventOut(Wire):
    """Something that happened to a to-do."""

    at: datetime
    who: str
    kind: TodoEventKind
    text: str


class TodoPlace(Wire):
    """A finding a to-do is about, and what the last run said of it."""

    check: str
    subject: str
    place: str
    outcome: PlaceOutcome
    fingerprint: str


class TodoOut(Wire):
    """A to-do."""

    id: int
    site_id: int
    site_host: str
    client_name: str
    title: str
    note: str
    check: str
    severity: Severity
    state: TodoState
    flag: str
    drop_reason: str
    assignee_id: int | None
    assignee: str
    author: str
    due: date | None
    priority: Priority
    estimate_hours: float | None
    labels: list[str]
    watchers: list[WatcherOut]
    gain: float | None
    approval: Approval
    overdue: bool
    days_late: int
    places: int
    cleared: int
    created_at: datetime
    closed_at: datetime | None
    version: int
    events: list[TodoEventOut] = []
    linked: list[TodoPlace] = []


class TodoLinkBody(Wire):
    """Somebody a to-do is shared with."""

    name: Words = Field(min_length=1, max_length=100)
    asks_approval: bool = False
    days: int = Field(default=90, ge=1, le=730)


class TodoLinkOut(Wire):
    """A share link of a to-do; ``url`` is there only in the answer that made it."""

    id: int
    name: str
    asks_approval: bool
    active: bool
    created_at: datetime
    expires_at: datetime
    seen: int
    seen_at: datetime | None
    url: str | None = None


class TodosChanged(Wire):
    """To-dos after they were changed together, and the changes that would undo it, in the order to send them."""

    todos: list[TodoOut]
    undo: list[TodoEdit]
