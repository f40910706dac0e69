"""A finding, and a page, over the runs of a site."""

from __future__ import annotations

from datetime import datetime

from hodcarrier.core.states import Seen, Severity
from hodcarrier.wire.base import Wire


class FindingSight(Wire):
    """What one run saw of a place. ``rule_changed``: the check has another revision or other limits than in the run before."""

    run_id: str
    at: datetime
    seen: Seen
    rule_changed: bool


class FindingHistory(Wire):
    """A finding over the runs of its site, the latest run first. ``more`` runs lie before those given, or have no file any more."""

    fingerprint: str
    check: str
    summary: str
    severity: Severity
    subject: str
    place: str
    first_seen: datetime
    last_seen: datetime
    times_returned: int
    runs: list[FindingSight]
    more: int


class PageSight(Wire):
    """A page as one run saw it, null where the run did not know it or could not read it; ``changed`` names what differs from the run before."""

    run_id: str
    at: datetime
    known: bool
    status: int | None = None
    failure: str = ""
    why_not: str | None = None
    title: str | None = None
    description: str | None = None
    h1: str | None = None
    canonical: str | None = None
    robots: str | None = None
    words: int | None = None
    depth: int | None = None
    inlinks: int | None = None
    health: float | None = None
    findings: int | None = None
    changed: list[str] = []


class PageHistory(Wire):
    """A page over the runs of its site, the latest run first. ``more`` runs lie before those given, or have no file any more."""

    url: str
    runs: list[PageSight]
    more: int
