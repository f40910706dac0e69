"""Who stands where: sites ranked by each measure, and how the own one stands, in sentences."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from statistics import median

from hodcarrier.core.benchmark.measures import MEASURES, Measure, behind
from hodcarrier.core.states import Lead
from hodcarrier.core.summary import SiteFigures, Taken
from hodcarrier.core.words import as_shown, figure

CLOSE_FIRST = 5


@dataclass(frozen=True, slots=True)
class Row:
    """One measure over the sites, with its figures as they are shown. ``ranks`` begin at 1 for the best; sites that no difference that tells sets apart share
    one; sites without the figure have none.

    ``gap_to_best`` and ``gap_to_median`` are those of the own site to the others, positive when it is the better one, and ``lead`` says
    whether the first one tells anything; ``behind`` is the filter of what keeps it from the best figure.
    """

    measure: Measure
    values: tuple[float | None, ...]
    taken: tuple[Taken | None, ...]
    ranks: tuple[int | None, ...]
    gap_to_best: float | None
    gap_to_median: float | None
    lead: Lead | None
    behind: str


def compare_sites(
    figures: Sequence[SiteFigures | None], own: int = 0, measures: Sequence[Measure] = MEASURES, unranked: Collection[int] = ()
) -> list[Row]:
    """A row for every measure that at least two sites have. ``figures`` holds those of every site, ``None`` when its run failed.

    Sites in ``unranked`` keep their values, take no rank and are nobody's measure.
    """
    rows = []
    for measure in measures:
        taken = tuple(site.taken.get(measure.id) if site else None for site in figures)
        values = tuple(None if each is None else as_shown(each.value, measure.unit) for each in taken)
        if sum(v is not None for v in values) < 2:
            continue
        counted = [None if i in unranked else each for i, each in enumerate(taken)]
        sign = 1.0 if measure.high_is_good else -1.0
        mine = values[own] if own not in unranked else None
        others = [i for i, each in enumerate(counted) if each is not None and i != own]
        best = max(others, key=lambda i: sign * (values[i] or 0.0), default=None)
        gap_best = gap_median = lead = None
        if mine is not None and best is not None:
            gap_best = as_shown(sign * (mine - (values[best] or 0.0)), measure.unit)
            gap_median = as_shown(sign * (mine - median([values[i] or 0.0 for i in others])), measure.unit)
            lead = Lead.LEVEL
            if differ(measure, counted[own], counted[best]):
                lead = Lead.AHEAD if gap_best > 0 else Lead.BEHIND
        where = behind(measure, values[best] if best is not None else None) if lead == Lead.BEHIND else ""
        rows.append(Row(measure, values, taken, _ranks(measure, counted), gap_best, gap_median, lead, where))
    return rows


def differ(measure: Measure, one: Taken | None, other: Taken | None) -> bool:
    """Whether two figures differ: by the resolution of their measure at least, and with intervals, where they have some, that do not overlap."""
    if one is None or other is None:
        return False
    if abs(as_shown(one.value, measure.unit) - as_shown(other.value, measure.unit)) < measure.resolution:
        return False
    (low, high), (low_other, high_other) = _span(one), _span(other)
    return high < low_other or high_other < low


def _span(taken: Taken) -> tuple[float, float]:
    low = taken.value if taken.low is None else taken.low
    return low, taken.value if taken.high is None else taken.high


def _ranks(measure: Measure, counted: Sequence[Taken | None]) -> tuple[int | None, ...]:
    """Ranks from 1, the best first. Who does not differ from the best of a rank has it too; the next rank counts all before it."""
    sign = 1.0 if measure.high_is_good else -1.0
    order = sorted((i for i, each in enumerate(counted) if each), key=lambda i: -sign * _value(counted[i]))
    ranks: list[int | None] = [None] * len(counted)
    best: Taken | None = None
    rank = 0
    for place, site in enumerate(order, 1):
        if best is None or differ(measure, best, counted[site]):
            best, rank = counted[site], place
        ranks[site] = rank
    return tuple(ranks)


def _value(taken: Taken | None) -> float:
    return taken.value if taken else 0.0


class RoundState(StrEnum):
    """What a benchmark has to show."""

    RUNNING = "running"
    DONE = "done"
    NONE = "no round yet"


@dataclass(frozen=True)
class Said:
    """A sentence about one measure."""

    measure: str
    text: str
    behind: str = ""


@dataclass(frozen=True)
class Standing:
    """How the own site stands, in sentences; ``close_first`` are the gaps that are largest for their measure."""

    lead: list[Said] = field(default_factory=list)
    trail: list[Said] = field(default_factory=list)
    close_first: list[Said] = field(default_factory=list)


def sentences(rows: Sequence[Row], names: Sequence[str], own: int = 0) -> Standing:
    """Where the own site leads, where it trails, and what to close first, as plain sentences. Of health and areas, health alone is told."""
    lead, trail = [], []
    for row in rows:
        if row.lead not in (Lead.AHEAD, Lead.BEHIND) or row.measure.area is not None:
            continue
        unit = row.measure.unit
        best = _best_other(row, own)
        told = f"{row.measure.name}: {figure(row.values[own], unit)}"
        ahead = row.lead == Lead.AHEAD
        text = f"{told}, {'ahead of' if ahead else 'behind'} {names[best]} at {figure(row.values[best], unit)}."
        if ahead:
            lead.append(Said(row.measure.id, text))
        else:
            trail.append((_weight(row, own), Said(row.measure.id, text, row.behind)))
    trail.sort(key=lambda item: -item[0])
    return Standing(lead, [said for _, said in trail], [said for _, said in trail[:CLOSE_FIRST]])


def _best_other(row: Row, own: int) -> int:
    sign = 1.0 if row.measure.high_is_good else -1.0
    others = [(i, v) for i, v in enumerate(row.values) if v is not None and row.ranks[i] is not None and i != own]
    return max(others, key=lambda item: sign * item[1])[0]


def _weight(row: Row, own: int) -> float:
    """How large a gap is for its measure, from 0 to 1, so that measures of unlike units can be ordered. Shares of pages weigh most: their pages can be
    named."""
    gap = abs(row.gap_to_best or 0.0)
    if row.measure.unit in ("%", "points"):
        return gap / 100
    mine = abs(row.values[own] or 0.0)
    best = abs(row.values[_best_other(row, own)] or 0.0)
    return 0.5 * gap / (mine + best) if mine + best else 0.0


@dataclass(frozen=True)
class Missing:
    """What competitors have and the own site has not: on how many pages of each site."""

    kind: str
    name: str
    pages: list[int]


# A term of a competitor tells something from so many of its pages on, and nothing where nearly all have it: that is its own name.
TERM_PAGES_MIN = 3
TERM_SHARE_MAX = 0.5


def missing(figures: Sequence[SiteFigures | None], documents: Sequence[int], own: int = 0, shown: int = 20) -> list[Missing]:
    """What at least one competitor has and the own site has nowhere, by kind (kinds of pages, types of structured data, languages, terms of titles and headings);
    what most of them have first, at most ``shown`` of a kind. Nothing when the own run failed."""
    mine = figures[own]
    if mine is None:
        return []
    found = []
    for kind in dict.fromkeys(kind for site in figures if site for kind in site.has):
        counts: dict[str, list[int]] = {}
        for place, site in enumerate(figures):
            for name, pages in (site.has.get(kind, {}) if site else {}).items():
                if kind == "terms" and not TERM_PAGES_MIN <= pages <= TERM_SHARE_MAX * documents[place]:
                    continue
                counts.setdefault(name, [0] * len(figures))[place] = pages
        lacking = [(name, pages) for name, pages in counts.items() if name not in mine.has.get(kind, {})]
        lacking.sort(key=lambda item: (-sum(1 for n in item[1] if n), -sum(item[1]), item[0]))
        found += [Missing(kind, name, pages) for name, pages in lacking[:shown]]
    return found
