"""Health, what it was before, and its line over time with the remarks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import SectionKind
from hodcarrier.core.words import difference
from hodcarrier.report.blocks import Block, Headline, Lines, Paragraph
from hodcarrier.report.sections.section import Choice, Noted, Section, Told, Value, as_day, marks, points, tone_of

_TRENDS = {
    "improving": "Over these months it is improving.",
    "steady": "Over these months it is steady.",
    "worsening": "Over these months it is worsening.",
}


@dataclass(frozen=True)
class HealthFacts:
    """Health now, how it changed over the pages that both audits saw, and over time. ``trend`` is one of :class:`~hodcarrier.core.judge.trend.TrendState`."""

    health: float | None = None
    health_before: float | None = None
    before_day: str = ""
    day: str = ""
    pages: int = 0
    trend: str = ""
    line: list[Value] = field(default_factory=list)
    remarks: list[Noted] = field(default_factory=list)


def _draw(facts: HealthFacts, told: Told) -> Sequence[Block]:
    language = told.language
    if facts.health is None:
        return [Paragraph(language.say("No page could be scored in the last audit, so there is no health."))]
    change, tone = "", ""
    if facts.health_before is not None and facts.before_day:
        differs, day = difference(facts.health_before, facts.health), as_day(facts.before_day)
        tone = tone_of(differs)
        if differs > 0:
            change = language.say("{points} points up since {day}", points=language.number(differs, 1), day=day)
        elif differs < 0:
            change = language.say("{points} points down since {day}", points=language.number(-differs, 1), day=day)
        else:
            change = language.say("unchanged since {day}", day=day)
    said = language.say(
        "Health is the average over all pages: each starts at 100 points and loses some for every kind of fault found on it."
    )
    if facts.day:
        day = as_day(facts.day)
        scored = language.count(
            facts.pages,
            "One page was scored in the audit of {day}.",
            "{n} pages were scored in the audit of {day}.",
            day=day,
        )
    else:
        scored = language.count(facts.pages, "One page was scored.", "{n} pages were scored.")
    said = f"{said} {scored}"
    blocks: list[Block] = [Headline(language.say("Health, of 100"), language.number(facts.health, 1), change, tone, facts.health)]  # type: ignore[arg-type]
    known = [each for each in facts.line if each.value is not None]
    if len(known) > 1:
        first, last = as_day(facts.line[0].day), as_day(facts.line[-1].day)
        inside = [each for each in facts.remarks if facts.line[0].day <= each.day <= facts.line[-1].day]
        says = language.say(
            "Health from {first} to {last}: {begin} at first, {end} at last",
            first=first,
            last=last,
            begin=language.number(known[0].value or 0, 1),
            end=language.number(known[-1].value or 0, 1),
        )
        blocks.append(
            Lines(
                says,
                points(facts.line, told, 1),
                marks(inside, told),
                0,
                100,
                language.short_day(first),
                language.short_day(last),
            )
        )
    blocks.append(Paragraph(f"{said} {language.say(_TRENDS[facts.trend])}" if facts.trend in _TRENDS else said, "quiet"))
    return blocks


SECTION = Section(
    SectionKind.HEALTH,
    "Health",
    "Health of the site, how it changed, and its line over time with the remarks.",
    HealthFacts,
    _draw,
    {"months": Choice("Months of the line", 6, 1, 24)},
)
