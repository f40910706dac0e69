"""To-dos."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from hodcarrier.core.states import PlaceOutcome, Severity, TodoEventKind, TodoState
from hodcarrier.wire.base import Wire, Words


class ComparedPick(Wire):
    """Findings of the latest run as a comparison with an earlier one has them together: those of an event, or of a cause, page, folder or
    template, in both cases those that the latest run has."""

    base: str
    head: str = Field(default="", description="left out: the latest run")
    event: int | None = Field(default=None, ge=0)
    part: int | None = Field(default=None, ge=1)


class TodoBody(Wire):
    """A new to-do: about a whole check, one cause, single findings, an event of a comparison, or nothing but its title."""

    site_id: int
    title: Words = Field(default="", max_length=300, description="left out: made from the check or cause")
    check: str = Field(default="", examples=["link-broken"])
    cause: int | None = Field(default=None, description="id of a cause in the latest run")
    fingerprints: list[str] = Field(default_factory=list)
    compared: ComparedPick | None = None
    assignee: int | None = None
    due: date | None = Field(default=None, description="left out: by severity")
    note: str = ""


class TodoChange(Wire):
    """Changes to a to-do; what is left out stays."""

    title: Words | None = Field(default=None, min_length=1, max_length=300)
    note: str | None = None
    state: TodoState | None = None
    assignee: int | None = None
    due: date | None = None
    drop_reason: str | None = None
    comment: str | None = None


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
    due: date | None
    overdue: bool
    days_late: int
    places: int
    cleared: int
    created_at: datetime
    closed_at: datetime | None
    version: int
    events: list[TodoEventOut] = []
    linked: list[TodoPlace] = []
