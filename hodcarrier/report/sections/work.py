"""The work: what was done and confirmed, what is in hand, what comes next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import SectionKind
from hodcarrier.report.blocks import Block, Cell, Column, Paragraph, Table
from hodcarrier.report.language import Language
from hodcarrier.report.sections.section import Choice, Section, Told, as_day


@dataclass(frozen=True)
class Work:
    """A piece of work. ``why`` is why its ``check``, which runs call ``named``, matters; ``gain`` are points of health; ``day`` is when it was confirmed or is due, empty without a date."""

    title: str
    check: str = ""
    named: str = ""
    why: str = ""
    places: int = 0
    cleared: int = 0
    who: str = ""
    day: str = ""
    gain: float | None = None
    severity: str = ""


@dataclass(frozen=True)
class WorkFacts:
    """Pieces of work, and how many there are beyond them."""

    items: list[Work] = field(default_factory=list)
    more: int = 0


def _meaning(each: Work, language: Language) -> str:
    return language.meaning(each.check, each.why) if each.why else ""


def _title(each: Work, language: Language) -> str:
    """The title; where it begins with the name of its check, that is told in the language."""
    if not each.named or not each.title.startswith(each.named):
        return each.title
    return language.check_title(each.check, each.named) + each.title.removeprefix(each.named)


def _gain(each: Work, language: Language) -> Cell:
    if each.gain is None:
        return Cell("–")
    if round(each.gain, 1):
        return Cell(language.signed(each.gain), each.gain, "good" if each.gain > 0 else "bad")
    return Cell(language.say("under 0.1") if each.gain > 0 else "0", each.gain)


def _more(facts: WorkFacts, language: Language) -> list[Block]:
    return (
        [
            Paragraph(
                language.count(facts.more, "One further task is not listed here.", "{n} further tasks are not listed here."),
                "quiet",
            )
        ]
        if facts.more
        else []
    )


def _done(facts: WorkFacts, told: Told) -> Sequence[Block]:
    language = told.language
    if not facts.items:
        return [Paragraph(language.say("No task was completed and confirmed in these days."))]
    with_gain = any(each.gain for each in facts.items)
    heads = [
        Column(language.say("Work"), part=4),
        Column(language.say("What it means for you"), part=5),
        Column(language.say("Confirmed"), solid=True),
    ]
    heads += [Column(language.say("Points"), number=True)] if with_gain else []
    rows = [
        [
            Cell(_title(each, language), strong=True),
            Cell(_meaning(each, language)),
            Cell(language.short_day(as_day(each.day)) if each.day else "–"),
            *([_gain(each, language)] if with_gain else []),
        ]
        for each in facts.items
    ]
    return [Table(language.say(DONE.title), heads, rows), *_more(facts, language)]


def _hand(facts: WorkFacts, told: Told) -> Sequence[Block]:
    language = told.language
    if not facts.items:
        return [Paragraph(language.say("No task is in hand at present."))]
    heads = [
        Column(language.say("Work"), part=6),
        Column(language.say("Who"), part=2),
        Column(language.say("By"), solid=True),
        Column(language.say("Done so far"), number=True),
    ]
    rows = [
        [
            Cell(_title(each, language), strong=True),
            Cell(each.who or language.say("nobody yet")),
            Cell(language.short_day(as_day(each.day)) if each.day else language.say("no date yet")),
            Cell(
                language.say("{cleared} of {places}", cleared=each.cleared, places=each.places) if each.places else "–",
                each.cleared if each.places else None,
            ),
        ]
        for each in facts.items
    ]
    return [Table(language.say(HAND.title), heads, rows), *_more(facts, language)]


def _next(facts: WorkFacts, told: Told) -> Sequence[Block]:
    language = told.language
    if not facts.items:
        return [Paragraph(language.say("The last audit found nothing to fix."))]
    heads = [
        Column(language.say("What"), part=4),
        Column(language.say("Why"), part=5),
        Column(language.say("Places"), number=True),
        Column(language.say("Points to win"), number=True),
    ]
    rows = [
        [
            Cell(_title(each, language), strong=True),
            Cell(_meaning(each, language)),
            Cell(language.number(each.places), each.places),
            _gain(each, language),
        ]
        for each in facts.items
    ]
    return [Table(language.say(NEXT.title), heads, rows)]


_LIMIT = {"limit": Choice("Rows at most", 20, 1, 200)}
DONE = Section(
    SectionKind.DONE,
    "What we did",
    "Tasks that an audit confirmed in these days, with what they mean and the points they gave back.",
    WorkFacts,
    _done,
    _LIMIT,
)
HAND = Section(
    SectionKind.HAND,
    "What is in hand",
    "Tasks that are not finished: who does them, by when, how far they are.",
    WorkFacts,
    _hand,
    _LIMIT,
)
NEXT = Section(
    SectionKind.NEXT,
    "What comes next",
    "What is worth doing first, and why, with the points to win.",
    WorkFacts,
    _next,
    {"limit": Choice("Rows at most", 6, 1, 50)},
)
