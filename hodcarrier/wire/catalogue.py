"""The catalogue: every check in words, and what became of those that are no longer there."""

from __future__ import annotations

from hodcarrier.core.catalogue import Area, Subject
from hodcarrier.core.states import Effort, Severity
from hodcarrier.wire.base import Wire
from hodcarrier.wire.results import LimitOut, RetiredOut


class FailingCheck(Wire):
    """On how many sites a check fails in their latest runs, and at how many places."""

    check: str
    sites: int
    findings: int


class FailingSite(Wire):
    """A site on which a check fails in its latest run."""

    site_id: int
    host: str
    client_name: str
    findings: int
    run_id: str


class CatalogueEntry(Wire):
    """A check. ``terms`` are further words it is searched by. ``retired`` tells what became of one that was taken out; ``names`` are the ids it had before."""

    id: str
    area: Area
    area_name: str
    severity: Severity
    subject: Subject | None
    summary: str
    terms: list[str] = []
    why: str = ""
    fix: str = ""
    effort: Effort | None = None
    standard: str = ""
    applies_to: str = ""
    examples: int = 0
    limits: dict[str, LimitOut] = {}
    messages: dict[str, str] = {}
    revision: int = 0
    since: str = ""
    names: list[str] = []
    retired: RetiredOut | None = None
