"""Comparing two run files: classes of findings, settings, robots.txt; pages and scores by modules of their own.

What comes of it is kept by :mod:`hodcarrier.runfile.compared`.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.catalogue import load
from hodcarrier.core.judge.compare import Balance, Sight, classify
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.judge.robots_lines import RobotsLine, robots_lines
from hodcarrier.core.plan import differences
from hodcarrier.core.states import Area, Change, Severity
from hodcarrier.core.summary import CheckChange, SettingChange, SharedScore
from hodcarrier.runfile import schema
from hodcarrier.runfile.page_changes import PageChanges, compare_pages
from hodcarrier.runfile.prints import Columns, Flags, Ints, Prints, as_bytes
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.results import CheckText, texts
from hodcarrier.runfile.scores import ScoredRun, shared_scores
from hodcarrier.runfile.sights import Sights, has_changed

CHANGES = tuple(Change)
_PLACE = {change: place for place, change in enumerate(CHANGES)}
# Of a finding whose class is not known yet; of one of the base that the head has as well and that is told there.
UNCLASSED, IN_HEAD = -1, -2
IDS_AT_ONCE = 5_000


class Said(Protocol):
    """What a comparison says of a check."""

    @property
    def severity(self) -> Severity:
        """How much it matters."""
        ...

    @property
    def summary(self) -> str:
        """What it finds."""
        ...


@dataclass(frozen=True, slots=True)
class Classed:
    """A fingerprint with its class, and what is said of its check."""

    change: Change
    fingerprint: bytes
    check: str
    severity: Severity
    summary: str
    subject: str
    place: str


@dataclass(frozen=True)
class Classes:
    """Every finding of either run with its class, as parallel arrays in the order of lists: by class, check, URL and place.

    ``change`` is the place of the class in :class:`~hodcarrier.core.states.Change`, ``check`` one in ``checks``, ``finding`` an id in the
    head (``in_head``) or else in the base.
    """

    checks: Sequence[str]
    change: Ints
    check: Ints
    in_head: Flags
    finding: Ints

    def __iter__(self) -> Iterator[tuple[Change, str, bool, int]]:
        """Class, check, side and id of each."""
        for change, check, in_head, finding in zip(self.change, self.check, self.in_head, self.finding, strict=True):
            yield CHANGES[change], self.checks[check], bool(in_head), int(finding)

    def counts(self) -> dict[Change, int]:
        """How many findings there are of each class that has some."""
        found = np.bincount(self.change, minlength=len(CHANGES)).tolist()
        return {change: count for change, count in zip(CHANGES, found, strict=True) if count}

    def by_check(self) -> dict[str, dict[Change, int]]:
        """The same for every check."""
        flat = np.bincount(self.check * len(CHANGES) + self.change, minlength=len(self.checks) * len(CHANGES))
        table = flat.reshape(len(self.checks), len(CHANGES)).tolist()
        return {
            check: {change: count for change, count in zip(CHANGES, row, strict=True) if count}
            for check, row in zip(self.checks, table, strict=True)
        }


class Comparing:
    """Two runs of one site, compared. The caller has made sure that they are of one site."""

    def __init__(self, base: RunFile, head: RunFile) -> None:
        self.base, self.head = base, head
        self.sights_base = Sights(base.db, base.meta("end", "complete") == "complete")
        self.sights_head = Sights(head.db, head.meta("end", "complete") == "complete", base.db)

    @cached_property
    def texts(self) -> dict[str, CheckText]:
        """What is said of every check, by the name it has now: the head's words, or the base's of one that the head does not have."""
        current = load().current
        old, new = texts(self.base), texts(self.head)
        return {**{current(check): text for check, text in old.items()}, **{current(check): text for check, text in new.items()}}

    @cached_property
    def _prints(self) -> tuple[Prints, Prints]:
        return Prints.read(self.base), Prints.read(self.head)

    @cached_property
    def columns(self) -> tuple[Columns, Columns]:
        """The findings of the base and of the head by id."""
        return Columns.read(self.base), Columns.read(self.head)

    @cached_property
    def scored(self) -> tuple[ScoredRun, ScoredRun]:
        """The scored pages of the base and of the head."""
        return ScoredRun.read(self.base, self.columns[0]), ScoredRun.read(self.head, self.columns[1])

    @cached_property
    def _matched(self) -> tuple[Flags, Ints]:
        """Which of the head's findings the base has as well, and at which place there."""
        old, new = self._prints
        return new.found_in(old)

    @cached_property
    def _changed(self) -> dict[str, bool]:
        """Whether the rule of each check differs between the runs."""
        both = {*self.sights_base.checks, *self.sights_head.checks}
        return {check: has_changed(check, self.sights_base, self.sights_head) for check in both}

    @cached_property
    def classes(self) -> Classes:
        """Every finding of either run, classed."""
        old, new = self._prints
        there, where = self._matched
        # What both have is classed by its waivers alone; everything else is looked at below.
        alike = np.array(
            [[CHANGES.index(classify(Sight(True, b), Sight(True, h), False)) for h in (False, True)] for b in (False, True)]
        )
        of_head, of_base = np.full(new.size, UNCLASSED, np.int8), np.full(old.size, IN_HEAD, np.int8)
        of_head[new.ids[there]] = alike[old.waived[where[there]].astype(int), new.waived[there].astype(int)]
        gone = np.ones(len(old.ids), dtype=bool)
        gone[where[there]] = False
        of_base[old.ids[gone]] = UNCLASSED
        checks = sorted(self.texts)
        parts = [self._class_side(self.base, False, of_base, checks), self._class_side(self.head, True, of_head, checks)]
        change, check, in_head, finding, rank = (np.concatenate(column) for column in zip(*parts, strict=True))
        order = np.lexsort((finding, rank, in_head, check, change))
        return Classes(checks, change[order], check[order], in_head[order], finding[order])

    def _class_side(
        self, run: RunFile, in_head: bool, known: NDArray[np.int8], checks: Sequence[str]
    ) -> tuple[Ints, Ints, Flags, Ints, Ints]:
        """The findings of one run: class, check, side, id and the place of the URL in its order, as arrays. ``known`` are the classes by id that
        are there already."""
        columns = self.columns[in_head]
        current, number = load().current, {check: n for n, check in enumerate(checks)}
        here = np.array([number[current(check)] for check in columns.checks], np.int64)
        check_of = here[columns.check] if len(here) else columns.check
        classes = self._look_at(run, in_head, known, check_of, checks)
        finding = np.flatnonzero(classes >= 0)
        return (
            classes[finding].astype(np.int64),
            check_of[finding],
            np.full(len(finding), in_head),
            finding,
            _ranks(run)[columns.subject[finding]],
        )

    def _look_at(
        self, run: RunFile, in_head: bool, known: NDArray[np.int8], check_of: Ints, checks: Sequence[str]
    ) -> NDArray[np.int8]:
        """Class what one run alone has found, by what the other one says of the place."""
        other = self.sights_base if in_head else self.sights_head
        passed = self._passed_before() if in_head else frozenset()
        classes, wanted = known.copy(), np.flatnonzero(known == UNCLASSED)
        # Ids that no finding has are unclassed as well, and stay so.
        for start in range(0, len(wanted), IDS_AT_ONCE):
            for finding, (fingerprint, subject, _, waived) in read_findings(
                run, wanted[start : start + IDS_AT_ONCE].tolist()
            ).items():
                check = checks[check_of[finding]]
                own, seen = Sight(True, waived), other.of_missing(fingerprint, check, subject)
                pair = (seen, own) if in_head else (own, seen)
                classes[finding] = _PLACE[classify(*pair, fingerprint in passed, self._changed[check])]
        return classes

    def _passed_before(self) -> frozenset[bytes]:
        """Those of the head's fingerprints that were found before the base and passed in it."""
        _, new = self._prints
        passed = Prints.read(self.base, "earlier", "state = 'passed'")
        there, where = new.found_in(passed)
        return frozenset(as_bytes(passed.prints[where[there]]))

    @cached_property
    def open(self) -> tuple[Flags, Flags]:
        """Of every classed finding whether the base has it and whether the head has it, with no waiver in force there."""
        old, new = self._prints
        there, where = self._matched
        open_old, open_new, open_before = (np.zeros(prints.size + 1, dtype=bool) for prints in (old, new, new))
        open_old[old.ids], open_new[new.ids] = ~old.waived, ~new.waived
        open_before[new.ids[there]] = ~old.waived[where[there]]
        here, finding = self.classes.in_head, self.classes.finding
        then, now = np.zeros(len(here), dtype=bool), np.zeros(len(here), dtype=bool)
        then[here], then[~here] = open_before[finding[here]], open_old[finding[~here]]
        now[here] = open_new[finding[here]]
        return then, now

    def balance(self) -> Balance:
        """The counts, and what each run has."""
        before, after = (
            int(run.rows("SELECT coalesce(sum(findings), 0) FROM check_state")[0][0]) for run in (self.base, self.head)
        )
        waived_in_head = len(self.waived_since())
        changed = self.classes.change == _PLACE[Change.CHECK_CHANGED]
        return Balance(before, after, waived_in_head, int((changed & self.classes.in_head).sum()), self.classes.counts())

    def waived_since(self) -> Ints:
        """The ids in the head of findings that a waiver covers there, and that were open in the base."""
        old, new = self._prints
        there, where = self._matched
        return new.ids[there][~old.waived[where[there]] & new.waived[there]]

    def by_check(self) -> list[CheckChange]:
        """Counts of the classes for every check that changed, the weightiest first."""
        then, now = (np.bincount(self.classes.check[there], minlength=len(self.classes.checks)).tolist() for there in self.open)
        rows = [
            CheckChange(check, self.texts[check].severity, self.texts[check].summary, counts, before, after)
            for (check, counts), before, after in zip(self.classes.by_check().items(), then, now, strict=True)
            if set(counts) - {Change.STILL_THERE, Change.WAIVED}
        ]
        return sorted(rows, key=lambda r: (RANK[r.severity], -sum(r.counts.values()), r.check))

    @cached_property
    def scores(self) -> tuple[SharedScore, dict[Area, SharedScore]]:
        """Health and the score of every area, over the pages that both runs examined."""
        return shared_scores(*self.scored)

    def settings(self) -> list[SettingChange]:
        """Plan settings, catalogue version and revisions of checks that differ: they explain jumps."""
        return _settings(self.base, self.head, self.sights_base, self.sights_head)

    def pages(self) -> Iterator[PageChanges]:
        """Pages that came, went or changed, by URL."""
        return compare_pages(self.base, self.head)

    def robots_lines(self) -> list[RobotsLine]:
        """The lines of robots.txt that differ, with some around them, and the pages either run knows that each blocks or frees."""
        old, new = self.base.robots_file().robots, self.head.robots_file().robots
        urls = {url for run in (self.base, self.head) for (url,) in run.each("SELECT url FROM inventory WHERE role = 0")}
        return robots_lines(old, new, self.head.plan.robots_token, urls) if old.text != new.text else []

    def sitemap_entries(self) -> tuple[list[str], list[str]]:
        """URLs that came into a sitemap and that left them, in order; none when a run read no sitemap, which says nothing about entries."""
        before, after = (_listed(run) for run in (self.base, self.head))
        return (sorted(after - before), sorted(before - after)) if before and after else ([], [])

    def newly_blocked(self) -> list[str]:
        """Pages that were indexable once, could be fetched in the base, and are blocked in the head: those that the check for lost
        pages finds, so that both give one figure."""
        blocked = self.head.rows(
            "SELECT url FROM inventory WHERE role = 0 AND state = ? AND +scored ORDER BY url", schema.DISALLOWED
        )
        return [url for (url,) in blocked if self.sights_base.state_of(url) == schema.DONE]


