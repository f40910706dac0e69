"""Two runs side by side, and a page looked at now."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from hodcarrier.core.judge.robots_lines import RobotsLine
from hodcarrier.core.states import AddressRole, Area, Change, ComparedList, PartKind, Severity, TodoState
from hodcarrier.core.summary import CheckChange, Event, SettingChange, SharedScore
from hodcarrier.wire.base import Wire
from hodcarrier.wire.results import FindingRow, PageOut


class ChangedFinding(Wire):
    """A finding in a comparison, with its class."""

    change: Change
    fingerprint: str
    check: str
    severity: Severity
    summary: str
    subject: str
    place: str


class PageChange(Wire):
    """One fact of a page or file that differs between two runs."""

    url: str
    field: str
    base: str
    head: str


class ChangeGroup(Wire):
    """A change that pages, or files, have in common: one edit made on all of them. ``url``, ``base`` and ``head`` are of the first of them; of
    more than one, ``removed`` and ``added`` are the words that the edit took out and put in."""

    id: int
    role: AddressRole
    field: str
    removed: str
    added: str
    pages: int
    url: str
    base: str
    head: str


class ComparedPart(Wire):
    """A cause, page, folder or template of which findings differ between two runs. ``check`` is that of a cause."""

    id: int
    kind: PartKind
    name: str
    check: str
    severity: Severity | None
    then: int
    now: int
    counts: dict[Change, int]


class FigureRow(Wire):
    """One figure of several runs, in their order; null where a run does not have it."""

    id: str
    label: str
    severity: Severity | None
    values: list[float | None]


class RunColumn(Wire):
    """A run as a column beside others."""

    id: str
    at: datetime | None
    partial: bool
    catalogue: str


class ColumnsOut(Wire):
    """Runs of one site side by side: their figures as rows."""

    runs: list[RunColumn]
    rows: list[FigureRow]


class LookBody(Wire):
    """Which page to look at."""

    url: str = Field(examples=["https://tidewrack.example/contact"])


class LookFinding(FindingRow):
    """A finding of a page looked at now, or one of the last run that is gone."""

    change: Change


class LookOut(Wire):
    """One page looked at again now, against the last run (none yet: ``run_id`` is null)."""

    page: PageOut
    run_id: str | None
    run_at: datetime | None
    changes: list[PageChange]
    findings: list[LookFinding]


class EventTodo(Wire):
    """A to-do that holds findings of an event; ``event`` is its place in the list of events."""

    event: int
    todo_id: int
    title: str
    state: TodoState
    assignee: str
    places: int


class ComparisonOut(Wire):
    """Two runs side by side: of one site, or of two sites of one client, which are compared by path.

    ``health_change`` is null when the runs examined too few of the same pages to be compared; ``health`` and ``areas`` say how many.
    """

    base: str
    head: str
    base_host: str
    head_host: str
    base_at: datetime | None
    head_at: datetime | None
    base_health: float | None
    head_health: float | None
    health_change: float | None
    health: SharedScore
    areas: dict[Area, SharedScore]
    counts: dict[Change, int]
    base_findings: int
    head_findings: int
    waived_now: int
    reconciles: bool
    sentence: str
    events: list[Event]
    event_todos: list[EventTodo]
    settings: list[SettingChange]
    by_check: list[CheckChange]
    findings: list[ChangedFinding]
    findings_total: int
    after: int | None = None
    part: ComparedPart | None = None
    page_changes: list[ChangeGroup]
    page_changes_total: int
    facts_changed: int
    lists: dict[ComparedList, int]
    parts: dict[PartKind, int]
    robots_lines: list[RobotsLine]
