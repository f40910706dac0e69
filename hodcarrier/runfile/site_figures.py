"""What a benchmark takes of a run: each measure over the rows of its inventory, and what the pages of the site have."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Set

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.benchmark.intervals import of_mean, of_percentile, wilson
from hodcarrier.core.benchmark.measures import MEASURES, Measure
from hodcarrier.core.facts.terms import phrases, tells
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.inventory.filters import read_filter
from hodcarrier.core.states import InventoryKind, Statistic
from hodcarrier.core.summary import SUMMARY, RunEnd, RunSummary, SiteFigures, Taken
from hodcarrier.runfile import listing
from hodcarrier.runfile.columns import Columns
from hodcarrier.runfile.links import columns_of
from hodcarrier.runfile.listing import Mask
from hodcarrier.runfile.reader import RunFile

# Of what pages have, so many of each kind are kept, those of most pages.
KEPT_MAX = 200
TERM_WORDS_MAX = 2
_NAME = re.compile(r"\w+")
_SHARES = {Statistic.MEDIAN: 0.5, Statistic.P90: 0.9}


def site_figures(run: RunFile) -> SiteFigures:
    """Every measure that a run has a base for, and what its pages have. Intervals are given where the run ended before the whole site was reached."""
    summary = SUMMARY.load(run.meta("summary"))
    sampled = summary.end != RunEnd.COMPLETE
    held = {of: columns_of(run, of) for of in {measure.of for measure in MEASURES}}
    masks: dict[tuple[InventoryKind, str], Mask] = {}

    def met(of: InventoryKind, where: str) -> Mask:
        if (of, where) not in masks:
            masks[of, where] = listing.met(held[of], read_filter(where, COLUMNS[of]), COLUMNS[of])
        return masks[of, where]

    taken = {}
    for measure in MEASURES:
        if sampled and measure.needs_whole:
            continue
        if measure.statistic == Statistic.SCORE:
            found = _score(summary, measure, held[measure.of])
        elif measure.statistic == Statistic.SHARE:
            among = met(measure.of, measure.among)
            found = _share(int((among & met(measure.of, measure.where)).sum()), int(among.sum()))
        else:
            figures = held[measure.of].figures(measure.column)[met(measure.of, measure.among)]
            found = _percentile(figures[np.isfinite(figures)], _SHARES[measure.statistic])
        if found is not None:
            taken[measure.id] = found if sampled else Taken(found.value, found.size)
    own = frozenset(_NAME.findall(run.plan.host.casefold()))
    return SiteFigures(taken, _has(held[InventoryKind.PAGE], met(InventoryKind.PAGE, "indexable"), own), sampled)


def _score(summary: RunSummary, measure: Measure, pages: Columns) -> Taken | None:
    if measure.area is not None:
        score = summary.areas.get(measure.area)
        return None if score is None else Taken(score, summary.area_pages.get(measure.area, 0))
    if summary.health is None:
        return None
    healths = pages.figures("health")
    low, high = of_mean(healths[np.isfinite(healths)])
    factor = summary.site_factor
    return Taken(summary.health, summary.pages_scored, max(0.0, low * factor), min(100.0, high * factor))


def _share(hits: int, total: int) -> Taken | None:
    if not total:
        return None
    low, high = wilson(hits, total)
    return Taken(100 * hits / total, total, 100 * low, 100 * high)


def _percentile(figures: NDArray[np.float64], share: float) -> Taken | None:
    if not len(figures):
        return None
    value = float(np.percentile(figures, 100 * share))
    low, high = of_percentile(figures, share)
    return Taken(value, len(figures), min(low, value), max(high, value))


def _has(pages: Columns, indexable: Mask, own: Set[str]) -> dict[str, dict[str, int]]:
    """On how many indexable pages there is what: kinds of pages, types of structured data, languages, terms of titles and H1s but for those with words of the
    site's ``own`` name."""
    texts = {name: _texts(pages, name, indexable) for name in ("kind", "data_types", "language", "title", "h1")}
    return {
        "kinds": _counted([kind] for kind in texts["kind"]),
        "types": _counted(types.split(", ") for types in texts["data_types"]),
        "languages": _counted([language] for language in texts["language"]),
        "terms": _counted(set(_terms(f"{title}\n{h1}", own)) for title, h1 in zip(texts["title"], texts["h1"], strict=True)),
    }


def _texts(pages: Columns, name: str, chosen: Mask) -> list[str]:
    texts = pages.texts(name)
    return [texts[code] for code in texts.codes[chosen].tolist()]


def _terms(text: str, own: Set[str]) -> Iterator[str]:
    for words in phrases(text):
        for size in range(1, TERM_WORDS_MAX + 1):
            for at in range(len(words) - size + 1):
                if tells(words[at : at + size]) and own.isdisjoint(words[at : at + size]):
                    yield " ".join(words[at : at + size])


def _counted(each: Iterable[Iterable[str]]) -> dict[str, int]:
    counts = Counter(name for names in each for name in names if name)
    return dict(sorted(counts.items(), key=lambda item: (-item[1], item[0]))[:KEPT_MAX])
