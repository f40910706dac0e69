"""What has become of things since the last report of the site."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hodcarrier.core.states import SectionKind
from hodcarrier.core.words import difference
from hodcarrier.report.blocks import Block, Cell, Column, Paragraph, Table
from hodcarrier.report.sections.section import Section, Told, as_day, tone_of


@dataclass(frozen=True)
class LastFacts:
    """The last report (``to_day`` is empty when there is none), its figures and those of now. ``promised`` were in hand then, of which ``kept`` are done."""

    to_day: str = ""
    health: float | None = None
    health_now: float | None = None
    open_faults: int | None = None
    open_faults_now: int | None = None
    clicks: int | None = None
    clicks_now: int | None = None
    top_ten: int | None = None
    top_ten_now: int | None = None
    promised: int = 0
    kept: int = 0


def _draw(facts: LastFacts, told: Told) -> Sequence[Block]:
    if not facts.to_day:
        return []
    language = told.language
    figures = (
        (language.say("Health, of 100"), facts.health, facts.health_now, 1, True),
        (language.say("Faults found"), facts.open_faults, facts.open_faults_now, 0, False),
        (language.say("Visitors from search engines, four weeks"), facts.clicks, facts.clicks_now, 0, True),
        (language.say("Keywords among the first ten results"), facts.top_ten, facts.top_ten_now, 0, True),
    )
    rows = []
    for label, then, now, digits, good in figures:
        if then is None or now is None:
            continue
        change = difference(then, now, digits)
        shown = language.signed(change, digits) if change else "0"
        rows.append(
            [
                Cell(label),
                Cell(language.number(then, digits), then),
                Cell(language.number(now, digits), now, strong=True),
                Cell(shown, change, tone=tone_of(change, high_is_good=good)),
            ]
        )
    blocks: list[Block] = []
    day = as_day(facts.to_day)
    if facts.promised:
        if facts.kept == facts.promised:
            said = language.count(
                facts.promised,
                "The task that was in hand in the last report, up to {day}, is done.",
                "All {n} tasks that were in hand in the last report, up to {day}, are done.",
                day=day,
            )
        else:
            said = language.count(
                facts.promised,
                "The task that was in hand in the last report, up to {day}, is not done yet.",
                "Of the {n} tasks that were in hand in the last report, up to {day}, {kept} are done.",
                day=day,
                kept=facts.kept,
            )
        blocks.append(Paragraph(said))
    if rows:
        heads = [
            Column(language.say("Figure"), part=5),
            Column(language.say("Last report"), number=True),
            Column(language.say("Now"), number=True),
            Column(language.say("Change"), number=True),
        ]
        blocks.append(Table(language.say(SECTION.title), heads, rows))
    return blocks


SECTION = Section(
    SectionKind.LAST,
    "Since the last report",
    "Figures beside those of the last report of the site, and what became of the tasks that were in hand then.",
    LastFacts,
    _draw,
)
