"""Puts every classed finding that differs between two runs into a group with one cause.

:mod:`hodcarrier.runfile.fates` groups pages by what became of them, which explains most; what is left is grouped by template or by check.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping

import numpy as np

from hodcarrier.core.catalogue import Catalogue, load
from hodcarrier.core.judge.events import KIND_OF_CHANGE, ON_PURPOSE
from hodcarrier.core.states import Area, Change, EventKind
from hodcarrier.runfile.comparison import CHANGES, Comparing, read_findings
from hodcarrier.runfile.fates import AREAS_OF_FIELDS, EXAMPLES_MAX, TEMPLATE_PAGES_MIN, Fates, GroupKey, pattern_of
from hodcarrier.runfile.prints import Flags, Ints, ints, joined
from hodcarrier.runfile.sights import CheckUsed

NONE = -1
IDS_AT_ONCE = 5_000
# So many pages that share all their new faults were changed by one hand.
ALIKE_PAGES_MIN = 3
# A fault on pages of more templates than this is one of the whole site.
PATTERNS_MAX = 2
_KINDS = tuple(EventKind)
_KIND_OF = np.array([_KINDS.index(KIND_OF_CHANGE[c]) if c in KIND_OF_CHANGE else NONE for c in CHANGES], np.int64)
# Told as one event, whatever the checks.
_IN_ONE = (*ON_PURPOSE, EventKind.UNVERIFIED, EventKind.ENDED)


class Groups:
    """Every classed finding that differs in a group: ``keys`` say what groups are, ``group_of`` which one each finding is in.

    The first groups are those of ``fates``; ``subject`` is the address that each finding is about, by its id in the run it is read from.
    """

    def __init__(self, comparing: Comparing, fates: Fates) -> None:
        self._comparing, self.fates = comparing, fates
        self.classes = comparing.classes
        self.keys: list[GroupKey] = list(fates.keys)
        self.group_of: Ints = np.full(len(self.classes.change), NONE, dtype=np.int64)
        self.subject: Ints = np.zeros(len(self.group_of), dtype=np.int64)
        for in_head, columns in zip((False, True), comparing.columns, strict=True):
            rows = self.classes.in_head == in_head
            self.subject[rows] = columns.subject[self.classes.finding[rows]]
        self._assign()
        self._join_alike()
        self.edited = dict(self._edited())

    def number(self, key: GroupKey) -> int:
        """The number of a group, which is made when there is none yet."""
        if key not in self.keys:
            self.keys.append(key)
        return self.keys.index(key)

    def _assign(self) -> None:
        classes = self.classes
        kind = _KIND_OF[classes.change]
        kind[self._switched()] = _KINDS.index(EventKind.JUDGING)
        kind[(kind == _KINDS.index(EventKind.WAIVED)) & ~self._waived_since()] = NONE
        on_purpose = np.isin(kind, [_KINDS.index(k) for k in ON_PURPOSE])
        explicable = (kind != NONE) & ~on_purpose
        for in_head, groups in ((False, self.fates.of_base), (True, self.fates.of_head)):
            rows = np.flatnonzero(explicable & (classes.in_head == in_head))
            self.group_of[rows] = _looked_up(groups, self.subject[rows])
        self._assign_by_place(np.flatnonzero(explicable & (self.group_of == NONE)))
        left = np.flatnonzero((kind != NONE) & (self.group_of == NONE))
        pattern, patterns = self._patterns(left[kind[left] == _KINDS.index(EventKind.WORSE)])
        check = np.where(np.isin(kind, [_KINDS.index(k) for k in _IN_ONE]), NONE, classes.check)
        parts = np.column_stack([kind, check, pattern])[left]
        alike, place = np.unique(parts, axis=0, return_inverse=True)
        numbers = [
            self.number(GroupKey(_KINDS[k], "" if c == NONE else classes.checks[c], "" if p == NONE else patterns[p]))
            for k, c, p in alike.tolist()
        ]
        self.group_of[left] = np.array(numbers, np.int64)[place.reshape(-1)] if numbers else NONE

    def _waived_since(self) -> Flags:
        covered = np.zeros(len(self._comparing.columns[1].subject), dtype=bool)
        covered[self._comparing.waived_since()] = True
        found = self.classes.in_head.copy()
        found[found] = covered[self.classes.finding[found]]
        return found

    def _switched(self) -> Flags:
        """Findings that differ because their check is off in one of the runs."""
        before, after = self._comparing.sights_base.checks, self._comparing.sights_head.checks
        classes = self.classes
        off_after, off_before = (
            np.array([_is_off(used.get(check)) for check in classes.checks], dtype=bool) for used in (after, before)
        )
        lost, come = (classes.change == CHANGES.index(change) for change in (Change.UNVERIFIED, Change.NEW_TO_VIEW))
        found: Flags = np.zeros(len(lost), dtype=bool)
        found[lost], found[come] = off_after[classes.check[lost]], off_before[classes.check[come]]
        return found

    def _assign_by_place(self, rows: Ints) -> None:
        """Findings about a target, such as broken links, belong to what became of it."""
        if not self.fates.of_url:
            return
        entries = load()
        about_targets = [n for n, check in enumerate(self.classes.checks) if _grouping(entries, check) in ("target", "element")]
        rows = rows[np.isin(self.classes.check[rows], about_targets)]
        for run, chosen in (
            (self._comparing.base, rows[~self.classes.in_head[rows]]),
            (self._comparing.head, rows[self.classes.in_head[rows]]),
        ):
            for start in range(0, len(chosen), IDS_AT_ONCE):
                some = chosen[start : start + IDS_AT_ONCE]
                found = read_findings(run, self.classes.finding[some].tolist())
                self.group_of[some] = [
                    self.fates.of_url.get(found[finding][2], NONE) for finding in self.classes.finding[some].tolist()
                ]

    def _patterns(self, rows: Ints) -> tuple[Ints, list[str]]:
        """For findings of the head that have a template for their cause: which one, where enough of its pages have the fault."""
        classes, head, entries = self.classes, self._comparing.head, load()
        pattern: Ints = np.full(len(classes.change), NONE, dtype=np.int64)
        names: dict[str, int] = {}
        for number in np.unique(classes.check[rows]).tolist():
            check = classes.checks[number]
            own = rows[classes.check[rows] == number]
            if _grouping(entries, check) != "template" or len(own) < TEMPLATE_PAGES_MIN:
                continue
            causes = head.rows("SELECT id, key FROM cause WHERE check_id = ?", check)
            of_cause = np.full(max((cause for cause, _ in causes), default=0) + 1, NONE, dtype=np.int64)
            for cause, key in causes:
                if " " in key:
                    of_cause[cause] = names.setdefault(pattern_of(key.split(" ", 1)[1]), len(names))
            ids, cause_ids = head.rows(f"SELECT {joined('id')}, {joined('cause_id')} FROM finding WHERE check_id = ?", check)[0]
            cause_of = dict(zip(ints(ids).tolist(), ints(cause_ids).tolist(), strict=True))
            found = of_cause[[cause_of.get(finding, 0) for finding in classes.finding[own].tolist()]]
            many = [name for name in np.unique(found[found != NONE]) if (found == name).sum() >= TEMPLATE_PAGES_MIN]
            for name in many if len(many) <= PATTERNS_MAX else []:
                pattern[own[found == name]] = name
        return pattern, list(names)

    def _join_alike(self) -> None:
        """Groups of one kind on exactly the same pages have one cause: a template that lost its description lost its heading as well."""
        into = np.arange(len(self.keys) + 1)
        into[-1] = NONE
        first: dict[tuple[EventKind, bytes], int] = {}
        for group, key in enumerate(self.keys):
            if key.kind not in (EventKind.WORSE, EventKind.RETURNED, EventKind.FIXED) or group < len(self.fates.keys):
                continue
            pages = np.unique(self.subject[self.group_of == group])
            if len(pages) >= ALIKE_PAGES_MIN:
                into[group] = first.setdefault((key.kind, pages.tobytes()), group)
            if into[group] != group:
                other = self.keys[int(into[group])]
                way = (other.way or key.way) if other.way == key.way or not (other.way and key.way) else ""
                kind = EventKind.TEMPLATE if key.kind == EventKind.WORSE else key.kind
                self.keys[int(into[group])] = GroupKey(kind, "", way)
            elif key.way:
                self.keys[group] = GroupKey(EventKind.TEMPLATE, key.about, key.way)
        self.group_of = into[self.group_of]

    def _edited(self) -> Iterable[tuple[int, tuple[int, list[str]]]]:
        """Facts of pages that changed without any finding that looks at them: how many pages, and some of their URLs, by group."""
        entries = load()
        changed: dict[Area, tuple[set[int], set[int]]] = defaultdict(lambda: (set(), set()))
        for in_head in (False, True):
            rows = np.flatnonzero((self.group_of != NONE) & (self.classes.in_head == in_head))
            for number in np.unique(self.classes.check[rows]).tolist():
                check = self.classes.checks[number]
                if check in entries:
                    own = self.subject[rows[self.classes.check[rows] == number]]
                    changed[entries[check].area][in_head].update(own.tolist())
        for name, pages in self.fates.edited.items():
            areas = [changed[area] for area in AREAS_OF_FIELDS[name] if area in changed]
            left = [page for page in pages if not any(page.base_id in before or page.head_id in after for before, after in areas)]
            if left:
                urls = [self._comparing.head.url(page.head_id) for page in left[:EXAMPLES_MAX]]
                yield self.number(GroupKey(EventKind.EDITED, name)), (len(left), urls)


def _grouping(entries: Catalogue, check: str) -> str:
    return entries[check].check.cause if check in entries else ""


def _is_off(used: CheckUsed | None) -> bool:
    return used is None or used.state != "on"


def _looked_up(groups: Mapping[int, int], addresses: Ints) -> Ints:
    table = np.full(max(max(groups, default=0), int(addresses.max(initial=0))) + 1, NONE, dtype=np.int64)
    table[list(groups)] = list(groups.values())
    return table[addresses]
