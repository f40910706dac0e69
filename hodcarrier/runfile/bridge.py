"""The steps from the health of one run to that of another: which page gained or lost which failing check, and by which group of findings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from hodcarrier.core.catalogue import load
from hodcarrier.core.judge.health import SITE_ROW, Counts
from hodcarrier.core.judge.shares import STAYS, Steps
from hodcarrier.core.states import NEW_CHANGES, Change, EventKind
from hodcarrier.runfile.comparison import CHANGES, Comparing
from hodcarrier.runfile.fates import GroupKey
from hodcarrier.runfile.groups import NONE, Groups
from hodcarrier.runfile.prints import Ints
from hodcarrier.runfile.scores import ScoredRun

NOT_SCORED = -2  # less than SITE_ROW
_MORE = [CHANGES.index(change) for change in (*NEW_CHANGES, Change.RETURNED, Change.WAIVER_ENDED)]


@dataclass(frozen=True)
class _Failing:
    """The failing checks of a run: a key for each page and check, in order, and its severity."""

    key: Ints
    severity: Ints

    def severity_of(self, key: Ints) -> Ints:
        """The severities of keys that are there."""
        return self.severity[np.searchsorted(self.key, key)]


def steps_between(comparing: Comparing, groups: Groups, other: int) -> Steps:
    """All steps, each in the group of the findings that made it; ``other`` is for what no finding explains.

    Pages are those scored in either run. A page that is scored in one only comes or goes by what became of it, with all that fails on it
    in the base; what fails on one that comes are steps of their own.
    """
    before, after = comparing.scored
    checks = sorted(comparing.texts)
    rows = {url: row for row, url in enumerate(before.urls)}
    row_base = np.arange(len(before.urls))
    row_head = np.array([rows.setdefault(url, len(rows)) for url in after.urls], dtype=np.int64)
    pages = len(rows)
    in_base, in_head = (np.zeros(pages + 1, dtype=bool) for _ in range(2))
    for there, row in ((in_base, row_base), (in_head, row_head)):
        there[row] = there[SITE_ROW] = True
    old, new = _failing(before, row_base, checks), _failing(after, row_head, checks)
    counts: Counts = np.zeros((pages + 1, 4), dtype=np.int64)  # the last row is where SITE_ROW points
    np.add.at(counts, (_row(old.key, checks), old.severity), 1)
    in_both = np.intersect1d(old.key, new.key, assume_unique=True)
    differs = in_both[old.severity_of(in_both) != new.severity_of(in_both)]
    less, more = (np.setdiff1d(*pair, assume_unique=True) for pair in ((old.key, new.key), (new.key, old.key)))
    less = less[in_head[_row(less, checks)]]  # what fails on a page that goes leaves with it
    explained = _Explained(comparing, groups, other, (row_base, row_head), checks)
    rejudged = np.full(len(differs), groups.number(GroupKey(EventKind.JUDGING)) if len(differs) else other)
    key = np.concatenate([less, differs, more, differs])
    return Steps(
        events=len(groups.keys),
        counts=counts[:pages],
        comes=np.where(in_base[:pages], STAYS, explained.group_of_row(True)),
        goes=np.where(in_head[:pages], STAYS, explained.group_of_row(False)),
        site=counts[SITE_ROW],
        page=_row(key, checks),
        severity=np.concatenate(
            [old.severity_of(less), old.severity_of(differs), new.severity_of(more), new.severity_of(differs)]
        ),
        event=np.concatenate([explained.group_of(less, False), rejudged, explained.group_of(more, True), rejudged]),
        step=np.repeat([-1, 1], [len(less) + len(differs), len(more) + len(differs)]),
    )


def _row(key: Ints, checks: Sequence[str]) -> Ints:
    """The page of a key; :data:`~hodcarrier.core.judge.health.SITE_ROW` for the site."""
    return key // len(checks) - 1 if checks else key


def _failing(run: ScoredRun, row: Ints, checks: Sequence[str]) -> _Failing:
    """The failing checks of a run, with the page's row in ``row`` and the check's place in ``checks``."""
    page, check, severity, used = run.faults(np.arange(len(run.urls)))
    current, number = load().current, {name: n for n, name in enumerate(checks)}
    place = np.array([number.get(current(name), 0) for name, _ in used], dtype=np.int64)
    of_page = np.append(row, SITE_ROW)[page]
    key = (of_page + 1) * len(checks) + place[check]
    order = np.argsort(key, kind="stable")
    return _Failing(key[order], severity[order])


class _Explained:
    """Which group of findings explains a step: one about the same page and check, else what became of the page, else one of the same check."""

    def __init__(self, comparing: Comparing, groups: Groups, other: int, rows: tuple[Ints, Ints], checks: Sequence[str]) -> None:
        self._other, self._checks = other, checks
        pages = 1 + max((int(row.max(initial=NONE)) for row in rows), default=NONE)
        classes, chosen = groups.classes, np.flatnonzero(groups.group_of != NONE)
        found: Ints = np.full(len(chosen), NOT_SCORED, dtype=np.int64)
        self._of_row: list[Ints] = []
        sides = zip((False, True), comparing.scored, rows, (groups.fates.of_base, groups.fates.of_head), strict=True)
        for head, scored, row, fates in sides:
            own = classes.in_head[chosen] == head
            subject = groups.subject[chosen]
            row_of = np.full(max([0, *scored.ids, *fates, int(subject.max(initial=0))]) + 1, NOT_SCORED, dtype=np.int64)
            row_of[0] = SITE_ROW
            row_of[list(scored.ids)] = row
            found[own] = row_of[subject[own]]
            of_row = np.full(pages + 1, other, dtype=np.int64)  # the last one is where SITE_ROW points
            for address, group in fates.items():
                if row_of[address] >= 0:
                    of_row[row_of[address]] = group
            self._of_row.append(of_row)
        group_of, check = groups.group_of[chosen], classes.check[chosen]
        key = np.where(found == NOT_SCORED, NONE, (found + 1) * len(checks) + check)
        order = np.lexsort((group_of, key))
        self._key, first = np.unique(key[order], return_index=True)
        self._group = group_of[order][first]
        more = np.isin(classes.change[chosen], _MORE)
        self._of_check = [_most(check[more == sign], group_of[more == sign], len(checks), other) for sign in (False, True)]

    def group_of_row(self, more: bool) -> Ints:
        """The group of what became of each page, for pages of the head (``more``) or of the base."""
        return self._of_row[more][:-1]

    def group_of(self, key: Ints, more: bool) -> Ints:
        """The groups of steps: those of failing checks that are ``more``, or less."""
        if not len(key):
            return np.zeros(0, np.int64)
        of_row = self._of_row[more][_row(key, self._checks)]
        found: Ints = np.where(of_row != self._other, of_row, self._of_check[more][key % len(self._checks)])
        if len(self._key):
            at = np.minimum(np.searchsorted(self._key, key), len(self._key) - 1)
            found = np.where(self._key[at] == key, self._group[at], found)
        return found


def _most(check: Ints, group: Ints, checks: int, other: int) -> Ints:
    """For every check the group that has most of its findings; ``other`` for a check without any."""
    found = np.full(checks, other, dtype=np.int64)
    pairs, many = np.unique(np.column_stack([check, group]), axis=0, return_counts=True)
    for place in np.argsort(many, kind="stable").tolist():
        found[pairs[place, 0]] = pairs[place, 1]
    return found
