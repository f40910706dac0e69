"""How a site hangs together, and what fixes would bring together."""

from __future__ import annotations

from hodcarrier.core.states import BranchKind, Effort, Severity
from hodcarrier.wire.base import Wire


class BranchOut(Wire):
    """Some pages of a site under one name, with all that lies below. ``where`` asks the inventory for them."""

    name: str
    label: str
    pages: int
    indexable: int
    health: float | None
    findings: int
    severe: int
    flow: float
    inner: int
    where: str
    parts: list[BranchOut] = []


class StructureOut(Wire):
    """Branches of a site. ``own`` are the pages that lie in ``below`` itself, or in no branch."""

    by: BranchKind
    below: str
    own: BranchOut | None
    branches: list[BranchOut]


class TemplateLinksOut(Wire):
    """Followed links between templates: row by row, from the template of the row to that of the column."""

    branches: list[BranchOut]
    links: list[list[int]]


class FixesBody(Wire):
    """Checks and causes that would be fixed together."""

    checks: list[str] = []
    causes: list[int] = []


class FixOut(Wire):
    """One of the fixes, with what it brings alone."""

    check: str
    cause: int | None
    text: str
    severity: Severity
    effort: Effort
    fixes: int
    findings: int
    gain: float


class FixesOut(Wire):
    """What fixes come to together. ``singly`` is the sum of what each brings alone: faults of one page share its loss, so together they bring more or less."""

    health: float | None
    health_after: float | None
    gain: float | None
    singly: float
    findings: int
    subjects: int
    fixes: int
    effort: dict[Effort, int]
    items: list[FixOut]
