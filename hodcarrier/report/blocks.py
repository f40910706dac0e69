"""What sections are drawn as, whatever the form: paragraphs, tables, charts. Texts are in the language of the report by now."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

Tone = Literal["", "good", "bad", "quiet"]


@dataclass(frozen=True, slots=True)
class Paragraph:
    """A paragraph."""

    text: str
    tone: Tone = ""


@dataclass(frozen=True, slots=True)
class Heading:
    """A heading within a section."""

    text: str


@dataclass(frozen=True, slots=True)
class Listing:
    """Sentences one below the other; ``numbered`` where their order counts."""

    items: Sequence[str]
    numbered: bool = False


@dataclass(frozen=True, slots=True)
class Note:
    """Words of the editor, in Markdown."""

    text: str


@dataclass(frozen=True, slots=True)
class Headline:
    """One figure set large: what it is, how it has changed, and (0 to 100) how far a course of bricks is filled."""

    label: str
    figure: str
    change: str = ""
    tone: Tone = ""
    filled: float | None = None


@dataclass(frozen=True, slots=True)
class Dots:
    """Where the own site and others stand on a line from 0 to 1."""

    own: float | None
    others: Sequence[float]


@dataclass(frozen=True, slots=True)
class Cell:
    """A cell of a table: its text, what it is as a figure, words under it."""

    text: str
    value: float | None = None
    tone: Tone = ""
    strong: bool = False
    under: str = ""
    dots: Dots | None = None


@dataclass(frozen=True, slots=True)
class Column:
    """A column of a table. ``part`` is its share of the width; 0: what its words need. ``solid``: its cells, such as days, are not broken."""

    head: str
    number: bool = False
    part: int = 0
    solid: bool = False


@dataclass(frozen=True, slots=True)
class Table:
    """A table; its ``name`` is that of its sheet in a workbook."""

    name: str
    columns: Sequence[Column]
    rows: Sequence[Sequence[Cell]]


@dataclass(frozen=True, slots=True)
class Point:
    """A figure on a day (ISO 8601), ``None`` where there is none, and how it is shown."""

    day: str
    value: float | None
    shown: str = ""


@dataclass(frozen=True, slots=True)
class Mark:
    """Something that happened on a day (ISO 8601), and how that day is shown."""

    day: str
    text: str
    shown: str


@dataclass(frozen=True, slots=True)
class Lines:
    """A figure over time. ``says`` tells it to who cannot see it; ``low`` and ``high`` are the ends of its scale, found from the figures where they are ``None``."""

    says: str
    points: Sequence[Point]
    marks: Sequence[Mark] = ()
    low: float | None = None
    high: float | None = None
    first_day: str = ""
    last_day: str = ""


@dataclass(frozen=True, slots=True)
class Bar:
    """How many there are in a band, now and before."""

    label: str
    now: int
    before: int | None = None


@dataclass(frozen=True, slots=True)
class Bars:
    """Bands with how many are in each."""

    says: str
    bars: Sequence[Bar]
    now: str
    before: str = ""


@dataclass(frozen=True, slots=True)
class Terms:
    """What words mean."""

    items: Sequence[tuple[str, str]]


Block = Paragraph | Heading | Listing | Note | Headline | Table | Lines | Bars | Terms
