"""What a section is: the facts that are kept for it, how it is drawn, and what can be chosen of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any, Generic, TypeVar

import msgspec

from hodcarrier.core.states import SectionKind
from hodcarrier.report.blocks import Block, Mark, Point
from hodcarrier.report.language import Language

F = TypeVar("F")


@dataclass(frozen=True)
class Told:
    """What a section is drawn for: the language, the site, the client and the days."""

    language: Language
    host: str
    client: str
    from_day: date
    to_day: date


@dataclass(frozen=True)
class Choice:
    """A number that can be chosen of a section: what it is, what it is where nobody chooses, and its bounds."""

    label: str
    usual: int
    least: int
    most: int


@dataclass(frozen=True)
class Section(Generic[F]):
    """A kind of section. ``title`` stands above it where nobody gives another one; ``about`` says to the editor what it tells. ``picks`` are lists that can be chosen from
    (``checks``, ``measures``, ``sheet``, ``benchmark``)."""

    kind: SectionKind
    title: str
    about: str
    facts: type[F]
    draw: Callable[[F, Told], Sequence[Block]]
    choices: Mapping[str, Choice] = field(default_factory=dict)
    picks: tuple[str, ...] = ()

    def blocks(self, facts: Mapping[str, Any], told: Told) -> Sequence[Block]:
        """What the section is drawn as; nothing when there is nothing to tell."""
        return self.draw(msgspec.convert(facts, self.facts, strict=False), told)


@dataclass(frozen=True)
class Nothing:
    """The facts of a section that needs none."""


@dataclass(frozen=True)
class Value:
    """A figure on a day (ISO 8601)."""

    day: str
    value: float | None


@dataclass(frozen=True)
class Noted:
    """A remark and its day."""

    day: str
    text: str


def as_day(text: str) -> date:
    """A day out of the facts."""
    return date.fromisoformat(text)


def points(values: Sequence[Value], told: Told, digits: int = 0) -> list[Point]:
    """Figures as the points of a line."""
    return [
        Point(each.day, each.value, "" if each.value is None else told.language.number(each.value, digits)) for each in values
    ]


def marks(notes: Sequence[Noted], told: Told) -> list[Mark]:
    """Remarks as marks of a line."""
    return [Mark(each.day, each.text, told.language.short_day(as_day(each.day))) for each in notes]


def tone_of(change: float | None, *, high_is_good: bool | None = True) -> Any:
    """Whether a change is good or bad; neither where there is none, or nobody knows."""
    if not change or high_is_good is None:
        return ""
    return "good" if (change > 0) == high_is_good else "bad"
