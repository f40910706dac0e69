"""To-dos, waivers, remarks, trends, benchmarks, metrics, reports and the desk."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any, Literal

from pydantic import Field

from hodcarrier.wire.base import SeverityName, Wire
from hodcarrier.wire.sites import RunBrief, SiteOut

TodoState = Literal["open", "doing", "done", "confirmed", "dropped"]


class TodoBody(Wire):
    """A new to-do: about a whole check, one cause, single findings, or nothing but its title."""

    site_id: int
    title: str = Field(default="", max_length=300, description="left out: made from the check or cause")
    check: str = Field(default="", examples=["link-broken"])
    cause: int | None = Field(default=None, description="id of a cause in the latest run")
    fingerprints: list[str] = Field(default_factory=list)
    assignee: int | None = None
    due: date | None = Field(default=None, description="left out: by severity")
    note: str = ""


class TodoChange(Wire):
    """Changes to a to-do; what is left out stays."""

    title: str | None = Field(default=None, min_length=1, max_length=300)
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
    kind: str
    text: str


class TodoOut(Wire):
    """A to-do."""

    id: int
    site_id: int
    site_host: str
    client_name: str
    title: str
    note: str
    check: str
    severity: SeverityName
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
    linked: list[dict[str, str]] = []


class WaiverBody(Wire):
    """A new waiver. A check is named; a pattern or a fingerprint narrows it."""

    check: str
    reason: str = Field(min_length=3, examples=["Kept short on purpose"])
    pattern: str = ""
    fingerprint: str = ""
    end: date | None = None


class WaiverOut(Wire):
    """A waiver."""

    id: int
    site_id: int
    check: str
    summary: str
    pattern: str
    fingerprint: str
    reason: str
    author: str
    start: date
    end: date | None
    in_force: bool


class RemarkBody(Wire):
    """A dated note."""

    day: date
    text: str = Field(min_length=1, max_length=1000, examples=["New theme went live"])


class RemarkOut(RemarkBody):
    """A remark on a site's timeline."""

    id: int


class TrendPoint(Wire):
    """One run's figure; ``changed`` when the plan or the catalogue changed since the run before."""

    run_id: str
    at: datetime
    value: float | None
    state: str
    changed: bool = False


class TrendOut(Wire):
    """A figure over the runs of a site."""

    figure: str
    label: str
    high_is_good: bool
    points: list[TrendPoint]
    remarks: list[RemarkOut]
    state: str
    slope_per_month: float | None
    change: float | None
    words: str


class MetricRow(Wire):
    """An imported figure."""

    name: str
    day: date
    value: float
    source: str


class MetricImport(Wire):
    """A CSV with the columns ``day``, ``name``, ``value`` and optionally ``source``."""

    csv: str


class BenchmarkBody(Wire):
    """A new benchmark."""

    name: str = Field(min_length=1, max_length=200)
    site_id: int
    competitor_ids: list[int] = Field(min_length=1, max_length=10)
    pages_max: int = Field(default=500, ge=1, le=100_000)


class BenchmarkBrief(Wire):
    """A benchmark in a list."""

    id: int
    name: str
    site_id: int
    site_host: str
    competitors: list[str]
    rounds: int
    rank: int | None = None


class BenchmarkRow(Wire):
    """One measure over the sites."""

    id: str
    name: str
    unit: str
    high_is_good: bool
    values: list[float | None]
    ranks: list[int | None]
    gap_to_best: float | None
    gap_to_median: float | None


class ShareRow(Wire):
    """The share of pages with one failing check on every site, with its 95 % interval (Wilson)."""

    check: str
    summary: str
    severity: SeverityName
    shares: list[tuple[float, float, float] | None]


class BenchmarkOut(BenchmarkBrief):
    """A benchmark's latest finished round."""

    hosts: list[str]
    at: datetime | None
    pages_max: int
    state: str
    pages: list[int | None]
    rows: list[BenchmarkRow]
    shares: list[ShareRow]
    sentences: dict[str, list[str]]
    metrics: list[dict[str, Any]]
    rank_history: list[dict[str, Any]]


class ReportBody(Wire):
    """A new report over a span of days (both inclusive)."""

    site_id: int
    from_day: date
    to_day: date
    title: str = ""
    note: str = ""


class ReportOut(Wire):
    """A report that was made."""

    id: int
    site_id: int
    site_host: str
    client_name: str
    title: str
    from_day: date
    to_day: date
    note: str
    created_at: datetime


class DeskItem(Wire):
    """Something that needs a person today."""

    kind: Literal["change", "failed", "waiver", "todo"]
    severity: SeverityName | None = None
    site_id: int
    host: str
    client_name: str
    text: str
    detail: str = ""
    link: str
    action: str


class DeskSite(Wire):
    """A site in the desk's table."""

    site: SiteOut
    change: float | None
    line: list[float | None]
    critical: int
    high: int
    new: int | None
    fixed: int | None
    next_due_at: datetime | None
    attention: float


class DeskOut(Wire):
    """What needs a person today, across clients."""

    now: datetime
    sentence: str
    items: list[DeskItem]
    my_todos: list[TodoOut]
    overdue: int
    this_week: int
    sites: list[DeskSite]
    running: list[RunBrief]
    building: str = ""
