"""Figures from faults: what fails on which page becomes health, gains and counts, in parts of bounded size."""

from __future__ import annotations

import sqlite3
from array import array
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.judge.areas import Seen, examined_by
from hodcarrier.core.judge.health import SITE_ROW, Counts, Faults, Floats, Gains, Health, page_health
from hodcarrier.core.states import Area

BATCH = 5_000
# Rows that are worked on at once: keeps the memory of a run with any number of findings small.
PART_ROWS = 20_000


class Tape:
    """What the figures need of every finding, noted while they are found.

    A *pair* is a scored page (or :data:`SITE_ROW`) on which a check fails for a cause. Waived findings are left out of pairs.
    Pairs lie in a temporary table of ``db``, in the order of pages, so that memory does not grow with them.
    """

    def __init__(self, db: sqlite3.Connection) -> None:
        self._db = db
        self._pairs: list[tuple[int, int, int]] = []
        self.cause_check = array("H")
        self.cause_findings = array("I")
        self.cause_waived = array("I")
        db.execute("DROP TABLE IF EXISTS temp.pair")
        db.execute(
            "CREATE TEMP TABLE pair (page INTEGER, number INTEGER, cause INTEGER, PRIMARY KEY (page, number, cause)) WITHOUT ROWID"
        )

    def new_cause(self, check: int) -> int:
        """Begin a cause of a check; gives its number."""
        self.cause_check.append(check)
        self.cause_findings.append(0)
        self.cause_waived.append(0)
        return len(self.cause_check) - 1

    def note(self, check: int, cause: int, pages: Sequence[int]) -> None:
        """Note an open finding and the rows of the pages it counts for."""
        self.cause_findings[cause] += 1
        self._pairs += [(page, check, cause) for page in pages]
        if len(self._pairs) >= BATCH:
            self._flush()

    def _flush(self) -> None:
        self._db.executemany("INSERT OR IGNORE INTO temp.pair VALUES (?,?,?)", self._pairs)
        self._pairs.clear()

    def faults(self) -> Iterator[Counts]:
        """Pages and checks, a row for each two, in the order of pages; parts of shape (rows, 2) that break between pages."""
        self._flush()
        return _parts(self._db.execute("SELECT DISTINCT page, number FROM temp.pair ORDER BY page, number"), 2)

    def pairs_by_cause(self) -> Iterator[Counts]:
        """Causes, pages, checks, and 1 where no other cause has a share in that fault; parts that break between causes."""
        self._flush()
        alone = "count(*) OVER (PARTITION BY page, number) = 1"
        return _parts(self._db.execute(f"SELECT cause, page, number, {alone} FROM temp.pair ORDER BY cause"), 4)

    def close(self) -> None:
        """Give the table up."""
        self._db.execute("DROP TABLE temp.pair")


def _parts(rows: sqlite3.Cursor, columns: int) -> Iterator[Counts]:
    """Rows in arrays of about :data:`PART_ROWS`; rows that are alike in their first column come in one array."""
    rest: Counts = np.zeros((0, columns), dtype=np.int64)
    while batch := rows.fetchmany(PART_ROWS):
        rest = np.concatenate([rest, np.array(batch, dtype=np.int64)])
        end = int(np.searchsorted(rest[:, 0], rest[-1, 0]))
        if end:
            yield rest[:end]
            rest = rest[end:]
    if len(rest):
        yield rest


@dataclass(frozen=True, slots=True)
class CauseFigures:
    """What one cause comes to: the pages it is found on and the health points its fix returns."""

    cause: int
    pages: int
    gain: float


class Scores:
    """All figures of one run. ``severities`` and ``areas`` are by check number, ``seen`` and ``secure`` (over
    https) by page, numbered from 0.

    ``least`` says what must be seen of a page for an area to speak of it (:func:`~hodcarrier.core.judge.areas.least_seen`).
    """

    def __init__(
        self,
        tape: Tape,
        seen: Sequence[Seen],
        secure: Sequence[bool],
        severities: Sequence[int],
        areas: Sequence[Area],
        least: Mapping[Area, Seen],
    ) -> None:
        checks, pages = len(severities), len(seen)
        self._tape, self._severity = tape, np.array(severities, np.int64)
        self._now = Health(pages)
        self.counts: Counts = np.zeros((pages, 4), dtype=np.int64)
        self.check_pages: Counts = np.zeros(checks, dtype=np.int64)
        inside = np.array(areas)
        # One more at the end, where SITE_ROW points: the site itself is always examined.
        levels, over_https = np.array(seen, np.int8), np.array(secure, dtype=bool)
        examined = {area: np.append(examined_by(area, level, levels, over_https), True) for area, level in least.items()}
        self.area_pages = {area: int(mask[:-1].sum()) for area, mask in examined.items()}
        by_area = {area: Health(self.area_pages[area]) for area in least}
        check_gains = Gains(checks)
        for part in tape.faults():
            first = max(0, int(part[0, 0]))
            page, check = np.where(part[:, 0] < 0, SITE_ROW, part[:, 0] - first), part[:, 1]
            faults = Faults(int(page[-1]) + 1, page, check, self._severity[check])
            counts = faults.page_counts()
            self.counts[first : first + faults.pages] = counts
            self.check_pages += np.bincount(check[page >= 0], minlength=checks)
            self._now.add(faults)
            for area, health in by_area.items():
                health.add(faults, (inside[check] == area) & examined[area][part[:, 0]])
            check_gains.add(counts, check, page, faults.severity)
        self.page_healths: Floats = page_health(self.counts)
        self.health, self.site_factor = self._now.value, self._now.site_factor
        self.areas = {area: health.value for area, health in by_area.items()}
        self.check_gains = check_gains.points(self._now)
        self.check_fixes = self._fixes(checks)

    def _fixes(self, checks: int) -> Counts:
        """Causes with open findings, by check."""
        if not self._tape.cause_check:
            return np.zeros(checks, dtype=np.int64)
        found: NDArray[np.bool_] = np.frombuffer(self._tape.cause_findings, np.uint32) > 0
        return np.bincount(np.frombuffer(self._tape.cause_check, np.uint16)[found], minlength=checks)

    def causes(self) -> Iterator[CauseFigures]:
        """Figures of the causes that are found on a page or on the site, in the order of their numbers.

        A fault that several causes share is cleared by none of them alone.
        """
        for part in self._tape.pairs_by_cause():
            causes, unit = np.unique(part[:, 0], return_inverse=True)
            page, alone = part[:, 1], part[:, 3] == 1
            gains = Gains(len(causes))
            gains.add(self.counts, unit[alone], page[alone], self._severity[part[alone, 2]])
            on_pages = np.bincount(unit[page >= 0], minlength=len(causes))
            yield from map(CauseFigures, causes.tolist(), on_pages.tolist(), gains.points(self._now).tolist())

    def is_severe(self, row: int) -> bool:
        """Whether a page has a critical or high finding."""
        return bool(self.counts[row, 0] + self.counts[row, 1] > 0)

    def free_of_severe(self) -> int:
        """How many pages have none."""
        return int(((self.counts[:, 0] + self.counts[:, 1]) == 0).sum())


def row_numbers(scored: Iterable[int]) -> dict[int, int]:
    """The row of every scored page, by its address id."""
    return {i: row for row, i in enumerate(scored)}
