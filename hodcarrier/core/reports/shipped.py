"""The templates of reports that ship: the month in full, the month on two pages, and one for whoever fixes what was found."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from hodcarrier.core.states import SectionKind


@dataclass(frozen=True)
class Part:
    """A section of a template, and the numbers that are chosen of it."""

    kind: SectionKind
    choices: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class Template:
    """What a report is begun from: its name, what it is for, and its sections."""

    name: str
    note: str
    parts: tuple[Part, ...]


SHIPPED: Mapping[str, Template] = {
    "monthly": Template(
        "Monthly report",
        "Everything that a client wants to know of a month, in plain words.",
        (
            Part(SectionKind.COVER),
            Part(SectionKind.MONTH),
            Part(SectionKind.HEALTH),
            Part(SectionKind.LAST),
            Part(SectionKind.DONE),
            Part(SectionKind.HAND),
            Part(SectionKind.HAPPENED),
            Part(SectionKind.SEARCH),
            Part(SectionKind.VISITS),
            Part(SectionKind.POSITIONS),
            Part(SectionKind.LINKS),
            Part(SectionKind.BENCHMARK),
            Part(SectionKind.REVIEW),
            Part(SectionKind.NEXT),
            Part(SectionKind.AREAS),
            Part(SectionKind.GLOSSARY),
            Part(SectionKind.APPENDIX),
        ),
    ),
    "short": Template(
        "Short report",
        "Two pages for somebody who has three minutes.",
        (
            Part(SectionKind.MONTH, {"limit": 4}),
            Part(SectionKind.HEALTH),
            Part(SectionKind.DONE, {"limit": 5}),
            Part(SectionKind.HAND, {"limit": 5}),
            Part(SectionKind.SEARCH, {"limit": 4}),
            Part(SectionKind.NEXT, {"limit": 3}),
        ),
    ),
    "technical": Template(
        "Report for developers",
        "What was found, where, and what it is worth, for whoever fixes it.",
        (
            Part(SectionKind.HEALTH),
            Part(SectionKind.HAPPENED, {"limit": 20}),
            Part(SectionKind.AREAS),
            Part(SectionKind.FINDINGS, {"limit": 20, "places": 10}),
            Part(SectionKind.SPEED),
            Part(SectionKind.HAND, {"limit": 50}),
            Part(SectionKind.NEXT, {"limit": 20}),
            Part(SectionKind.APPENDIX, {"limit": 500}),
        ),
    ),
}
