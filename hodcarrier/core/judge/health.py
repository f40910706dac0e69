"""Health and gain: a function of four counts per page and four per site.

A check counts once per page however many places it names. Each further fault of one severity costs less than the one
before: ``loss(n) = cap × (1 − (1 − d/cap)^n)``. A critical fault costs a page everything and a site half.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.states import Effort, Severity

RANK: dict[str, int] = {name: index for index, name in enumerate(Severity)}
PAGE_COST = {Severity.HIGH: (0.25, 0.80), Severity.MEDIUM: (0.06, 0.35), Severity.LOW: (0.015, 0.12)}
SITE_COST = {Severity.HIGH: (0.10, 0.40), Severity.MEDIUM: (0.03, 0.15), Severity.LOW: (0.005, 0.04)}
EFFORT_WEIGHT: dict[str, int] = {Effort.SMALL: 1, Effort.MEDIUM: 3, Effort.LARGE: 8}

# Stands for the whole site where a row number of a page is asked for.
SITE_ROW = -1
Counts = NDArray[np.int64]
Floats = NDArray[np.float64]
Flags = NDArray[np.bool_]


def loss(n: Counts, d: float, cap: float) -> Floats:
    """The share (0 to ``cap``) that ``n`` distinct failing checks of one severity cost."""
    result: Floats = cap * (1.0 - np.power(1.0 - d / cap, n.astype(np.float64)))
    return result


def page_health(counts: Counts) -> Floats:
    """Health (0 to 100) of pages from an array of shape (pages, 4): failing checks per severity."""
    kept: Floats = np.ones(len(counts))
    for severity, (d, cap) in PAGE_COST.items():
        kept = kept * (1.0 - loss(counts[:, RANK[severity]], d, cap))
    healths: Floats = np.where(counts[:, 0] > 0, 0.0, 100.0 * kept)
    return healths


def site_factor(counts: Counts) -> Floats:
    """The factor (0 to 1) that site-level faults leave of health, from an array of shape (units, 4)."""
    factor: Floats = 0.5 ** counts[:, 0].astype(np.float64)
    for severity, (d, cap) in SITE_COST.items():
        factor = factor * (1.0 - loss(counts[:, RANK[severity]], d, cap))
    return factor


@dataclass(frozen=True)
class Faults:
    """The failing checks of some pages, and of the site, as parallel arrays: one row for each (page, check) that fails.

    ``page`` is a row number from 0 to ``pages`` − 1, or −1 for a fault of the whole site; ``check`` a check number;
    ``severity`` the place in :class:`~hodcarrier.core.states.Severity`. A large run is looked at in parts of whole pages.
    """

    pages: int
    page: Counts
    check: Counts
    severity: Counts

    def page_counts(self, mask: Flags | None = None) -> Counts:
        """Failing checks per page and severity, shape (pages, 4)."""
        chosen = self.page >= 0 if mask is None else (self.page >= 0) & mask
        flat = self.page[chosen] * 4 + self.severity[chosen]
        counts: Counts = np.bincount(flat, minlength=self.pages * 4).reshape(self.pages, 4)
        return counts

    def site_counts(self, mask: Flags | None = None) -> Counts:
        """Failing site checks per severity, shape (1, 4)."""
        chosen = self.page < 0 if mask is None else (self.page < 0) & mask
        counts: Counts = np.bincount(self.severity[chosen], minlength=4).reshape(1, 4)
        return counts


class Health:
    """Health of a site, gathered from parts of its faults: every page in one part."""

    def __init__(self, pages: int) -> None:
        self.pages = pages
        self.lost = 0.0
        self.site: Counts = np.zeros((1, 4), dtype=np.int64)

    def add(self, faults: Faults, mask: Flags | None = None) -> None:
        """Add a part, of which only the faults in ``mask`` count."""
        self.lost += float((100.0 - page_health(faults.page_counts(mask))).sum())
        self.site += faults.site_counts(mask)

    @property
    def page_sum(self) -> float:
        """Health of all pages together, before what faults of the site take."""
        return 100.0 * self.pages - self.lost

    @property
    def site_factor(self) -> float:
        """What faults of the site leave (0 to 1)."""
        return float(site_factor(self.site)[0])

    @property
    def value(self) -> float | None:
        """Health of the site (0 to 100); ``None`` when no page is scored."""
        return self.page_sum / self.pages * self.site_factor if self.pages else None


class Gains:
    """Health points returned by each of ``units`` fixes, gathered in parts.

    Exact: ``gain = health if the faults a fix clears wholly had passed − health now``. A fault that needs several fixes
    together belongs to none of them.
    """

    def __init__(self, units: int) -> None:
        self._change: Floats = np.zeros(units)
        self._site_removed: Counts = np.zeros((units, 4), dtype=np.int64)

    def add(self, counts: Counts, unit: Counts, page: Counts, severity: Counts) -> None:
        """Add faults that fixes clear: ``unit[i]`` clears one of ``severity[i]`` on ``page[i]``, a row of ``counts`` or −1.

        All faults of one fix on one page come in the same part. ``counts`` are the failing checks now, shape (pages, 4).
        """
        on_page = page >= 0
        if on_page.any():
            pages = len(counts)
            keys, inverse = np.unique(unit[on_page] * pages + page[on_page], return_inverse=True)
            removed: Counts = np.zeros((len(keys), 4), dtype=np.int64)
            np.add.at(removed, (inverse, severity[on_page]), 1)
            touched = counts[keys % pages]
            np.add.at(self._change, keys // pages, page_health(touched - removed) - page_health(touched))
        np.add.at(self._site_removed, (unit[~on_page], severity[~on_page]), 1)

    def points(self, now: Health) -> Floats:
        """The gain of every fix in health points of a site whose health is ``now``."""
        if not now.pages:
            return np.zeros(len(self._change))
        factor_after = site_factor(now.site - self._site_removed)
        gained: Floats = ((now.page_sum + self._change) * factor_after - now.page_sum * now.site_factor) / now.pages
        return gained


def gain_words(points: float) -> str:
    """A gain as it is shown: a small one is not called nothing."""
    if abs(points) < 1e-9:
        return "none"
    return f"+{points:.1f}" if points >= 0.05 else "under 0.1"


def gain_points(points: float) -> str:
    """A gain with its unit, in a sentence."""
    words = gain_words(points)
    return "no points" if words == "none" else f"{words} points"


def order_of_work(severity: str, gain: float, fixes: int, effort: str) -> tuple[int, float]:
    """Sort key for "worth doing first": severity, then gain per fix weighted by effort (smaller sorts first)."""
    return RANK[severity], -gain / max(1, fixes * EFFORT_WEIGHT[effort])
