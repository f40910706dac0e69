"""What happened between the first audit and the last one, with the share of each event in the change of health."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import EventKind, SectionKind
from hodcarrier.report.blocks import Block, Cell, Column, Paragraph, Table
from hodcarrier.report.language import Language
from hodcarrier.report.sections.section import Choice, Section, Told, as_day, tone_of


@dataclass(frozen=True)
class Happened:
    """An event: its kind, what it is about, how it happened, the pages concerned (``page`` is the path of a single one), its check where there is but one, how many
    findings it holds, and its share in points."""

    kind: str
    about: str = ""
    way: str = ""
    pages: int = 0
    page: str = ""
    target: str = ""
    check: str = ""
    title: str = ""
    checks: int = 0
    findings: int = 0
    joined: int = 0
    share: float | None = None


@dataclass(frozen=True)
class HappenedFacts:
    """The events between two days, those that weigh most first, and how many further ones there are."""

    first: str = ""
    last: str = ""
    events: list[Happened] = field(default_factory=list)
    more: int = 0


Words = Callable[[Happened, Language], str]


def _pages(each: Happened, language: Language) -> str:
    return each.page or language.count(each.pages, "one page", "{n} pages")


def _named(each: Happened, language: Language) -> str:
    if each.checks == 1 and each.title:
        return language.check_title(each.check, each.title)
    return language.count(max(1, each.checks), "one kind of fault", "{n} kinds of faults")


def _on(said: str) -> Words:
    return lambda each, language: language.say(said, pages=_pages(each, language))


def _faults(one: str, many: str) -> Words:
    return lambda each, language: language.count(each.findings, one, many)


def _rule(said: str, without: str) -> Words:
    def words(each: Happened, language: Language) -> str:
        path = each.about.partition(":")[2].partition("(")[0].strip() if ":" in each.about else each.about
        pages = _pages(each, language)
        return language.say(said, path=path, pages=pages) if path.startswith("/") else language.say(without, pages=pages)

    return words


def _moved(each: Happened, language: Language) -> str:
    pages = _pages(each, language)
    if each.way == "redirect":
        return language.say("A redirect now leads elsewhere: {pages}", pages=pages)
    return language.say("Moved without a redirect: {pages}", pages=pages)


def _faulty(said: str) -> Words:
    def words(each: Happened, language: Language) -> str:
        if not each.pages:
            return _named(each, language)
        return language.say(said, name=_named(each, language), pages=_pages(each, language))

    return words


WORDS: dict[EventKind, Words] = {
    EventKind.BLOCKED: _rule(
        "robots.txt, which tells search engines what they may read, now blocks {path}: {pages}",
        "robots.txt, which tells search engines what they may read, now blocks {pages}",
    ),
    EventKind.FREED: _rule(
        "robots.txt, which tells search engines what they may read, no longer blocks {path}: {pages}",
        "robots.txt, which tells search engines what they may read, no longer blocks {pages}",
    ),
    EventKind.BROKEN: _on("Gone, so that visitors meet an error: {pages}"),
    EventKind.FAILING: _on("The server failed on {pages}"),
    EventKind.RECOVERED: _on("Without an error again: {pages}"),
    EventKind.MOVED: _moved,
    EventKind.DEINDEXED: _on("Kept out of search results now: {pages}"),
    EventKind.REINDEXED: _on("Allowed in search results again: {pages}"),
    EventKind.APPEARED: _on("New on the site: {pages}"),
    EventKind.GONE: _on("No longer part of the site: {pages}"),
    EventKind.UNREACHED: _on("Not reached by this audit: {pages}"),
    EventKind.REACHED: _on("Reached by this audit, not by the one before: {pages}"),
    EventKind.TEMPLATE: _faulty("{name}, on pages that are built alike: {pages}"),
    EventKind.WORSE: _faulty("{name}: {pages}"),
    EventKind.RETURNED: _faulty("Back again: {name}, {pages}"),
    EventKind.FIXED: _faulty("Fixed: {name}, {pages}"),
    EventKind.ENDED: _faults("One fault went with its page", "{n} faults went with their pages"),
    EventKind.UNVERIFIED: _faults("One earlier fault could not be checked", "{n} earlier faults could not be checked"),
    EventKind.JUDGING: _faults("Our rules changed, which concerns one fault", "Our rules changed, which concerns {n} faults"),
    EventKind.WAIVED: _faults("One fault is accepted as it is", "{n} faults are accepted as they are"),
    EventKind.WAIVER_ENDED: _faults("One fault is no longer accepted", "{n} faults are no longer accepted"),
    EventKind.EDITED: _on("Texts or settings were edited: {pages}"),
    EventKind.OTHER: lambda each, language: (
        language.count(each.joined, "One smaller change", "{n} smaller changes") if each.joined else language.say("Other changes")
    ),
}


def _share(each: Happened, language: Language) -> Cell:
    if each.share is None:
        return Cell("–")
    rounded = round(each.share, 1)
    return Cell(language.signed(rounded) if rounded else "0", rounded, tone_of(rounded))


def _draw(facts: HappenedFacts, told: Told) -> Sequence[Block]:
    language = told.language
    if not facts.last:
        return []
    if not facts.events:
        return [
            Paragraph(
                language.say(
                    "Nothing that matters differs between the audits of {first} and {last}.",
                    first=as_day(facts.first),
                    last=as_day(facts.last),
                )
            )
        ]
    heads = [Column(language.say("What happened"), part=8), Column(language.say("Points of health"), number=True)]
    rows = [[Cell(WORDS[EventKind(each.kind)](each, language)), _share(each, language)] for each in facts.events]
    said = language.say(
        "Between the audits of {first} and {last}. The points say how much each accounts for in the change of health.",
        first=as_day(facts.first),
        last=as_day(facts.last),
    )
    blocks: list[Block] = [Paragraph(said, "quiet"), Table(language.say(SECTION.title), heads, rows)]
    if facts.more:
        blocks.append(
            Paragraph(
                language.count(facts.more, "One further event is not listed here.", "{n} further events are not listed here."),
                "quiet",
            )
        )
    return blocks


SECTION = Section(
    SectionKind.HAPPENED,
    "What happened",
    "Events between the first audit and the last one, each with its share in the change of health.",
    HappenedFacts,
    _draw,
    {"limit": Choice("Rows at most", 8, 1, 50)},
)