def _listed(run: RunFile) -> set[str]:
    return {url for (url,) in run.each("SELECT DISTINCT a.url FROM listed l JOIN address a ON a.id = l.address_id")}


def _ranks(run: RunFile) -> Ints:
    """The place of every address in the order of URLs, by id; the site itself has place 0."""
    ids = np.array([number for (number,) in run.each("SELECT id FROM address ORDER BY url")], np.int64)
    ranks = np.zeros(int(ids.max(initial=0)) + 1, np.int64)
    ranks[ids] = np.arange(1, len(ids) + 1)
    return ranks


def read_findings(run: RunFile, ids: Sequence[int]) -> dict[int, tuple[bytes, str, str, bool]]:
    """Fingerprint, subject, place and whether it is waived, of those of some findings that there are."""
    sql = f"SELECT id, fingerprint, subject, place, waived FROM finding WHERE id IN ({','.join('?' * len(ids))})"
    return {finding: (fp, subject, place, bool(waived)) for finding, fp, subject, place, waived in run.each(sql, *ids)}


_Found = dict[int, tuple[bytes, str, str, bool]]


def describe(
    rows: Sequence[tuple[Change, str, bool, int]], base: RunFile, head: RunFile, texts_of: Mapping[str, Said]
) -> list[Classed]:
    """Classed findings in full, in the order of ``rows``: class, check, whether the head has it, and the id there (else in the base)."""
    found = []
    of_head, of_base = ({}, {})  # type: tuple[_Found, _Found]
    for start in range(0, len(rows), IDS_AT_ONCE):
        some = rows[start : start + IDS_AT_ONCE]
        of_head.update(read_findings(head, [finding for _, _, in_head, finding in some if in_head]))
        of_base.update(read_findings(base, [finding for _, _, in_head, finding in some if not in_head]))
    for change, check, in_head, finding in rows:
        fingerprint, subject, place, _ = (of_head if in_head else of_base)[finding]
        text = texts_of[check]
        found.append(Classed(change, fingerprint, check, text.severity, text.summary, subject, place))
    return found


