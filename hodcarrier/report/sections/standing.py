"""Where the site stands for its keywords, and which other sites link to it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import SectionKind
from hodcarrier.report.blocks import Bar, Bars, Block, Cell, Column, Heading, Paragraph, Table
from hodcarrier.report.language import Language
from hodcarrier.report.sections.section import Choice, Section, Told, as_day, tone_of


@dataclass(frozen=True)
class Keyword:
    """A keyword with its position now, before, and at best (``None``: not found)."""

    keyword: str
    device: str = ""
    place: str = ""
    rank: int | None = None
    before: int | None = None
    best: int | None = None
    change: int | None = None


@dataclass(frozen=True)
class Band:
    """How many keywords stand in a band of positions, now and before."""

    first: int | None
    last: int | None
    now: int
    before: int


@dataclass(frozen=True)
class PositionsFacts:
    """Positions of keywords: how many climbed and slipped, the bands, those that moved most."""

    first: str = ""
    last: str = ""
    total: int = 0
    up: int = 0
    down: int = 0
    bands: list[Band] = field(default_factory=list)
    items: list[Keyword] = field(default_factory=list)


@dataclass(frozen=True)
class Link:
    """A link from another site, to which page, with its day and what the site answers there."""

    source: str
    page: str
    day: str = ""
    status: int | None = None


@dataclass(frozen=True)
class LinksFacts:
    """Links from other sites: domains that link here, new and lost ones since a day, and those to pages that are gone."""

    since: str = ""
    domains: int = 0
    domains_new: int = 0
    domains_lost: int = 0
    links: int = 0
    new: list[Link] = field(default_factory=list)
    lost: list[Link] = field(default_factory=list)
    to_gone: list[Link] = field(default_factory=list)


def _rank(rank: int | None, language: Language) -> Cell:
    return Cell(language.say("not found"), tone="quiet") if rank is None else Cell(language.number(rank), rank)


def _positions(facts: PositionsFacts, told: Told) -> Sequence[Block]:
    if not facts.last:
        return []
    language = told.language
    total = language.count(
        facts.total,
        "One keyword, a search that matters to you, is looked up",
        "{n} keywords, searches that matter to you, are looked up",
    )
    up = language.count(facts.up, "one climbed", "{n} climbed") if facts.up else language.say("none climbed")
    down = language.count(facts.down, "one slipped", "{n} slipped") if facts.down else language.say("none slipped")
    blocks: list[Block] = [Paragraph(language.say("{total}: {up}, {down}.", total=total, up=up, down=down))]
    if facts.bands:
        bars = [Bar(_band(each, language), each.now, each.before) for each in facts.bands]
        says = language.say("Keywords by position now and before")
        blocks.append(Bars(says, bars, language.say("Now"), language.say("Before")))
    if facts.items:
        heads = [
            Column(language.say("Keyword"), part=6),
            Column(language.say("Position"), number=True),
            Column(language.say("Before"), number=True),
            Column(language.say("Change"), number=True),
            Column(language.say("Best"), number=True),
        ]
        rows = [
            [
                Cell(each.keyword, strong=True, under=_where(each, language)),
                _rank(each.rank, language),
                _rank(each.before, language),
                Cell("–")
                if each.change is None
                else Cell(language.signed(each.change, 0) if each.change else "0", each.change, tone_of(float(each.change))),
                _rank(each.best, language),
            ]
            for each in facts.items
        ]
        blocks.append(Table(language.say(POSITIONS.title), heads, rows))
    blocks.append(
        Paragraph(
            language.say(
                "Looked up from {first} to {last}. A change above 0 is a climb.",
                first=as_day(facts.first),
                last=as_day(facts.last),
            ),
            "quiet",
        )
    )
    return blocks


def _where(each: Keyword, language: Language) -> str:
    """On which device and from which place it was looked up."""
    devices = {"phone": language.say("phone"), "desktop": language.say("desktop"), "tablet": language.say("tablet")}
    return ", ".join(filter(None, (devices.get(each.device, each.device), each.place)))


def _band(each: Band, language: Language) -> str:
    if each.first is None:
        return language.say("not found")
    if each.last is None:
        return language.say("{first} and below", first=each.first)
    return language.say("{first} to {last}", first=each.first, last=each.last)


def _links(facts: LinksFacts, told: Told) -> Sequence[Block]:
    if not facts.since:
        return []
    language = told.language
    domains = language.count(facts.domains, "One other site links to yours", "{n} other sites link to yours")
    new = language.count(facts.domains_new, "one is new", "{n} are new") if facts.domains_new else language.say("none is new")
    lost = (
        language.count(facts.domains_lost, "one was lost", "{n} were lost")
        if facts.domains_lost
        else language.say("none was lost")
    )
    blocks: list[Block] = [
        Paragraph(
            language.say(
                "{domains}; since {day}, {new} and {lost}.", domains=domains, day=as_day(facts.since), new=new, lost=lost
            )
        )
    ]
    lists = (
        (language.say("New links"), facts.new, language.say("Since")),
        (language.say("Lost links"), facts.lost, language.say("Lost on")),
        (language.say("Links to pages that are gone"), facts.to_gone, language.say("Since")),
    )
    for head, rows, day in lists:
        if not rows:
            continue
        blocks.append(Heading(head))
        if rows is facts.to_gone:
            blocks.append(
                Paragraph(
                    language.say(
                        "Visitors who follow them meet an error; a redirect, which leads from the old address to a new one, wins them back."
                    )
                )
            )
        heads = [Column(language.say("From"), part=6), Column(language.say("To"), part=4), Column(day, solid=True)]
        cells = [
            [Cell(each.source), Cell(each.page), Cell(language.short_day(as_day(each.day)) if each.day else "–")] for each in rows
        ]
        blocks.append(Table(head, heads, cells))
    return blocks


POSITIONS = Section(
    SectionKind.POSITIONS,
    "Positions",
    "Where the site stands for its keywords, and which moved most.",
    PositionsFacts,
    _positions,
    {"weeks": Choice("Weeks compared", 4, 1, 26), "limit": Choice("Keywords shown", 12, 1, 200)},
)
LINKS = Section(
    SectionKind.LINKS,
    "Links from other sites",
    "New and lost links, and those that lead to pages that are gone.",
    LinksFacts,
    _links,
    {"weeks": Choice("Weeks looked back", 4, 1, 26), "limit": Choice("Links shown of each list", 6, 1, 100)},
)
