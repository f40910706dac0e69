"""Figures from faults: what fails on which page becomes health, gains and counts, in arrays of a few bytes for each finding."""

from __future__ import annotations

from array import array
from collections.abc import Iterable, Sequence

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.judge.health import Counts, Faults, Floats, gains, page_health, site_factor, site_health

SITE_ROW = -1
Whole = NDArray[np.int64]


class Tape:
    """What the figures need of every finding, noted while they are found.

    A *pair* is a scored page (or :data:`SITE_ROW`) on which a check fails for a cause. Waived findings are left out of pairs.
    """

    def __init__(self) -> None:
        self._page, self._check, self._cause = array("i"), array("H"), array("I")
        self.cause_check = array("H")
        self.cause_findings = array("I")

    def new_cause(self, check: int) -> int:
        """Begin a cause of a check; gives its number."""
        self.cause_check.append(check)
        self.cause_findings.append(0)
        return len(self.cause_check) - 1

    def note(self, check: int, cause: int, pages: Sequence[int]) -> None:
        """Note an open finding and the rows of the pages it counts for."""
        self.cause_findings[cause] += 1
        self._page.extend(pages)
        for _ in pages:
            self._check.append(check)
            self._cause.append(cause)

    def pairs(self) -> tuple[Whole, Whole, Whole]:
        """Pages, checks and causes of all pairs."""
        page = np.frombuffer(self._page, np.int32).astype(np.int64) if self._page else np.zeros(0, np.int64)
        check = np.frombuffer(self._check, np.uint16).astype(np.int64) if self._check else np.zeros(0, np.int64)
        cause = np.frombuffer(self._cause, np.uint32).astype(np.int64) if self._cause else np.zeros(0, np.int64)
        return page, check, cause


class Scores:
    """All figures of one run. ``severities`` and ``areas`` are by check number; pages are numbered from 0."""

    def __init__(self, tape: Tape, pages: int, severities: Sequence[int], areas: Sequence[str]) -> None:
        page, check, cause = tape.pairs()
        checks, causes = len(severities), len(tape.cause_check)
        rows, row_of_pair = np.unique((page + 1) * max(1, checks) + check, return_inverse=True)
        row_check = rows % max(1, checks)
        severity = np.array(severities, np.int64)
        self.faults = Faults(pages, rows // max(1, checks) - 1, row_check, severity[row_check] if len(rows) else row_check)
        self.counts: Counts = self.faults.page_counts()
        self.page_healths: Floats = page_health(self.counts)
        self.health = site_health(self.faults)
        self.site_factor = float(site_factor(self.faults.site_counts())[0])
        inside = np.array(areas)
        self.areas = {area: site_health(self.faults, self._mask(inside == area)) for area in dict.fromkeys(areas)}
        self.check_pages = np.bincount(row_check[self.faults.page >= 0], minlength=checks)
        self.check_gains = gains(self.faults, checks, row_check, np.arange(len(rows)))
        of_check = np.frombuffer(tape.cause_check, np.uint16) if causes else np.zeros(0, np.uint16)
        found = np.frombuffer(tape.cause_findings, np.uint32) if causes else np.zeros(0, np.uint32)
        self.check_fixes = np.bincount(of_check[found > 0], minlength=checks)
        self.cause_pages = self._distinct_pages(page, cause, causes)
        self.cause_gains = self._cause_gains(row_of_pair, cause, causes)

    def _mask(self, chosen: NDArray[np.bool_]) -> NDArray[np.bool_]:
        return chosen[self.faults.check] if len(self.faults.check) else np.zeros(0, dtype=bool)

    def _distinct_pages(self, page: Whole, cause: Whole, causes: int) -> Whole:
        keys = np.unique((cause * (self.faults.pages + 1) + page)[page >= 0])
        return np.bincount(keys // (self.faults.pages + 1), minlength=causes)

    def _cause_gains(self, row_of_pair: Whole, cause: Whole, causes: int) -> Floats:
        """A fault that several causes share is cleared by none of them alone."""
        if causes == 0 or len(cause) == 0:
            return np.zeros(causes)
        keys = np.unique(row_of_pair * causes + cause)
        rows, units = keys // causes, keys % causes
        alone = np.bincount(rows, minlength=len(self.faults.check))[rows] == 1
        return gains(self.faults, causes, units[alone], rows[alone])

    def is_severe(self, row: int) -> bool:
        """Whether a page has a critical or high finding."""
        return bool(self.counts[row, 0] + self.counts[row, 1] > 0)

    def free_of_severe(self) -> int:
        """How many pages have none."""
        return int(((self.counts[:, 0] + self.counts[:, 1]) == 0).sum())


def row_numbers(scored: Iterable[int]) -> dict[int, int]:
    """The row of every scored page, by its address id."""
    return {i: row for row, i in enumerate(scored)}
