"""The span in a few plain sentences, for somebody who does not know the trade."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hodcarrier.core.states import SectionKind
from hodcarrier.core.words import difference
from hodcarrier.report.blocks import Block, Listing
from hodcarrier.report.language import Language
from hodcarrier.report.sections.section import Choice, Section, Told, as_day


@dataclass(frozen=True)
class MonthFacts:
    """What the sentences are computed from; ``None`` where there is nothing to say. ``limit`` is how many there may be."""

    health: float | None = None
    health_before: float | None = None
    before_day: str = ""
    audits: int | None = None
    fixed: int = 0
    new: int = 0
    compared: bool = True
    done: int = 0
    hand: int = 0
    hand_dated: int = 0
    clicks: int | None = None
    clicks_before: int | None = None
    weeks: int = 4
    keywords_up: int | None = None
    keywords_down: int = 0
    lead: int | None = None
    trail: int = 0
    competitors: int = 0
    limit: int = 5


def sentences(facts: MonthFacts, told: Told) -> list[str]:
    """The sentences in the order in which they matter, as many as are wanted."""
    language = told.language
    said = [
        _health(facts, told),
        _done(facts, language),
        _faults(facts, language),
        _clicks(facts, language),
        _hand(facts, language),
        _standing(facts, language),
        _keywords(facts, language),
    ]
    return [each for each in said if each][: facts.limit]


def _health(facts: MonthFacts, told: Told) -> str:
    language = told.language
    if facts.health is None:
        return ""
    now = language.number(facts.health, 1)
    if facts.audits == 0:
        return language.say(
            "No audit ran in these days; at the last one before, the health of {host} was {now} of 100.", host=told.host, now=now
        )
    if facts.health_before is None or not facts.before_day:
        return language.say(
            "The health of {host} is {now} of 100, where 100 means that we find nothing to fix.", host=told.host, now=now
        )
    change, day = difference(facts.health_before, facts.health), as_day(facts.before_day)
    if not change:
        return language.say(
            "The health of {host} is {now} of 100, as it was on {day}; 100 means that we find nothing to fix.",
            host=told.host,
            now=now,
            day=day,
        )
    points = language.number(abs(change), 1)
    if change > 0:
        return language.say(
            "The health of {host} rose by {points} points to {now} of 100 since {day}; 100 means that we find nothing to fix.",
            host=told.host,
            points=points,
            now=now,
            day=day,
        )
    return language.say(
        "The health of {host} fell by {points} points to {now} of 100 since {day}; 100 means that we find nothing to fix.",
        host=told.host,
        points=points,
        now=now,
        day=day,
    )


def _done(facts: MonthFacts, language: Language) -> str:
    if not facts.done:
        return ""
    return language.count(
        facts.done,
        "We completed one task, and a fresh audit confirmed that the fault is gone.",
        "We completed {n} tasks, and a fresh audit confirmed that the faults are gone.",
    )


def _faults(facts: MonthFacts, language: Language) -> str:
    if not facts.compared:
        return ""
    if not facts.fixed and not facts.new:
        return language.say("No fault was fixed, and none appeared.")
    fixed = (
        language.count(facts.fixed, "One fault was fixed", "{n} faults were fixed")
        if facts.fixed
        else language.say("No fault was fixed")
    )
    new = (
        language.count(facts.new, "one new fault appeared", "{n} new faults appeared")
        if facts.new
        else language.say("no new one appeared")
    )
    return language.say("{fixed}, and {new}.", fixed=fixed, new=new)


def _clicks(facts: MonthFacts, language: Language) -> str:
    if facts.clicks is None:
        return ""
    came = language.count(
        facts.clicks,
        "One visitor came from a search engine in {weeks} weeks",
        "{n} visitors came from search engines in {weeks} weeks",
        weeks=facts.weeks,
    )
    if not facts.clicks_before:
        return came + "."
    share = round((facts.clicks / facts.clicks_before - 1) * 100)
    if not share:
        return language.say("{came}, as many as in the weeks before.", came=came)
    part = language.percent(abs(share))
    if share > 0:
        return language.say("{came}, {part} more than in the weeks before.", came=came, part=part)
    return language.say("{came}, {part} fewer than in the weeks before.", came=came, part=part)


def _hand(facts: MonthFacts, language: Language) -> str:
    if not facts.hand:
        return ""
    if facts.hand == facts.hand_dated:
        return language.count(facts.hand, "One task is in hand, with a due date.", "{n} tasks are in hand, each with a due date.")
    if not facts.hand_dated:
        return language.count(
            facts.hand, "One task is in hand, without a due date yet.", "{n} tasks are in hand, without due dates yet."
        )
    return language.count(
        facts.hand, "One task is in hand.", "{n} tasks are in hand, {dated} of them with a due date.", dated=facts.hand_dated
    )


def _standing(facts: MonthFacts, language: Language) -> str:
    if facts.lead is None:
        return ""
    if not facts.lead and not facts.trail:
        return language.count(
            facts.competitors,
            "No measure sets the site apart from its competitor.",
            "No measure sets the site apart from its competitors.",
        )
    lead = (
        language.count(facts.lead, "leads on one measure", "leads on {n} measures")
        if facts.lead
        else language.say("leads on no measure")
    )
    trail = language.count(facts.trail, "trails on one", "trails on {n}") if facts.trail else language.say("trails on none")
    return language.count(
        facts.competitors,
        "Against its competitor, the site {lead} and {trail}.",
        "Against its competitors, the site {lead} and {trail}.",
        lead=lead,
        trail=trail,
    )


def _keywords(facts: MonthFacts, language: Language) -> str:
    if facts.keywords_up is None or not (facts.keywords_up or facts.keywords_down):
        return ""
    up = (
        language.count(facts.keywords_up, "one keyword climbed", "{n} keywords climbed")
        if facts.keywords_up
        else language.say("no keyword climbed")
    )
    down = (
        language.count(facts.keywords_down, "one slipped", "{n} slipped") if facts.keywords_down else language.say("none slipped")
    )
    return language.say("In search results, {up} and {down}.", up=up, down=down)


def _draw(facts: MonthFacts, told: Told) -> Sequence[Block]:
    said = sentences(facts, told)
    return [Listing(said, numbered=True)] if said else []


SECTION = Section(
    SectionKind.MONTH,
    "In short",
    "A few plain sentences, computed from the figures.",
    MonthFacts,
    _draw,
    {"limit": Choice("Sentences", 5, 2, 7)},
)
