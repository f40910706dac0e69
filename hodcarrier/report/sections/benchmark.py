"""How the site stands against its competitors."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import Lead, SectionKind
from hodcarrier.report.blocks import Block, Cell, Column, Dots, Heading, Listing, Paragraph, Table
from hodcarrier.report.language import Language
from hodcarrier.report.sections.section import Choice, Section, Told, as_day

# With more competitors than this, a table names the best of them instead of each.
NAMED_MAX = 3
CLOSE_FIRST = 3


@dataclass(frozen=True)
class MeasureRow:
    """A measure over the sites, the own one first; ``lead`` says whether that is ahead, behind or level (empty: no telling)."""

    id: str
    name: str
    unit: str
    high_is_good: bool
    values: list[float | None]
    ranks: list[int | None]
    lead: str = ""


@dataclass(frozen=True)
class Thin:
    """A site that takes no rank, as too little of it could be examined."""

    host: str
    pages: int
    known: int


@dataclass(frozen=True)
class BenchmarkFacts:
    """The latest round: the hosts, the own one first, their measures, and when it was."""

    hosts: list[str] = field(default_factory=list)
    rows: list[MeasureRow] = field(default_factory=list)
    at: str = ""
    thin: list[Thin] = field(default_factory=list)
    health: float | None = None


def _draw(facts: BenchmarkFacts, told: Told) -> Sequence[Block]:
    if not facts.rows:
        return []
    language = told.language
    said = language.say("All sites were audited in the same way")
    said = language.say("{said} on {day}.", said=said, day=as_day(facts.at)) if facts.at else f"{said}."
    if any(row.id == "health" for row in facts.rows) and facts.health is not None:
        said += " " + language.say("Health can differ from that of your own audit, which is made for your site alone.")
    for each in facts.thin:
        said += " " + language.say(
            "{host} takes no rank: only {pages} of its {known} known pages could be examined.",
            host=each.host,
            pages=each.pages,
            known=each.known,
        )
    blocks: list[Block] = [Paragraph(said, "quiet"), _table(facts, told)]
    close = [row for row in facts.rows if row.lead == Lead.BEHIND]
    close.sort(key=lambda row: -_distance(row))
    if close:
        blocks.append(Heading(language.say("The largest gaps")))
        blocks.append(Listing([_gap(row, facts, language) for row in close[:CLOSE_FIRST]]))
    return blocks


def _table(facts: BenchmarkFacts, told: Told) -> Table:
    language, competitors = told.language, facts.hosts[1:]
    named = len(competitors) <= NAMED_MAX
    heads = [Column(language.say("Measure"), part=5), Column("", part=3), Column(language.say("You"), number=True)]
    if named:
        heads += [Column(host, number=True) for host in competitors]
    else:
        heads += [Column(language.say("Best of the others"), number=True), Column(language.say("Rank"), number=True)]
    rows = []
    for row in facts.rows:
        good = language.say("high is good") if row.high_is_good else language.say("low is good")
        own = row.values[0] if row.values else None
        cells = [
            Cell(language.say(row.name), under=good),
            Cell("", dots=_dots(row)),
            Cell(language.figure(own, row.unit), own, strong=True),
        ]
        if named:
            cells += [Cell(language.figure(value, row.unit), value) for value in row.values[1:]]
        else:
            best = _best(row)
            shown = (
                Cell("–")
                if best is None
                else Cell(language.figure(row.values[best], row.unit), row.values[best], under=facts.hosts[best])
            )
            rank = row.ranks[0] if row.ranks else None
            counted = sum(each is not None for each in row.ranks)
            cells += [shown, Cell("–" if rank is None else language.say("{rank} of {count}", rank=rank, count=counted), rank)]
        rows.append(cells)
    return Table(language.say(SECTION.title), heads, rows)


def _dots(row: MeasureRow) -> Dots | None:
    known = [value for value in row.values if value is not None]
    if not known or (row.values[0] is None and len(known) < 2):
        return None
    low, high = (0.0, 100.0) if row.unit in ("%", "points") else (min(known), max(known))
    size = (high - low) or 1.0
    placed = [None if value is None else (value - low) / size for value in row.values]
    return Dots(placed[0], [each for each in placed[1:] if each is not None])


def _best(row: MeasureRow) -> int | None:
    """The place of the best competitor that takes a rank."""
    known = [n for n, value in enumerate(row.values) if n and value is not None and row.ranks[n] is not None]
    return max(known, key=lambda n: (row.values[n] or 0.0) * (1 if row.high_is_good else -1), default=None)


def _distance(row: MeasureRow) -> float:
    """How far the own site is behind, as a share of the best figure, so that measures of different units can be put in order."""
    best, own = _best(row), row.values[0]
    if best is None or own is None:
        return 0.0
    there = row.values[best] or 0.0
    return abs(there - own) / (max(abs(there), abs(own)) or 1.0)


def _gap(row: MeasureRow, facts: BenchmarkFacts, language: Language) -> str:
    best = _best(row)
    own = language.figure(row.values[0], row.unit)
    if best is None:
        return f"{language.say(row.name)}: {own}"
    return language.say(
        "{name}: {own}, against {best} at {host}",
        name=language.say(row.name),
        own=own,
        best=language.figure(row.values[best], row.unit),
        host=facts.hosts[best],
    )


SECTION = Section(
    SectionKind.BENCHMARK,
    "Against your competitors",
    "How the site stands in the latest round of its benchmark, and the largest gaps.",
    BenchmarkFacts,
    _draw,
    {"limit": Choice("Measures at most", 8, 1, 60)},
    ("benchmark", "measures"),
)
