"""What the audit finds: scores by area, chosen checks with where they fail, and the appendix of all findings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.catalogue import AREAS
from hodcarrier.core.states import Area, SectionKind
from hodcarrier.core.words import difference
from hodcarrier.report.blocks import Block, Cell, Column, Heading, Listing, Paragraph, Table
from hodcarrier.report.language import Language
from hodcarrier.report.sections.section import Choice, Section, Told, as_day, tone_of


@dataclass(frozen=True)
class AreaScore:
    """An area, its score now and at the audit before (``None``: examined nowhere, or over other pages), and the pages it was examined on."""

    area: str
    score: float | None
    before: float | None = None
    pages: int | None = None
    name: str = ""


@dataclass(frozen=True)
class AreasFacts:
    """The scores of all areas."""

    areas: list[AreaScore] = field(default_factory=list)


@dataclass(frozen=True)
class Fault:
    """A check that fails, where (``examples`` are some of the places), and the points it costs."""

    check: str
    title: str
    why: str
    severity: str
    findings: int
    gain: float | None = None
    examples: list[str] = field(default_factory=list)
    more: int = 0
    fix: str = ""


@dataclass(frozen=True)
class FindingsFacts:
    """Failing checks, and those of the chosen ones that found nothing."""

    faults: list[Fault] = field(default_factory=list)
    passed: list[str] = field(default_factory=list)
    passed_ids: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class FindingRow:
    """A finding: its check, on what, and since when (ISO 8601)."""

    check: str
    subject: str
    since: str
    place: str = ""


@dataclass(frozen=True)
class AppendixFacts:
    """All failing checks in plain words, the findings, and how many further ones there are."""

    faults: list[Fault] = field(default_factory=list)
    findings: list[FindingRow] = field(default_factory=list)
    more: int = 0


def _areas(facts: AreasFacts, told: Told) -> Sequence[Block]:
    language = told.language
    if not facts.areas:
        return []
    with_change = any(each.before is not None for each in facts.areas)
    heads = [Column(language.say("Area"), part=5), Column(language.say("Score, of 100"), number=True)]
    heads += [Column(language.say("Change"), number=True)] if with_change else []
    heads.append(Column(language.say("Pages examined"), number=True))
    return [
        Table(language.say(AREA_SCORES.title), heads, [_area(each, language, with_change=with_change) for each in facts.areas])
    ]


def _area(each: AreaScore, language: Language, *, with_change: bool) -> list[Cell]:
    name = AREAS.get(Area(each.area)) if each.area in AREAS else each.name
    row = [Cell(language.say(name or each.name)), Cell(language.figure(each.score, "points"), each.score, strong=True)]
    if with_change:
        change = difference(each.before, each.score) if each.before is not None and each.score is not None else None
        shown = "–" if change is None else language.signed(change) if change else "0"
        row.append(Cell(shown, change, tone_of(change)))
    row.append(Cell("–" if each.pages is None else language.number(each.pages), each.pages))
    return row


def severity_words(severity: str, language: Language) -> str:
    """How severe a fault is, for somebody who does not know the trade."""
    words = {
        "critical": language.say("critical"),
        "high": language.say("serious"),
        "medium": language.say("moderate"),
        "low": language.say("minor"),
    }
    return words.get(severity, severity)


def _findings(facts: FindingsFacts, told: Told) -> Sequence[Block]:
    language = told.language
    blocks: list[Block] = []
    for each in facts.faults:
        blocks.append(Heading(language.check_title(each.check, each.title)))
        places = language.count(each.findings, "one place", "{n} places")
        said = language.say("{severity}, {places}.", severity=severity_words(each.severity, language).capitalize(), places=places)
        blocks.append(Paragraph(f"{language.meaning(each.check, each.why)} {said}"))
        if each.examples:
            more = [language.count(each.more, "and one more", "and {n} more")] if each.more else []
            blocks.append(Listing([*each.examples, *more]))
    if facts.passed:
        names = [language.check_title(check, title) for check, title in zip(facts.passed_ids, facts.passed, strict=True)]
        blocks.append(
            Paragraph(
                language.count(len(names), "Nothing found: {names}.", "Nothing found: {names}.", names=language.listed(names))
            )
        )
    return blocks


def _appendix(facts: AppendixFacts, told: Told) -> Sequence[Block]:
    language = told.language
    if not facts.faults:
        return [Paragraph(language.say("The last audit found nothing to fix."))]
    heads = [
        Column(language.say("Fault"), part=4),
        Column(language.say("Why it matters"), part=8),
        Column(language.say("Places"), number=True),
    ]
    rows = [
        [
            Cell(language.check_title(each.check, each.title), strong=True, under=severity_words(each.severity, language)),
            Cell(language.check_why(each.check, each.why)),
            Cell(language.number(each.findings), each.findings),
        ]
        for each in facts.faults
    ]
    blocks: list[Block] = [Table(language.say("Faults explained"), heads, rows)]
    if facts.findings:
        titles = {each.check: language.check_title(each.check, each.title) for each in facts.faults}
        blocks.append(Heading(language.say("All findings")))
        heads = [
            Column(language.say("Fault"), part=4),
            Column(language.say("Where"), part=7),
            Column(language.say("Since"), solid=True),
        ]
        rows = [
            [
                Cell(titles.get(each.check, each.check)),
                Cell(each.subject, under=each.place),
                Cell(language.short_day(as_day(each.since)) if each.since else "–"),
            ]
            for each in facts.findings
        ]
        blocks.append(Table(language.say("All findings"), heads, rows))
    if facts.more:
        blocks.append(
            Paragraph(
                language.count(
                    facts.more, "One further finding is not listed here.", "{n} further findings are not listed here."
                ),
                "quiet",
            )
        )
    return blocks


AREA_SCORES = Section(SectionKind.AREAS, "The areas in figures", "The score of each area and how it changed.", AreasFacts, _areas)
FINDINGS = Section(
    SectionKind.FINDINGS,
    "What we found",
    "Failing checks in plain words with some of their places: those you choose, or those worth doing first.",
    FindingsFacts,
    _findings,
    {"limit": Choice("Checks at most", 6, 1, 50), "places": Choice("Places shown of each", 3, 0, 20)},
    ("checks",),
)
APPENDIX = Section(
    SectionKind.APPENDIX,
    "Appendix: the faults explained",
    "Every failing check in plain words; with the list of all findings when you want it.",
    AppendixFacts,
    _appendix,
    {"limit": Choice("Findings listed at most", 0, 0, 2000)},
)
