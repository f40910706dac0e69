"""A comparison of two runs, kept in a small file beside them and read like a list. It can be made again at any time.

It names findings by their ids in the two run files and holds no text of them; page changes are in it in full. docs/run-file.md
describes it.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from hodcarrier.core.catalogue import load
from hodcarrier.core.judge.compare import Balance
from hodcarrier.core.states import Area, Change, Severity
from hodcarrier.core.stored import Format
from hodcarrier.core.summary import CheckChange, Event, SettingChange, SharedScore
from hodcarrier.runfile.comparison import CHANGES, Classed, Comparing, describe
from hodcarrier.runfile.events import what_happened
from hodcarrier.runfile.fates import Fates, Gathering
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.results import in_parts

APPLICATION_ID = 0x486F6463
VERSION = 2
TABLES = """
CREATE TABLE meta (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID;
CREATE TABLE classed (
  id INTEGER PRIMARY KEY, change INTEGER NOT NULL, check_id INTEGER NOT NULL, in_head INTEGER NOT NULL, finding INTEGER NOT NULL,
  event INTEGER
);
CREATE TABLE page_change (id INTEGER PRIMARY KEY, url TEXT NOT NULL, field TEXT NOT NULL, base TEXT NOT NULL, head TEXT NOT NULL);
CREATE TABLE page_listed (id INTEGER PRIMARY KEY, list TEXT NOT NULL, url TEXT NOT NULL);
"""
INDEXES = """
CREATE INDEX classed_change ON classed(change);
CREATE INDEX classed_check ON classed(check_id, change);
CREATE INDEX classed_event ON classed(event, change) WHERE event IS NOT NULL;
CREATE INDEX classed_finding ON classed(in_head, finding) WHERE event IS NOT NULL;
CREATE INDEX page_listed_list ON page_listed(list);
"""
_CLASSED = "change, check_id, in_head, finding"
APPEARED, GONE, BLOCKED = "appeared", "gone", "blocked"


@dataclass(frozen=True)
class CheckTold:
    """What a comparison says of a check."""

    check: str
    severity: Severity
    summary: str


@dataclass(frozen=True)
class Figures:
    """All of a comparison but its lists. ``checks`` are those that any finding is of, in the order of their numbers."""

    counts: dict[Change, int]
    base_findings: int
    head_findings: int
    waived_now: int
    changed_in_head: int
    checks: list[CheckTold]
    by_check: list[CheckChange]
    settings: list[SettingChange]
    health: SharedScore
    areas: dict[Area, SharedScore]
    robots_diff: list[str]
    page_changes: int
    pages_listed: dict[str, int]
    sentence: str
    events: list[Event]

    @property
    def balance(self) -> Balance:
        """The counts, and whether they reconcile."""
        return Balance(self.base_findings, self.head_findings, self.waived_now, self.changed_in_head, self.counts)


FIGURES = Format(Figures, "comparison")


def write_comparison(base: RunFile, head: RunFile, path: Path) -> None:
    """Compare two runs of one site into a new file. Memory: some 200 bytes a finding that only one of them has."""
    comparing = Comparing(base, head)
    classes, balance = comparing.classes, comparing.balance()
    db = sqlite3.connect(path)
    try:
        db.executescript(
            f"PRAGMA journal_mode=OFF; PRAGMA application_id={APPLICATION_ID}; PRAGMA user_version={VERSION}; {TABLES}"
        )
        changes, listed, fates = _write_pages(db, comparing)
        happened = what_happened(comparing, fates)
        columns = (classes.change, classes.check, classes.in_head.astype(int), classes.finding, happened.event_of)
        db.executemany(
            "INSERT INTO classed (change, check_id, in_head, finding, event) VALUES (?,?,?,?,nullif(?, -1))",
            zip(*(column.tolist() for column in columns), strict=True),
        )
        health, areas = comparing.scores
        figures = Figures(
            dict(balance.counts),
            balance.base_findings,
            balance.head_findings,
            balance.waived_now,
            balance.changed_in_head,
            [CheckTold(check, comparing.texts[check].severity, comparing.texts[check].summary) for check in classes.checks],
            comparing.by_check(),
            comparing.settings(),
            health,
            areas,
            comparing.robots_diff(),
            changes,
            listed,
            happened.sentence,
            happened.events,
        )
        meta = {"figures": FIGURES.dump(figures), "catalogue": load().version}
        db.executemany("INSERT INTO meta VALUES (?, ?)", ((key, json.dumps(value)) for key, value in meta.items()))
        db.commit()
        db.executescript(INDEXES)
    finally:
        db.close()


def _write_pages(db: sqlite3.Connection, comparing: Comparing) -> tuple[int, dict[str, int], Fates]:
    """Write what became of pages; gives how many facts changed, how many pages each list has, and the pages in groups by their fate."""
    changes, counts = 0, {APPEARED: 0, GONE: 0, BLOCKED: 0}
    gathering = Gathering(comparing.base, comparing.head, (comparing.sights_base, comparing.sights_head))

    def listed() -> Iterator[tuple[str, str]]:
        nonlocal changes
        for page in comparing.pages():
            if page.appeared or page.gone:
                yield APPEARED if page.appeared else GONE, page.url
            changes += len(page.facts)
            gathering.add(page)
            db.executemany(
                "INSERT INTO page_change (url, field, base, head) VALUES (?,?,?,?)", ((page.url, *f) for f in page.facts)
            )
        yield from ((BLOCKED, url) for url in comparing.newly_blocked())

    for kind, url in listed():
        counts[kind] += 1
        db.execute("INSERT INTO page_listed (list, url) VALUES (?,?)", (kind, url))
    return changes, counts, gathering.groups()


class ComparedRuns:
    """A comparison that was kept, opened beside its two runs. Use it as a context manager."""

    def __init__(self, db: sqlite3.Connection, base: RunFile, head: RunFile) -> None:
        self._db, self._base, self._head = db, base, head
        self.figures: Figures = FIGURES.load(json.loads(self._rows("SELECT value FROM meta WHERE key = 'figures'")[0][0]))

    @classmethod
    def open(cls, path: Path, base: RunFile, head: RunFile) -> ComparedRuns | None:
        """The comparison at ``path``; ``None`` when there is none that this release and its catalogue would make alike."""
        if not path.is_file():
            return None
        db = sqlite3.connect(f"file:{path}?mode=ro", uri=True, check_same_thread=False)
        try:
            current = db.execute("PRAGMA user_version").fetchone()[0] == VERSION and json.loads(
                db.execute("SELECT value FROM meta WHERE key = 'catalogue'").fetchone()[0]
            )
        except (sqlite3.DatabaseError, TypeError):
            current = None  # one that was cut off is made again
        if current != load().version:
            db.close()
            return None
        return cls(db, base, head)

    def __enter__(self) -> ComparedRuns:
        return self

    def __exit__(self, *_: object) -> None:
        self._db.close()

    def _rows(self, sql: str, *values: Any) -> list[tuple[Any, ...]]:
        return self._db.execute(sql, values).fetchall()

    def findings(
        self, change: Change | None = None, check: str = "", event: int | None = None, *, limit: int = 200, after: int = 0
    ) -> tuple[list[Classed], int, int | None]:
        """Findings by class, check, URL and place; how many there are in all; and behind which the next part begins, if there is one.
        ``event`` is the place of an event."""
        if check and check not in self._numbers:
            return [], 0, None
        where, values = self._where(change, check, event)
        order = "change, id" if check or event is not None else "id"
        rows = self._rows(
            f"SELECT id, {_CLASSED} FROM classed WHERE {where} AND id > ? ORDER BY {order} LIMIT ?", *values, after, limit + 1
        )
        found = self._describe([row[1:] for row in rows[:limit]])
        return found, self._count(change, check, event), rows[limit - 1][0] if len(rows) > limit else None

    def events_of(self, prints: Sequence[bytes]) -> dict[bytes, int]:
        """The places of the events that findings are in, by fingerprint; those that are in none are left out."""
        found: dict[bytes, int] = {}
        for in_head, run in ((0, self._base), (1, self._head)):
            for part in in_parts(prints):
                rows = run.rows(f"SELECT id, fingerprint FROM finding WHERE fingerprint IN ({','.join('?' * len(part))})", *part)
                named = dict(rows)
                marks = ",".join(map(str, named))
                sql = (
                    f"SELECT finding, event FROM classed WHERE in_head = {in_head} AND event IS NOT NULL AND finding IN ({marks})"
                )
                found.update((named[finding], event) for finding, event in self._rows(sql))
        return found

    def _where(self, change: Change | None, check: str, event: int | None) -> tuple[str, list[int]]:
        """A class, a check and an event as a condition, with its values."""
        chosen = {
            "check_id": self._numbers[check] if check else None,
            "change": CHANGES.index(change) if change else None,
            "event": event,
        }
        given = {column: value for column, value in chosen.items() if value is not None}
        return " AND ".join(["1", *(f"{column} = ?" for column in given)]), list(given.values())

    def _describe(self, rows: Sequence[tuple[Any, ...]]) -> list[Classed]:
        """Findings in full, from rows of :data:`_CLASSED`."""
        checks = self.figures.checks
        chosen = [(CHANGES[kind], checks[number].check, bool(in_head), finding) for kind, number, in_head, finding in rows]
        return describe(chosen, self._base, self._head, {item.check: item for item in checks})

    def _count(self, change: Change | None, check: str, event: int | None) -> int:
        if not check and event is None:
            return self.figures.counts.get(change, 0) if change else sum(self.figures.counts.values())
        where, values = self._where(change, check, event)
        return int(self._rows(f"SELECT count(*) FROM classed WHERE {where}", *values)[0][0])

    @property
    def _numbers(self) -> dict[str, int]:
        return {item.check: number for number, item in enumerate(self.figures.checks)}

    def found(self, changes: Sequence[Change], severities: Sequence[Severity]) -> list[Classed]:
        """All findings of some classes, of checks of some severities."""
        wanted = [number for number, item in enumerate(self.figures.checks) if item.severity in severities]
        marks, kinds = ",".join(map(str, wanted)), ",".join(str(CHANGES.index(change)) for change in changes)
        return self._describe(
            self._rows(f"SELECT {_CLASSED} FROM classed WHERE check_id IN ({marks}) AND change IN ({kinds}) ORDER BY id")
        )

    def page_changes(self, limit: int) -> list[tuple[str, str, str, str]]:
        """Facts of pages that changed: URL, field, before, after; by URL."""
        return self._rows("SELECT url, field, base, head FROM page_change ORDER BY id LIMIT ?", limit)

    def pages(self, kind: str, limit: int) -> list[str]:
        """The URLs of one of the lists of pages, in their order."""
        return [url for (url,) in self._rows("SELECT url FROM page_listed WHERE list = ? ORDER BY id LIMIT ?", kind, limit)]
