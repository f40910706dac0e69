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

Counts = NDArray[np.int64]
Floats = NDArray[np.float64]


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
    """The failing checks of a run as parallel arrays: one row for each (page, check) that fails.

    ``page`` is a row number from 0 to ``pages`` − 1, or −1 for a fault of the whole site; ``check`` a check number;
    ``severity`` the place in :class:`~hodcarrier.core.states.Severity`.
    """

    pages: int
    page: Counts
    check: Counts
    severity: Counts

    def page_counts(self, mask: NDArray[np.bool_] | None = None) -> Counts:
        """Failing checks per page and severity, shape (pages, 4)."""
        chosen = self.page >= 0 if mask is None else (self.page >= 0) & mask
        flat = self.page[chosen] * 4 + self.severity[chosen]
        counts: Counts = np.bincount(flat, minlength=self.pages * 4).reshape(self.pages, 4)
        return counts

    def site_counts(self, mask: NDArray[np.bool_] | None = None) -> Counts:
        """Failing site checks per severity, shape (1, 4)."""
        chosen = self.page < 0 if mask is None else (self.page < 0) & mask
        counts: Counts = np.bincount(self.severity[chosen], minlength=4).reshape(1, 4)
        return counts


def site_health(faults: Faults, mask: NDArray[np.bool_] | None = None) -> float | None:
    """Health of the site (0 to 100), with only the faults in ``mask``; ``None`` when no page is scored."""
    if faults.pages == 0:
        return None
    return float(page_health(faults.page_counts(mask)).mean() * site_factor(faults.site_counts(mask))[0])


# Pairs of a fix and a page that are worked on at once: keeps the memory of a large run small.
CHUNK_PAIRS = 200_000


def gains(faults: Faults, units: int, unit: Counts, row: Counts) -> Floats:
    """Health points returned by each of ``units`` fixes.

    ``unit[i]`` is the fix that clears fault row ``row[i]`` wholly. A fault row that needs several fixes together is
    listed under none of them. Exact: ``gain = health if those rows passed − health now``.
    """
    result: Floats = np.zeros(units)
    if faults.pages == 0 or len(unit) == 0:
        return result
    counts = faults.page_counts()
    before = page_health(counts)
    now_sum, site_now = before.sum(), faults.site_counts()
    factor_now = site_factor(site_now)[0]
    order = np.argsort(unit, kind="stable")
    unit, row = unit[order], row[order]
    page, severity = faults.page[row], faults.severity[row]
    begins = np.flatnonzero(np.diff(unit, prepend=-1))  # where the pairs of each fix begin
    start = 0
    while start < len(unit):
        at = int(np.searchsorted(begins, start + CHUNK_PAIRS))
        end = int(begins[at]) if at < len(begins) else len(unit)
        here = slice(start, end)
        numbers, local = np.unique(unit[here], return_inverse=True)
        result[numbers] = _gains_of(
            len(numbers), local, page[here], severity[here], faults.pages, counts, before, now_sum, site_now, factor_now
        )
        start = end
    return result


def _gains_of(
    units: int,
    unit: Counts,
    page: Counts,
    severity: Counts,
    pages: int,
    counts: Counts,
    before: Floats,
    now_sum: float,
    site_now: Counts,
    factor_now: float,
) -> Floats:
    change: Floats = np.zeros(units)
    on_page = page >= 0
    if on_page.any():
        keys, inverse = np.unique(unit[on_page] * pages + page[on_page], return_inverse=True)
        removed: Counts = np.zeros((len(keys), 4), dtype=np.int64)
        np.add.at(removed, (inverse, severity[on_page]), 1)
        touched = keys % pages
        after = page_health(counts[touched] - removed)
        np.add.at(change, keys // pages, after - before[touched])
    site_removed: Counts = np.zeros((units, 4), dtype=np.int64)
    np.add.at(site_removed, (unit[~on_page], severity[~on_page]), 1)
    factor_after = site_factor(site_now - site_removed)
    gained: Floats = ((now_sum + change) * factor_after - now_sum * factor_now) / pages
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
