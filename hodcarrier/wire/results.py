"""What a run found: checks, causes, findings, pages; comparisons."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from hodcarrier.wire.base import SeverityName, Wire


class TodoRef(Wire):
    """A live to-do that a check, cause or finding is already in."""

    id: int
    title: str
    state: str
    assignee: str = ""
    due: str | None = None


class CheckRow(Wire):
    """A check that failed in a run."""

    id: str
    area: str
    area_name: str
    severity: SeverityName
    summary: str
    effort: str
    findings: int
    waived: int
    pages: int
    fixes: int
    gain: float
    unverified: int
    since: datetime | None = None
    times_returned: int = 0
    cause: str = ""
    todos: list[TodoRef] = []
    change: int | None = None


class CauseRow(Wire):
    """Findings that one fix would clear."""

    id: int
    check: str
    severity: SeverityName
    summary: str
    key: str
    line: str
    findings: int
    pages: int
    gain: float
    since: datetime | None = None
    times_returned: int = 0
    todos: list[TodoRef] = []


class FindingRow(Wire):
    """A check that fails at one place in one run."""

    id: int
    fingerprint: str
    check: str
    severity: SeverityName
    summary: str
    subject: str
    place: str
    message: str
    evidence: dict[str, Any]
    cause: int
    waived: bool
    since: datetime | None = None
    times_returned: int = 0


class CheckOnSite(Wire):
    """Everything about one check in one run of a site."""

    id: str
    area: str
    area_name: str
    severity: SeverityName
    summary: str
    why: str
    fix: str
    effort: str
    standard: str
    limits: dict[str, dict[str, Any]]
    state: str
    findings: int
    waived: int
    pages: int
    fixes: int
    gain: float
    unverified: int
    crashed: int
    history: list[tuple[datetime, int]] = []
    causes: list[CauseRow] = []


class PageRow(Wire):
    """A page or file with its facts as columns."""

    id: int
    url: str
    status: int | None = None
    title: str | None = None
    description: str | None = None
    h1: str | None = None
    words: int | None = None
    depth: int | None = None
    inlinks: int | None = None
    health: float | None = None
    first_byte_ms: float | None = None
    decoded_bytes: int | None = None
    content_type: str | None = None
    why_not: str | None = None
    state: str
    critical: int | None = None
    high: int | None = None
    medium: int | None = None
    low: int | None = None


class PageOut(PageRow):
    """Everything known of one URL in a run."""

    rule: str = ""
    failure: str = ""
    http_version: str = ""
    remote: str = ""
    tls: dict[str, str] = {}
    encoding_source: str = ""
    headers: list[list[str]] = []
    path: list[dict[str, Any]] = []
    links_in: list[str] = []
    links_out: list[dict[str, Any]] = []
    listed: bool = False
    lang: str = ""
    encoding: str = ""
    canonical: str = ""
    robots: list[str] = []
    headings: list[tuple[int, str]] = []
    data_types: list[str] = []
    findings: list[FindingRow] = []


class ChangedFinding(Wire):
    """A finding in a comparison, with its class."""

    change: str
    fingerprint: str
    check: str
    severity: SeverityName
    summary: str
    subject: str
    place: str


class PageChange(Wire):
    """One fact of a page that differs between two runs."""

    url: str
    field: str
    base: str
    head: str


class LookFinding(FindingRow):
    """A finding of a page looked at now, or one of the last run that is gone."""

    change: str


class LookOut(Wire):
    """One page looked at again now, against the last run (none yet: ``run_id`` is null)."""

    page: PageOut
    run_id: str | None
    run_at: datetime | None
    changes: list[PageChange]
    findings: list[LookFinding]


class ComparisonOut(Wire):
    """Two runs of one site side by side."""

    base: str
    head: str
    base_at: datetime | None
    head_at: datetime | None
    base_health: float | None
    head_health: float | None
    counts: dict[str, int]
    base_findings: int
    head_findings: int
    waived_now: int
    reconciles: bool
    settings: list[tuple[str, str, str]]
    by_check: list[dict[str, Any]]
    findings: list[ChangedFinding]
    findings_total: int
    page_changes: list[PageChange]
    page_changes_total: int
    pages_appeared: list[str]
    pages_gone: list[str]
    robots_diff: list[str]
    newly_blocked: list[str]
