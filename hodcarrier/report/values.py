"""The values of a report: gathered when it is made, kept with it, and drawn by whatever template there is when it is read.

They are stored, so they are typed and versioned (:mod:`hodcarrier.core.stored`). A template that needs more than an older report
has gets it from the lift of that version, never from a missing key.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from hodcarrier.core.stored import Format


@dataclass(frozen=True)
class HealthPoint:
    """Health on a day (ISO 8601); ``None`` when no page was scored."""

    day: str
    health: float | None


@dataclass(frozen=True)
class DatedText:
    """A remark and its day."""

    day: str
    text: str


@dataclass(frozen=True)
class Counts:
    """Findings that came up, were fixed, or came back."""

    new: int = 0
    fixed: int = 0
    returned: int = 0


@dataclass(frozen=True)
class FixedWork:
    """A to-do that an audit confirmed, on a day."""

    title: str
    places: int
    closed: str


@dataclass(frozen=True)
class WorkInHand:
    """A to-do that is not finished; ``due`` is empty when it has no date."""

    title: str
    who: str
    due: str
    places: int
    cleared: int


@dataclass(frozen=True)
class NextStep:
    """A check that is worth doing first."""

    severity: str
    summary: str
    findings: int
    fixes: int
    gain: float
    cause: str


@dataclass(frozen=True)
class AreaScore:
    """An area, its score, and the pages it was examined on (``None``: not kept)."""

    name: str
    score: float | None
    pages: int | None = None


@dataclass(frozen=True)
class Explained:
    """A failing check in plain words."""

    summary: str
    severity: str
    why: str
    fix: str
    findings: int


@dataclass(frozen=True)
class MeasureRow:
    """A measure over the sites of a benchmark."""

    name: str
    unit: str
    high_is_good: bool
    values: list[float | None]
    ranks: list[int | None]


@dataclass(frozen=True)
class Sentences:
    """How the site stands among its competitors: where it leads, where it trails, what to close first."""

    lead: list[str] = field(default_factory=list)
    trail: list[str] = field(default_factory=list)
    close_first: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class Comparison:
    """How the site stands against its competitors."""

    hosts: list[str]
    rows: list[MeasureRow]
    sentences: Sentences
    at: str = ""
    unranked: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class ReportValues:
    """Everything a report shows. Days are ISO 8601. ``colour`` is that of the client's brand (``#rrggbb``), empty for the agency's."""

    title: str
    agency: str
    client: str
    host: str
    from_day: str
    to_day: str
    span: str
    made: str
    note: str
    health: float | None
    health_before: float | None
    before_day: str
    pages: int
    trend: str
    line: list[HealthPoint]
    remarks: list[DatedText]
    counts: Counts
    fixed: list[FixedWork]
    in_hand: list[WorkInHand]
    next: list[NextStep]
    areas: list[AreaScore]
    appendix: list[Explained]
    standing: Comparison | None = None
    colour: str = ""
    sentences: list[str] = field(default_factory=list)


def _lift_0(values: dict[str, Any]) -> dict[str, Any]:
    """Before there was a version, the span was ``from`` and ``to``."""
    days = {"from_day": values["from"], "to_day": values["to"]}
    return {**{k: v for k, v in values.items() if k not in ("from", "to")}, **days}


STORED = Format(ReportValues, "report", 1, {0: _lift_0})
