"""Figures from outside: search results and visits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import SectionKind
from hodcarrier.core.words import difference
from hodcarrier.report.blocks import Block, Cell, Column, Heading, Lines, Paragraph, Table
from hodcarrier.report.language import Language
from hodcarrier.report.sections.section import Choice, Noted, Section, Told, Value, as_day, marks, points, tone_of


@dataclass(frozen=True)
class Row:
    """A query, page or channel with its figure now and in the days before, and its position now where it has one."""

    text: str
    now: float
    before: float
    position: float | None = None


@dataclass(frozen=True)
class SearchFacts:
    """Search figures of some weeks against those before: sums, a line by week, the queries that bring most, those that rise and fall."""

    first: str = ""
    last: str = ""
    clicks: int = 0
    clicks_before: int = 0
    impressions: int = 0
    impressions_before: int = 0
    position: float | None = None
    position_before: float | None = None
    brand_clicks: int | None = None
    weeks: list[Value] = field(default_factory=list)
    remarks: list[Noted] = field(default_factory=list)
    top: list[Row] = field(default_factory=list)
    rising: list[Row] = field(default_factory=list)
    falling: list[Row] = field(default_factory=list)
    sources: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class VisitsFacts:
    """Visits of some weeks against those before, by week and by channel."""

    first: str = ""
    last: str = ""
    visits: int = 0
    visits_before: int = 0
    conversions: float | None = None
    conversions_before: float | None = None
    weeks: list[Value] = field(default_factory=list)
    remarks: list[Noted] = field(default_factory=list)
    channels: list[Row] = field(default_factory=list)
    pages: list[Row] = field(default_factory=list)
    sources: list[str] = field(default_factory=list)


def _change(now: float, before: float, language: Language) -> Cell:
    """By how much a figure differs, in percent where there was enough to tell."""
    if not before:
        return Cell(language.say("new") if now else "–")
    share = round((now / before - 1) * 100)
    return Cell(f"{language.signed(share, 0)} %" if share else "0 %", share, tone_of(float(share)))


def _source(sources: Sequence[str], first: str, last: str, language: Language) -> Paragraph:
    days = language.span(as_day(first), as_day(last))
    if not sources:
        return Paragraph(language.say("Figures of {days}, beside the days before that are as many.", days=days), "quiet")
    return Paragraph(
        language.say(
            "Figures of {days}, beside the days before that are as many. Source: {sources}.",
            days=days,
            sources=language.listed(list(sources)),
        ),
        "quiet",
    )


def _line(says: str, weeks: Sequence[Value], remarks: Sequence[Noted], told: Told) -> list[Block]:
    if sum(each.value is not None for each in weeks) < 2:
        return []
    language, first, last = told.language, weeks[0].day, weeks[-1].day
    inside = [each for each in remarks if first <= each.day <= last]
    said = language.say("{what}, from {first} to {last}", what=says, first=as_day(first), last=as_day(last))
    return [
        Lines(
            said,
            points(weeks, told),
            marks(inside, told),
            0,
            None,
            language.short_day(as_day(first)),
            language.short_day(as_day(last)),
        )
    ]


def _sums(rows: Sequence[tuple[str, float | None, float | None, int, bool]], language: Language, name: str) -> Table:
    """Figures now and before: their names, values, decimals, and whether high is good."""
    heads = [
        Column(language.say("Figure"), part=5),
        Column(language.say("Now"), number=True),
        Column(language.say("Before"), number=True),
        Column(language.say("Change"), number=True),
    ]
    cells = []
    for label, now, before, digits, high_is_good in rows:
        if now is None:
            continue
        change = Cell("–")
        if before is not None:
            change = _change(now, before, language) if high_is_good else _by(difference(now, before, digits), digits, language)
        cells.append(
            [
                Cell(label),
                Cell(language.number(now, digits), now, strong=True),
                Cell("–" if before is None else language.number(before, digits), before),
                change,
            ]
        )
    return Table(name, heads, cells)


def _by(change: float, digits: int, language: Language) -> Cell:
    rounded = round(change, digits)
    return Cell(language.signed(rounded, digits) if rounded else "0", rounded, tone_of(rounded))


def _rows(head: str, figure: str, rows: Sequence[Row], language: Language, name: str, *, with_position: bool = False) -> Table:
    heads = [
        Column(head, part=6),
        Column(figure, number=True),
        Column(language.say("Before"), number=True),
        Column(language.say("Change"), number=True),
    ]
    heads += [Column(language.say("Position"), number=True)] if with_position else []
    cells = [
        [
            Cell(row.text),
            Cell(language.number(row.now), row.now, strong=True),
            Cell(language.number(row.before), row.before),
            _change(row.now, row.before, language),
            *([Cell("–" if row.position is None else language.number(row.position, 1), row.position)] if with_position else []),
        ]
        for row in rows
    ]
    return Table(name, heads, cells)


def _search(facts: SearchFacts, told: Told) -> Sequence[Block]:
    if not facts.last:
        return []
    language = told.language
    blocks: list[Block] = [
        Paragraph(
            language.say(
                "A click is a visitor who came from the results of a search engine; an impression is a result that was shown; the position is where it stood, 1 being the first."
            )
        )
    ]
    blocks += _line(language.say("Clicks by week"), facts.weeks, facts.remarks, told)
    sums = (
        (language.say("Clicks"), facts.clicks, facts.clicks_before, 0, True),
        (language.say("Impressions"), facts.impressions, facts.impressions_before, 0, True),
        (language.say("Position on average"), facts.position, facts.position_before, 1, False),
    )
    blocks.append(_sums(sums, language, language.say(SEARCH.title)))
    if facts.brand_clicks is not None and facts.clicks:
        share = language.percent(facts.brand_clicks / facts.clicks * 100)
        blocks.append(
            Paragraph(language.say("{share} of the clicks came from people who searched for you by name.", share=share))
        )
    for head, rows in (
        (language.say("Searches that bring most"), facts.top),
        (language.say("On the rise"), facts.rising),
        (language.say("On the decline"), facts.falling),
    ):
        if rows:
            blocks.append(Heading(head))
            blocks.append(_rows(language.say("Search"), language.say("Clicks"), rows, language, head, with_position=True))
    blocks.append(_source(facts.sources, facts.first, facts.last, language))
    return blocks


def _visits(facts: VisitsFacts, told: Told) -> Sequence[Block]:
    if not facts.last:
        return []
    language = told.language
    blocks = _line(language.say("Visits by week"), facts.weeks, facts.remarks, told)
    sums = (
        (language.say("Visits"), facts.visits, facts.visits_before, 0, True),
        (language.say("Conversions, visits that ended as you want"), facts.conversions, facts.conversions_before, 0, True),
    )
    blocks.append(_sums(sums, language, language.say(VISITS.title)))
    for head, column, rows in (
        (language.say("Where visitors come from"), language.say("Channel"), facts.channels),
        (language.say("Pages with most visits"), language.say("Page"), facts.pages),
    ):
        if rows:
            blocks.append(Heading(head))
            blocks.append(_rows(column, language.say("Visits"), rows, language, head))
    blocks.append(_source(facts.sources, facts.first, facts.last, language))
    return blocks


SEARCH = Section(
    SectionKind.SEARCH,
    "Found in search results",
    "Clicks, impressions and position from imported search figures; the queries that bring most, rise and fall.",
    SearchFacts,
    _search,
    {
        "weeks": Choice("Weeks compared", 4, 1, 13),
        "months": Choice("Months of the line", 6, 1, 24),
        "limit": Choice("Searches shown", 8, 1, 50),
    },
)
VISITS = Section(
    SectionKind.VISITS,
    "Visits",
    "Visits by week, by channel and by page, from imported figures.",
    VisitsFacts,
    _visits,
    {
        "weeks": Choice("Weeks compared", 4, 1, 13),
        "months": Choice("Months of the line", 6, 1, 24),
        "limit": Choice("Pages shown", 5, 0, 50),
    },
)