@dataclass
class Comparison:
    """All that differs between a base run and a head run, in memory."""

    items: list[Classed]
    balance: Balance
    checks: list[CheckChange]
    settings: list[SettingChange]
    health: SharedScore
    areas: dict[Area, SharedScore]
    page_changes: list[tuple[str, str, str, str]]
    appeared: list[str]
    gone: list[str]
    robots_lines: list[RobotsLine]
    newly_blocked: list[str]

    def by_check(self) -> list[CheckChange]:
        """Counts of the classes for every check that changed, the weightiest first."""
        return self.checks


def compare(base: RunFile, head: RunFile) -> Comparison:
    """Compare two runs of one site in memory: for small ones. :func:`~hodcarrier.runfile.compared.write_comparison` is for any."""
    comparing = Comparing(base, head)
    pages = list(comparing.pages())
    items = describe(list(comparing.classes), base, head, comparing.texts)
    health, areas = comparing.scores
    return Comparison(
        items,
        comparing.balance(),
        comparing.by_check(),
        comparing.settings(),
        health,
        areas,
        [(page.url, *fact) for page in pages for fact in page.facts],
        [page.url for page in pages if page.appeared],
        [page.url for page in pages if page.gone],
        comparing.robots_lines(),
        comparing.newly_blocked(),
    )


def _settings(base: RunFile, head: RunFile, sights_base: Sights, sights_head: Sights) -> list[SettingChange]:
    """Plan settings, catalogue version and revisions of checks that differ: they explain jumps."""
    found = [SettingChange(*row) for row in differences(base.plan, head.plan)]
    if base.meta("catalogue") != head.meta("catalogue"):
        found.append(SettingChange("catalogue", str(base.meta("catalogue")), str(head.meta("catalogue"))))
    for check, used in sights_head.checks.items():
        before = sights_base.checks.get(check)
        if before is None:
            found.append(SettingChange(check, "not yet in the catalogue", f"revision {used.revision}"))
        elif before.revision != used.revision:
            found.append(SettingChange(check, f"revision {before.revision}", f"revision {used.revision}"))
    for check in sights_base.checks.keys() - sights_head.checks.keys():
        found.append(SettingChange(check, f"revision {sights_base.checks[check].revision}", "retired"))
    return found
