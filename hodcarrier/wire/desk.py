"""The desk."""

from __future__ import annotations

from datetime import date, datetime
from enum import StrEnum

from hodcarrier.core.states import Severity
from hodcarrier.wire.base import Wire
from hodcarrier.wire.remarks import LineRemark
from hodcarrier.wire.runs import RunBrief
from hodcarrier.wire.sites import SiteOut
from hodcarrier.wire.todos import TodoOut


class DeskItemKind(StrEnum):
    """What a line on the desk is about."""

    CHANGE = "change"
    FAILED = "failed"
    STUCK = "stuck"
    STALE = "stale"
    WAIVER = "waiver"
    CERTIFICATE = "certificate"
    TODO = "todo"
    MAIL = "mail"
    WEBHOOK = "webhook"
    REPORT = "report"
    FEED = "feed"
    DOMAIN = "domain"
    SERVICE = "service"


class DeskItem(Wire):
    """Something that needs a person today.

    ``site_id`` is null for what concerns a person's work on several sites. What has an ``alert_id`` can be acknowledged; ``since`` is
    when it was raised.
    """

    kind: DeskItemKind
    severity: Severity | None = None
    site_id: int | None = None
    host: str = ""
    client_name: str = ""
    text: str
    detail: str = ""
    since: datetime | None = None
    link: str
    action: str
    alert_id: int | None = None


class DeskEvent(Wire):
    """What happened to a site since the last working day, with its share of the change in health."""

    site_id: int
    host: str
    client_name: str
    title: str
    detail: str
    shown: float | None
    link: str


class DeskTodo(Wire):
    """A to-do that was confirmed or opened again since the last working day."""

    todo_id: int
    title: str
    client_name: str
    reopened: bool
    text: str
    at: datetime


class PatternSite(Wire):
    """A site on which a check has more findings, and how many more."""

    site_id: int
    host: str
    client_name: str
    findings: int


class Pattern(Wire):
    """A check that has more findings on sites of several clients: the cause may lie beyond any one of them."""

    check: str
    summary: str
    severity: Severity
    since: datetime
    sites: list[PatternSite]


class DeskSite(Wire):
    """A site in the desk's table. ``why`` says what makes it stand where it does when sorted by attention; ``remarks`` are those since the first
    of ``line_days``, the days of the runs of ``line``."""

    site: SiteOut
    change: float | None
    line: list[float | None]
    line_days: list[date]
    remarks: list[LineRemark]
    critical: int
    high: int
    new: int | None
    returned: int | None
    fixed: int | None
    next_due_at: datetime | None
    attention: float
    why: str


class DeskOut(Wire):
    """What needs a person today, across clients: all of it, failed audits first, then by severity; and what happened since the last working day.

    ``quiet``: nothing needs a person, and nothing happened.
    """

    now: datetime
    since: datetime
    sentence: str
    quiet: bool
    items: list[DeskItem]
    events: list[DeskEvent]
    more_events: int
    judged: list[DeskTodo]
    patterns: list[Pattern]
    my_todos: list[TodoOut]
    overdue: int
    this_week: int
    sites: list[DeskSite]
    running: list[RunBrief]
    building: str = ""
