"""All that is kept for one client, on one page."""

from __future__ import annotations

from datetime import date, datetime

from hodcarrier.wire.base import Wire
from hodcarrier.wire.benchmarks import BenchmarkBrief
from hodcarrier.wire.clients import ClientOut
from hodcarrier.wire.remarks import RemarkOut
from hodcarrier.wire.reports import ReportOut
from hodcarrier.wire.sites import SiteOut


class HealthPoint(Wire):
    """The health of one run; null where it failed or scored no page."""

    at: datetime
    health: float | None


class HealthLine(Wire):
    """The health of a site over its latest runs, the oldest first."""

    site_id: int
    host: str
    points: list[HealthPoint]


class ClientGuest(Wire):
    """Somebody of the client who signs in."""

    id: int
    name: str
    email: str
    active: bool


class SiteRemark(RemarkOut):
    """A remark with its site."""

    site_id: int
    host: str


class ClientPage(Wire):
    """A client with its sites, people, benchmarks, reports, remarks and the health of its sites over time."""

    client: ClientOut
    sites: list[SiteOut]
    guests: list[ClientGuest]
    benchmarks: list[BenchmarkBrief]
    reports: list[ReportOut]
    lines: list[HealthLine]
    remarks: list[SiteRemark]
    open_todos: int
    overdue_todos: int
    next_holiday: date | None
