"""What a run found: checks, causes, findings, pages."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from hodcarrier.core.catalogue import Area
from hodcarrier.core.facts.values import Landmark, LinkKind
from hodcarrier.core.states import (
    AddressRole,
    AddressState,
    CheckOutcome,
    Effort,
    Severity,
    SourceDocument,
    Subject,
    TodoState,
    WhyNot,
)
from hodcarrier.core.web.encodings import EncodingSource
from hodcarrier.wire.base import Wire

Evidence = dict[str, str | int | float | bool | list[str] | None]


class TodoRef(Wire):
    """A live to-do that a check, cause or finding is already in."""

    id: int
    title: str
    state: TodoState
    assignee: str = ""
    due: str | None = None


class CheckRow(Wire):
    """A check in a run. What it was asked of is counted in pages, files or groups of pages, as ``subject`` says."""

    id: str
    area: Area
    area_name: str
    severity: Severity
    summary: str
    effort: Effort
    findings: int
    waived: int
    pages: int
    fixes: int
    gain: float
    unverified: int
    subject: Subject
    outcome: CheckOutcome
    examined: int | None = None
    failing: int | None = None
    passed: int | None = None
    not_applicable: int | None = None
    since: datetime | None = None
    times_returned: int = 0
    cause: str = ""
    todos: list[TodoRef] = []
    change: int | None = None
    weight: int | None = None


class CauseRow(Wire):
    """Findings that one fix would clear."""

    id: int
    check: str
    severity: Severity
    summary: str
    key: str
    line: str
    findings: int
    pages: int
    gain: float
    since: datetime | None = None
    times_returned: int = 0
    todos: list[TodoRef] = []
    weight: int | None = None


class SourceOut(Wire):
    """Where a finding is in the source of its page: the element as written, and with the fix applied."""

    document: SourceDocument
    line: int
    column: int
    selector: str
    before: str
    after: str


class FindingRow(Wire):
    """A check that fails at one place in one run. ``source`` is there where a finding or a page is asked for singly, not in lists of a run."""

    id: int
    fingerprint: str
    check: str
    severity: Severity
    summary: str
    subject: str
    place: str
    message: str
    evidence: Evidence
    cause: int
    waived: bool
    since: datetime | None = None
    times_returned: int = 0
    source: SourceOut | None = None


class LimitOut(Wire):
    """A limit of a check; ``value`` is the one in force, when a run is spoken of."""

    default: float
    unit: str
    meaning: str
    value: float | None = None


class RetiredOut(Wire):
    """What became of a check that is no longer in the catalogue."""

    since: str
    reason: str
    instead: list[str] = []


class SeverityNote(Wire):
    """Why a check has another severity in a run than in the catalogue. ``profile`` is the one of the run, where there was one."""

    usual: Severity
    reason: str
    profile: str = ""


class CheckOnSite(Wire):
    """Everything about one check in one run of a site."""

    id: str
    area: Area
    area_name: str
    severity: Severity
    severity_change: SeverityNote | None = None
    summary: str
    why: str
    fix: str
    effort: Effort
    standard: str
    limits: dict[str, LimitOut]
    state: Literal["on", "off"]
    findings: int
    waived: int
    pages: int
    fixes: int
    gain: float
    unverified: int
    crashed: int
    subject: Subject
    outcome: CheckOutcome
    examined: int | None = None
    failing: int | None = None
    passed: int | None = None
    not_applicable: int | None = None
    retired: RetiredOut | None = None
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
    why_not: WhyNot | None = None
    state: AddressState
    critical: int | None = None
    high: int | None = None
    medium: int | None = None
    low: int | None = None


class RedirectHop(Wire):
    """A URL on the way to the final answer."""

    url: str
    status: int | None
    failure: str


class LinkRow(Wire):
    """A reference of a page; ``status`` is what its target answered."""

    url: str
    kind: LinkKind
    text: str
    landmark: Landmark
    rel: list[str]
    status: int | None


class PageOut(PageRow):
    """Everything known of one URL in a run."""

    role: AddressRole
    rule: str = ""
    title_px: int | None = None
    description_px: int | None = None
    failure: str = ""
    http_version: str = ""
    remote: str = ""
    tls: dict[str, str] = {}
    encoding_source: EncodingSource | None = None
    headers: list[tuple[str, str]] = []
    path: list[RedirectHop] = []
    links_in: list[str] = []
    links_out: list[LinkRow] = []
    listed: bool = False
    lang: str = ""
    encoding: str = ""
    canonical: str = ""
    robots: list[str] = []
    headings: list[tuple[int, str]] = []
    data_types: list[str] = []
    findings: list[FindingRow] = []
