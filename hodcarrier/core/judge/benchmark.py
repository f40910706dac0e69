"""Benchmarks: one site against its competitors on the same measures, fairly."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from statistics import median

from hodcarrier.core.words import as_shown, figure


@dataclass(frozen=True, slots=True)
class Measure:
    """A figure that sites are compared by."""

    id: str
    name: str
    unit: str
    high_is_good: bool


MEASURES = (
    Measure("health", "Health", "points", True),
    Measure("indexable_ratio", "Indexable pages", "%", True),
    Measure("severe_free_ratio", "Pages free of severe findings", "%", True),
    Measure("description_ratio", "Pages with a meta description", "%", True),
    Measure("alt_ratio", "Images with alt text", "%", True),
    Measure("https_ratio", "Pages on HTTPS", "%", True),
    Measure("compressed_ratio", "Pages sent compressed", "%", True),
    Measure("listed_ratio", "Indexable pages in a sitemap", "%", True),
    Measure("data_ratio", "Pages with structured data", "%", True),
    Measure("first_byte_ms_median", "Time to first byte, median", "ms", False),
    Measure("html_bytes_median", "HTML size, median", "bytes", False),
    Measure("words_median", "Words in the main text, median", "words", True),
    Measure("depth_p90", "Click depth, 90th percentile", "clicks", False),
)


def wilson(hits: int, total: int, z: float = 1.959963984540054) -> tuple[float, float]:
    """The 95 % Wilson score interval (shares 0 to 1) of ``hits`` in ``total``; (0, 1) without any sample."""
    if total == 0:
        return 0.0, 1.0
    share = hits / total
    spread = z * math.sqrt(share * (1 - share) / total + z * z / (4 * total * total))
    centre, scale = share + z * z / (2 * total), 1 + z * z / total
    # Clamped to the share: a bound that is 0 or 1 in theory misses it by the last digit.
    return min(share, max(0.0, (centre - spread) / scale)), max(share, min(1.0, (centre + spread) / scale))


@dataclass(frozen=True, slots=True)
class Row:
    """One measure over the sites, with its figures as they are shown. ``ranks`` begin at 1 for the best; sites without the figure have none.

    ``gap_to_best`` and ``gap_to_median`` are those of the own site, positive when it is the better one.
    """

    measure: Measure
    values: tuple[float | None, ...]
    ranks: tuple[int | None, ...]
    gap_to_best: float | None
    gap_to_median: float | None


def compare_sites(
    figures: Sequence[Mapping[str, float | None]],
    own: int = 0,
    measures: Sequence[Measure] = MEASURES,
    unranked: Collection[int] = (),
) -> list[Row]:
    """A row for every measure that at least two sites have. ``figures`` holds a mapping for every site.

    Sites in ``unranked`` keep their values, take no rank and are nobody's measure.
    """
    rows = []
    for measure in measures:
        found = [site.get(measure.id) for site in figures]
        values = tuple(None if v is None else as_shown(v, measure.unit) for v in found)
        if sum(v is not None for v in values) < 2:
            continue
        counted = [None if i in unranked else v for i, v in enumerate(values)]
        present = [v for v in counted if v is not None]
        sign = 1.0 if measure.high_is_good else -1.0
        ranks = tuple(None if v is None else 1 + sum(1 for other in present if sign * other > sign * v) for v in counted)
        mine = counted[own]
        others = [v for i, v in enumerate(counted) if v is not None and i != own]
        best = max(others, key=lambda v: sign * v) if others else None
        gap_best = as_shown(sign * (mine - best), measure.unit) if mine is not None and best is not None else None
        gap_median = as_shown(sign * (mine - median(others)), measure.unit) if mine is not None and others else None
        rows.append(Row(measure, values, ranks, gap_best, gap_median))
    return rows


class RoundState(StrEnum):
    """What a benchmark has to show."""

    RUNNING = "running"
    DONE = "done"
    NONE = "no round yet"


@dataclass(frozen=True)
class Standing:
    """How the own site stands, in sentences."""

    lead: list[str] = field(default_factory=list)
    trail: list[str] = field(default_factory=list)
    close_first: list[str] = field(default_factory=list)


def sentences(rows: Sequence[Row], names: Sequence[str], own: int = 0) -> Standing:
    """Where the own site leads, where it trails, and what to close first, as plain sentences."""
    lead, trail = [], []
    for row in rows:
        rank = row.ranks[own]
        if rank is None or row.gap_to_best is None:
            continue
        mine, best_other = row.values[own], _best_other(row, own)
        text = f"{row.measure.name}: {figure(mine, row.measure.unit)}"
        if rank == 1 and row.gap_to_best > 0:
            lead.append(f"{text}, ahead of {names[best_other]} at {figure(row.values[best_other], row.measure.unit)}.")
        elif rank > 1:
            trail.append(
                (_weight(row), f"{text}, behind {names[best_other]} at {figure(row.values[best_other], row.measure.unit)}.")
            )
    trail.sort(key=lambda item: -item[0])
    return Standing(lead, [text for _, text in trail], [text for _, text in trail[:3]])


def _best_other(row: Row, own: int) -> int:
    sign = 1.0 if row.measure.high_is_good else -1.0
    others = [(i, v) for i, v in enumerate(row.values) if v is not None and row.ranks[i] is not None and i != own]
    return max(others, key=lambda item: sign * item[1])[0]


def _weight(row: Row) -> float:
    """How far behind, as a share of the larger of the two figures, so that measures of unlike units can be ordered."""
    best = max((abs(v) for v, rank in zip(row.values, row.ranks, strict=True) if v is not None and rank is not None), default=0.0)
    return abs(row.gap_to_best or 0.0) / best if best else 0.0
