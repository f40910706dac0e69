"""What a person looked at: a review sheet, with what is recommended."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import SectionKind, SheetDifference
from hodcarrier.report.blocks import Block, Cell, Column, Paragraph, Table
from hodcarrier.report.sections.section import Section, Told, as_day


@dataclass(frozen=True)
class Recommended:
    """An item that a change is recommended on, what was noted, and how it differs from the last filling."""

    text: str
    note: str = ""
    difference: str = ""


@dataclass(frozen=True)
class ReviewFacts:
    """The latest filling of a sheet by the end of the days: how many items passed, which are recommended, how many are open or do not apply."""

    name: str = ""
    day: str = ""
    before: str = ""
    passed: int = 0
    open: int = 0
    recommended: list[Recommended] = field(default_factory=list)
    better: int = 0


def _draw(facts: ReviewFacts, told: Told) -> Sequence[Block]:
    if not facts.day:
        return []
    language = told.language
    passed = (
        language.count(facts.passed, "one point is in order", "{n} points are in order")
        if facts.passed
        else language.say("no point is in order")
    )
    count = len(facts.recommended)
    wanted = (
        language.count(count, "on one we recommend a change", "on {n} we recommend a change")
        if count
        else language.say("on none we recommend a change")
    )
    said = language.say(
        "On {day} we looked at the site ourselves ({name}): {passed}, {wanted}.",
        day=as_day(facts.day),
        name=language.say(facts.name),
        passed=passed,
        wanted=wanted,
    )
    if facts.better:
        said += " " + language.count(
            facts.better, "One has improved since {day}.", "{n} have improved since {day}.", day=as_day(facts.before)
        )
    if facts.open:
        said += " " + language.count(facts.open, "One has not been looked at yet.", "{n} have not been looked at yet.")
    blocks: list[Block] = [Paragraph(said)]
    if facts.recommended:
        heads = [Column(language.say("Recommended"), part=5), Column(language.say("What we saw"), part=6)]
        worse = language.say("was in order before")
        rows = [
            [
                Cell(language.say(each.text), strong=True, under=worse if each.difference == SheetDifference.WORSE else ""),
                Cell(each.note or "–"),
            ]
            for each in facts.recommended
        ]
        blocks.append(Table(language.say(SECTION.title), heads, rows))
    return blocks


SECTION = Section(
    SectionKind.REVIEW,
    "Looked at by us",
    "The latest filling of a review sheet, with what is recommended.",
    ReviewFacts,
    _draw,
    picks=("sheet",),
)
