"""The desk."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum

from hodcarrier.core.states import Severity
from hodcarrier.wire.base import Wire
from hodcarrier.wire.runs import RunBrief
from hodcarrier.wire.sites import SiteOut
from hodcarrier.wire.todos import TodoOut


class DeskItemKind(StrEnum):
    """What a line on the desk is about."""

    CHANGE = "change"
    FAILED = "failed"
    WAIVER = "waiver"
    TODO = "todo"
    MAIL = "mail"
    WEBHOOK = "webhook"
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


class DeskSite(Wire):
    """A site in the desk's table."""

    site: SiteOut
    change: float | None
    line: list[float | None]
    critical: int
    high: int
    new: int | None
    returned: int | None
    fixed: int | None
    next_due_at: datetime | None
    attention: float


class DeskOut(Wire):
    """What needs a person today, across clients: all of it, failed audits first, then by severity."""

    now: datetime
    sentence: str
    items: list[DeskItem]
    my_todos: list[TodoOut]
    overdue: int
    this_week: int
    sites: list[DeskSite]
    running: list[RunBrief]
    building: str = ""
