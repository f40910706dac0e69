"""How quick and how heavy the pages are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import SectionKind
from hodcarrier.core.words import difference
from hodcarrier.report.blocks import Block, Cell, Column, Lines, Paragraph, Table
from hodcarrier.report.sections.section import Choice, Section, Told, Value, as_day, points, tone_of

MEASURES = (
    ("first_byte_ms_median", "Time until the server answers, median", "ms", False),
    ("html_bytes_median", "Size of a page without its images, median", "bytes", False),
    ("compressed_ratio", "Pages sent compressed", "%", True),
)


@dataclass(frozen=True)
class SpeedFacts:
    """Measures of the last audit and of the one before, by their names, and the time until the server answers over time (ms)."""

    now: dict[str, float] = field(default_factory=dict)
    before: dict[str, float] = field(default_factory=dict)
    line: list[Value] = field(default_factory=list)


def _draw(facts: SpeedFacts, told: Told) -> Sequence[Block]:
    language = told.language
    rows = []
    for name, label, unit, good in MEASURES:
        now, before = facts.now.get(name), facts.before.get(name)
        if now is None:
            continue
        change = Cell("–")
        if before is not None:
            differs = difference(before, now, 0 if unit == "ms" else 1)
            shown = (
                ("+" if differs > 0 else "−") + language.figure(abs(differs), unit) if differs else language.say("no difference")
            )
            change = Cell(shown, differs, tone_of(differs, high_is_good=good))
        rows.append(
            [
                Cell(language.say(label)),
                Cell(language.figure(now, unit), now, strong=True),
                Cell(language.figure(before, unit), before),
                change,
            ]
        )
    if not rows:
        return []
    heads = [
        Column(language.say("Figure"), part=5),
        Column(language.say("Now"), number=True),
        Column(language.say("Before"), number=True),
        Column(language.say("Change"), number=True),
    ]
    blocks: list[Block] = [
        Paragraph(language.say("Half of the pages are quicker or lighter than the median, half are slower or heavier."))
    ]
    if sum(each.value is not None for each in facts.line) > 1:
        first, last = as_day(facts.line[0].day), as_day(facts.line[-1].day)
        says = language.say("Time until the server answers, in milliseconds, from {first} to {last}", first=first, last=last)
        blocks.append(Lines(says, points(facts.line, told), (), 0, None, language.short_day(first), language.short_day(last)))
    return [*blocks, Table(language.say(SECTION.title), heads, rows)]


SECTION = Section(
    SectionKind.SPEED,
    "Speed and weight",
    "How quickly the server answers and how heavy pages are, now and before.",
    SpeedFacts,
    _draw,
    {"months": Choice("Months of the line", 6, 1, 24)},
)
