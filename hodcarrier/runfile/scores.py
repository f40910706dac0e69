"""Scores of two runs over the pages that both have examined."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.judge.areas import Levels, Seen, comparable, examined_by, least_seen, seen_of
from hodcarrier.core.judge.health import RANK, SITE_ROW, Counts, Faults, Health
from hodcarrier.core.states import Area
from hodcarrier.core.summary import SharedScore
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import unpack_ids
from hodcarrier.runfile.prints import Columns
from hodcarrier.runfile.reader import RunFile

Mask = NDArray[np.bool_]
NOT_SHARED = -2  # less than SITE_ROW
Faulty = tuple[Counts, Counts, Counts, Sequence[tuple[str, str]]]


@dataclass(frozen=True)
class ScoredRun:
    """What scores need of a run: its scored pages by URL, how much it saw of each, and what each area asks for."""

    run: RunFile
    columns: Columns
    ids: Sequence[int]
    urls: Sequence[str]
    seen: Levels
    secure: Mask
    least: Mapping[Area, Seen]

    @classmethod
    def read(cls, run: RunFile, columns: Columns | None = None) -> ScoredRun:
        """Read a run; ``columns`` are its findings where they have been read already."""
        ids, urls, seen = [], [], []
        for number, url, state, status, failure, has_page, why_not in run.each(
            "SELECT id, url, state, status, failure, words IS NOT NULL, why_not FROM inventory WHERE role = 0 AND +scored ORDER BY url"
        ):
            ids.append(number)
            urls.append(url)
            document = bool(has_page) and status == 200 and not failure
            seen.append(seen_of(state == schema.DISALLOWED, status, document, why_not == ""))
        checks = run.rows("SELECT area, subject, needs FROM check_state WHERE state = 'on'")
        secure = np.array([url.startswith("https:") for url in urls], dtype=bool)
        least = least_seen((Area(area), subject, needs) for area, subject, needs in checks)
        return cls(run, columns or Columns.read(run), ids, urls, np.array(seen, np.int8), secure, least)

    def examined(self, area: Area) -> Mask:
        """Which of the scored pages an area speaks of."""
        least = self.least.get(area)
        return np.zeros(len(self.urls), dtype=bool) if least is None else examined_by(area, least, self.seen, self.secure)

    def faults(self, rows: Counts) -> Faulty:
        """Every failing check on the scored pages at ``rows``, numbered as they come there, and on the site: page, check and severity
        as arrays, in this order, and the id and area of every check."""
        checks = self.run.rows("SELECT id, area, severity FROM check_state WHERE state = 'on'")
        row_of = np.full(max(self.ids, default=0) + 1, NOT_SHARED, dtype=np.int64)
        row_of[np.array(self.ids, dtype=np.int64)[rows]] = np.arange(len(rows))
        pages, numbers = [np.zeros(0, np.int64)], [np.zeros(0, np.int64)]
        for number, (check, _, _) in enumerate(checks):
            pages.append(np.unique(self._pages_failing(check, row_of)))
            numbers.append(np.full(len(pages[-1]), number))
        page, chosen = np.concatenate(pages), np.concatenate(numbers)
        order = np.lexsort((chosen, page))
        severity = np.array([RANK[severity] for _, _, severity in checks], dtype=np.int64)
        return page[order], chosen[order], severity[chosen[order]], [(check, area) for check, area, _ in checks]

    def _pages_failing(self, check: str, row_of: Counts) -> Counts:
        """The shared pages that fail a check, and :data:`SITE_ROW` when the site does. A fault of a file counts for the pages that use it."""
        if check not in self.columns.checks:
            return np.zeros(0, np.int64)
        chosen = (self.columns.check == self.columns.checks.index(check)) & ~self.columns.waived
        chosen[:1] = False  # ids begin at 1
        found = np.unique(self.columns.subject[chosen])
        site = np.array([SITE_ROW] * bool(len(found) and found[0] == 0), np.int64)
        found = found[found > 0]
        if self.run.rows("SELECT 1 FROM check_state WHERE id = ? AND subject = 'file'", check):
            found = np.array([user for subject in found.tolist() for user in self._users(subject)], np.int64)
        rows = row_of[found[found < len(row_of)]]
        return np.append(site, rows[rows >= 0])

    def _users(self, file: int) -> list[int]:
        blob = self.run.rows("SELECT sources FROM inlink WHERE target_id = ?", file)
        return unpack_ids(blob[0][0]) if blob else []


def shared_scores(before: ScoredRun, after: ScoredRun) -> tuple[SharedScore, dict[Area, SharedScore]]:
    """Health and the score of every area, compared over the pages that both runs examined."""
    place = {url: row for row, url in enumerate(after.urls)}
    rows_base = np.array([row for row, url in enumerate(before.urls) if url in place], dtype=np.int64)
    rows_head = np.array([place[before.urls[row]] for row in rows_base], dtype=np.int64)
    old, new = before.faults(rows_base), after.faults(rows_head)
    both = np.ones(len(rows_base), dtype=bool)
    health = _shared(len(before.urls), len(after.urls), both, old, new, None)
    areas = {}
    for area in Area:
        if area not in before.least and area not in after.least:
            continue
        seen_base, seen_head = before.examined(area), after.examined(area)
        both = seen_base[rows_base] & seen_head[rows_head]
        areas[area] = _shared(int(seen_base.sum()), int(seen_head.sum()), both, old, new, area)
    return health, areas


def _shared(pages_base: int, pages_head: int, both: Mask, old: Faulty, new: Faulty, area: Area | None) -> SharedScore:
    pages, change = int(both.sum()), None
    base, head = _score(old, both, area), _score(new, both, area)
    if base is not None and head is not None and comparable(pages_base, pages_head, pages):
        change = head - base
    return SharedScore(pages_base, pages_head, pages, change)


def _score(found: Faulty, both: Mask, area: Area | None) -> float | None:
    """The score of an area, or health, with the faults of some of the shared pages and of the site alone."""
    page, check, severity, used = found
    row_of = np.append(np.where(both, np.cumsum(both) - 1, NOT_SHARED), SITE_ROW)  # the last one is where SITE_ROW points
    rows = row_of[page]
    chosen = rows >= SITE_ROW
    if area is not None:
        chosen &= np.array([a == area for _, a in used], dtype=bool)[check]
    health = Health(int(both.sum()))
    health.add(Faults(health.pages, rows[chosen], check[chosen], severity[chosen]))
    return health.value
