"""A comparison of two runs, kept in a small file beside them and read like a list. It can be made again at any time.

It names findings by their ids in the two run files and holds no text of them; page changes are in it in full. docs/run-file.md
describes it.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from hodcarrier.core.catalogue import load
from hodcarrier.core.judge.compare import Balance
from hodcarrier.core.judge.robots_lines import RobotsLine
from hodcarrier.core.states import Area, Change, ComparedList, PartKind, Severity
from hodcarrier.core.stored import Format
from hodcarrier.core.summary import CheckChange, Event, SettingChange, SharedScore
from hodcarrier.runfile.alike import AlikeChange
from hodcarrier.runfile.comparison import CHANGES, Classed, describe
from hodcarrier.runfile.parts import Part
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.results import in_parts

APPLICATION_ID = 0x486F6463
VERSION = 4
TABLES = """
CREATE TABLE meta (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID;
CREATE TABLE classed (
  id INTEGER PRIMARY KEY, change INTEGER NOT NULL, check_id INTEGER NOT NULL, in_head INTEGER NOT NULL, finding INTEGER NOT NULL,
  event INTEGER, cause INTEGER, page INTEGER, folder INTEGER, template INTEGER
);
CREATE TABLE part (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, check_id TEXT NOT NULL, before INTEGER NOT NULL, after INTEGER NOT NULL,
  counts TEXT NOT NULL
);
CREATE TABLE page_change (
  id INTEGER PRIMARY KEY, role INTEGER NOT NULL, alike INTEGER NOT NULL, url TEXT NOT NULL, field TEXT NOT NULL, base TEXT NOT NULL,
  head TEXT NOT NULL
);
CREATE TABLE alike (
  id INTEGER PRIMARY KEY, place INTEGER NOT NULL, role INTEGER NOT NULL, field TEXT NOT NULL, removed TEXT NOT NULL, added TEXT NOT NULL,
  pages INTEGER NOT NULL, url TEXT NOT NULL, base TEXT NOT NULL, head TEXT NOT NULL
);
CREATE TABLE page_listed (id INTEGER PRIMARY KEY, list TEXT NOT NULL, url TEXT NOT NULL);
"""
INDEXES = """
CREATE INDEX classed_change ON classed(change);
CREATE INDEX classed_check ON classed(check_id, change);
CREATE INDEX classed_event ON classed(event, change) WHERE event IS NOT NULL;
CREATE INDEX classed_finding ON classed(in_head, finding) WHERE event IS NOT NULL;
CREATE INDEX classed_cause ON classed(cause, change) WHERE event IS NOT NULL;
CREATE INDEX classed_page ON classed(page, change) WHERE event IS NOT NULL;
CREATE INDEX classed_folder ON classed(folder, change) WHERE event IS NOT NULL;
CREATE INDEX classed_template ON classed(template, change) WHERE event IS NOT NULL;
CREATE INDEX part_kind ON part(kind);
CREATE INDEX page_change_alike ON page_change(alike);
CREATE UNIQUE INDEX alike_place ON alike(place);
CREATE INDEX page_listed_list ON page_listed(list);
"""
_ALIKE = "id, role, field, removed, added, url, base, head, pages"
_CLASSED = "change, check_id, in_head, finding"


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
    robots_lines: list[RobotsLine]
    page_changes: int
    alike: int
    listed: dict[ComparedList, int]
    parts: dict[PartKind, int]
    sentence: str
    events: list[Event]

    @property
    def balance(self) -> Balance:
        """The counts, and whether they reconcile."""
        return Balance(self.base_findings, self.head_findings, self.waived_now, self.changed_in_head, self.counts)


FIGURES = Format(Figures, "comparison")


def revisions(base: RunFile, head: RunFile) -> list[int]:
    """How often the waivers of the two runs were changed after they were examined: a comparison from before knows nothing of that."""
    return [int(run.meta("revision", 0)) for run in (base, head)]


@dataclass(frozen=True)
class Chosen:
    """Which findings of a comparison: of a class, a check, an event (by its place), a part (by its number); what is left out does not narrow."""

    change: Change | None = None
    check: str = ""
    event: int | None = None
    part: int | None = None

    @property
    def narrow(self) -> bool:
        """Whether more than the class is chosen."""
        return bool(self.check) or self.event is not None or self.part is not None


ALL = Chosen()


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
            version = db.execute("PRAGMA user_version").fetchone()[0]
            made = {key: json.loads(value) for key, value in db.execute("SELECT key, value FROM meta WHERE key <> 'figures'")}
        except (sqlite3.DatabaseError, ValueError):
            version, made = None, {}  # one that was cut off is made again
        if version != VERSION or made != {"catalogue": load().version, "revisions": revisions(base, head)}:
            db.close()
            return None
        return cls(db, base, head)

    def __enter__(self) -> ComparedRuns:
        return self

    def __exit__(self, *_: object) -> None:
        self._db.close()

    def _rows(self, sql: str, *values: Any) -> list[tuple[Any, ...]]:
        return self._db.execute(sql, values).fetchall()

    def findings(self, chosen: Chosen = ALL, *, limit: int = 200, after: int = 0) -> tuple[list[Classed], int, int | None]:
        """Findings by class, check, URL and place; how many there are in all; and behind which the next part begins, if there is one."""
        if chosen.check and chosen.check not in self._numbers:
            return [], 0, None
        where, values = self._where(chosen)
        order = "change, id" if chosen.narrow else "id"
        rows = self._rows(
            f"SELECT id, {_CLASSED} FROM classed WHERE {where} AND id > ? ORDER BY {order} LIMIT ?", *values, after, limit + 1
        )
        found = self._describe([row[1:] for row in rows[:limit]])
        return found, self._count(chosen), rows[limit - 1][0] if len(rows) > limit else None

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

    def prints(self, chosen: Chosen) -> list[bytes]:
        """The fingerprints of the head's findings among the chosen ones, in their order: those that somebody can work on."""
        where, values = self._where(chosen)
        ids = [row[0] for row in self._rows(f"SELECT finding FROM classed WHERE {where} AND in_head = 1 ORDER BY id", *values)]
        found: dict[int, bytes] = {}
        for part in in_parts(ids):
            marks = ",".join(map(str, part))
            found.update(self._head.rows(f"SELECT id, fingerprint FROM finding WHERE id IN ({marks})"))
        return [found[finding] for finding in ids]

    def part(self, number: int) -> Part | None:
        """One of the parts; ``None`` when there is none with this number."""
        found = self._parts("id = ?", number)
        return found[0][1] if found else None

    def parts(self, kind: PartKind, *, limit: int = 200, after: int = 0) -> list[tuple[int, Part]]:
        """Parts of one kind with their numbers, those with most to tell first, ``after`` the one with that number."""
        return self._parts("kind = ? AND id > ? ORDER BY id LIMIT ?", kind, after, limit)

    def _parts(self, where: str, *values: Any) -> list[tuple[int, Part]]:
        rows = self._rows(f"SELECT id, kind, name, check_id, before, after, counts FROM part WHERE {where}", *values)
        return [
            (number, Part(PartKind(kind), name, check, then, now, {Change(c): n for c, n in json.loads(counts).items()}))
            for number, kind, name, check, then, now, counts in rows
        ]

    def _where(self, chosen: Chosen) -> tuple[str, list[int]]:
        """What is chosen as a condition, with its values."""
        part = self.part(chosen.part) if chosen.part is not None else None
        given = {
            "check_id": self._numbers[chosen.check] if chosen.check else None,
            "change": CHANGES.index(chosen.change) if chosen.change else None,
            "event": chosen.event,
            part.kind.value if part else "cause": chosen.part,
        }
        columns = {column: value for column, value in given.items() if value is not None}
        alone = ["event IS NOT NULL"] if chosen.part is not None else []
        return " AND ".join(["1", *alone, *(f"{column} = ?" for column in columns)]), list(columns.values())

    def _describe(self, rows: Sequence[tuple[Any, ...]]) -> list[Classed]:
        """Findings in full, from rows of :data:`_CLASSED`."""
        checks = self.figures.checks
        chosen = [(CHANGES[kind], checks[number].check, bool(in_head), finding) for kind, number, in_head, finding in rows]
        return describe(chosen, self._base, self._head, {item.check: item for item in checks})

    def _count(self, chosen: Chosen) -> int:
        if not chosen.narrow:
            counts = self.figures.counts
            return counts.get(chosen.change, 0) if chosen.change else sum(counts.values())
        where, values = self._where(chosen)
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

    def page_changes(self, alike: int, *, limit: int = 200, after: int = 0) -> list[tuple[int, str, str, str]]:
        """The changed facts that are alike: id, URL, before, after; ``after`` the one with that id."""
        return self._rows(
            "SELECT id, url, base, head FROM page_change WHERE alike = ? AND id > ? ORDER BY id LIMIT ?", alike, after, limit
        )

    def change_group(self, number: int) -> AlikeChange | None:
        """One of the changes that pages or files have in common; ``None`` when there is none with this number."""
        rows = self._rows(f"SELECT {_ALIKE} FROM alike WHERE id = ?", number)
        return AlikeChange(*rows[0]) if rows else None

    def alike(self, *, limit: int = 200, after: int = 0) -> list[AlikeChange]:
        """Changed facts of pages and files, those that one edit explains together, the most common first; ``after`` so many."""
        rows = self._rows(f"SELECT {_ALIKE} FROM alike WHERE place > ? ORDER BY place LIMIT ?", after, limit)
        return [AlikeChange(*row) for row in rows]

    def urls(self, kind: ComparedList, *, limit: int = 200, after: int = 0) -> list[tuple[int, str]]:
        """The URLs of one of the lists, in their order, with their ids; ``after`` the one with that id."""
        return self._rows("SELECT id, url FROM page_listed WHERE list = ? AND id > ? ORDER BY id LIMIT ?", kind, after, limit)
