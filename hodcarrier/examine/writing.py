"""Writing what an examination finds into the run file, in parts, so that it need not stay in memory."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from hodcarrier.core.catalogue import AREAS, Entry, Fail
from hodcarrier.core.judge.causes import cause_line
from hodcarrier.core.judge.health import RANK
from hodcarrier.examine.ages import Ages
from hodcarrier.examine.scoring import Scores, Tape
from hodcarrier.examine.views import RunViews
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import pack_ids, to_json

BATCH = 5_000
# Later than any date: the age of a cause before its first finding.
NO_AGE = ("9999", 0)


def line_of(entry: Entry[Any], key: str, message: str, data: Mapping[str, Any], findings: int, pages: int, example: str) -> str:
    """The line of a cause; ``message``, ``data`` and ``example`` are of its first finding."""
    check = entry.check
    return cause_line(check.cause_line, check.cause, key, data, findings, pages, example) or entry.message(message, data)


class Results:
    """The result tables of one run file, in one transaction that the caller commits. ``ages`` are those of the run before, ``origin`` the site's."""

    def __init__(self, db: sqlite3.Connection, ages: Ages, origin: str) -> None:
        self.db = db
        self.origin = origin
        self.ages = ages
        self.findings = 0
        self._findings: list[tuple[Any, ...]] = []
        # The oldest date of every cause, and how often one of its findings has returned.
        self._cause_ages: list[tuple[str, int]] = []
        self._seeds: list[tuple[int, int, str | None]] = []
        self._unverified: list[tuple[Any, ...]] = []

    def clear(self) -> None:
        """Results of an earlier examination of the same file give way."""
        if not self.db.in_transaction:
            self.db.execute("BEGIN")
        for view in schema.RESULT_VIEWS:
            self.db.execute(f"DROP VIEW IF EXISTS {view}")
        for table in schema.RESULT_TABLES:
            self.db.execute(f"DROP TABLE IF EXISTS {table}")
        for statement in schema.RESULTS.split(";"):
            if statement.strip():
                self.db.execute(statement)
        self.db.execute("DROP TABLE IF EXISTS temp.cause_seed")
        # The first finding of every cause, and its key where that is not the finding's subject.
        self.db.execute("CREATE TEMP TABLE cause_seed (id INTEGER PRIMARY KEY, first INTEGER NOT NULL, key TEXT)")

    def add_cause(self, cause: int, key: str | None) -> None:
        """Note a cause whose first finding is the next one to be added. ``key`` is ``None`` when it is the finding's subject."""
        self._seeds.append((cause + 1, self.findings + 1, key))
        self._cause_ages.append(NO_AGE)

    def add_finding(
        self, key: bytes, entry: Entry[Any], address: int | None, subject: str, fail: Fail, cause: int, waived: bool
    ) -> None:
        """Add a finding."""
        self.findings += 1
        data = to_json(dict(fail.data))
        check = entry.check
        row = (
            self.findings,
            key,
            entry.id,
            RANK[check.severity],
            address,
            subject,
            fail.place,
            fail.key,
            data,
            cause + 1,
            waived,
        )
        self._findings.append(row)
        if len(self._findings) >= BATCH:
            self.flush()

    def add_unverified(self, key: bytes, check: str, subject: str, place: str, reason: str) -> None:
        """Add a place that could not be examined."""
        self._unverified.append((key, check, subject, place, reason))
        if len(self._unverified) >= BATCH:
            self.flush()

    def flush(self) -> None:
        """Write what was gathered since the last time."""
        ages = self.ages.of([row[1] for row in self._findings])
        for (*_, cause, _), age in zip(self._findings, ages, strict=True):
            first, returned = self._cause_ages[cause - 1]
            self._cause_ages[cause - 1] = (min(first, age[0]), max(returned, age[1]))
        self.db.executemany(
            "INSERT INTO finding VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?)",
            ((*row, *age) for row, age in zip(self._findings, ages, strict=True)),
        )
        self.db.executemany("INSERT INTO temp.cause_seed VALUES (?,?,?)", self._seeds)
        self.db.executemany("INSERT OR IGNORE INTO unverified VALUES (?,?,?,?,?)", self._unverified)
        for gathered in (self._findings, self._seeds, self._unverified):
            gathered.clear()

    def write_inventory(self, views: RunViews, rows: Mapping[int, int], scores: Scores) -> None:
        """Write the table that lists of addresses are read from, with what was judged of every page, and the link graph."""

        def row(i: int) -> tuple[Any, ...]:
            item = views.known[i]
            inlinks = len(views.inlinks.get(i, ()))
            at = rows.get(i)
            if at is None:
                return (i, 0, item.why_not, inlinks, None, 0, 0, 0, 0)
            return (i, 1, item.why_not, inlinks, float(scores.page_healths[at]), *(int(c) for c in scores.counts[at]))

        pages = [i for i, item in enumerate(views.known) if i and item.role == 0]
        self.db.executemany("UPDATE address SET depth = ? WHERE id = ?", ((views.known[i].depth, i) for i in pages))
        self.db.execute(
            "CREATE TEMP TABLE judged (address_id INTEGER PRIMARY KEY, scored, why_not, inlinks, health, critical, high, medium, low)"
        )
        self.db.executemany("INSERT INTO temp.judged VALUES (?,?,?,?,?,?,?,?,?)", (row(i) for i in pages))
        self.db.execute(f"INSERT INTO inventory {schema.INVENTORY.format(judged='temp.judged')} ORDER BY address.id")
        self.db.execute("DROP TABLE temp.judged")
        counts = dict(self.db.execute("SELECT role, count(*) FROM inventory GROUP BY role").fetchall())
        totals = {role: counts.get(number, 0) for number, role in enumerate(schema.ROLES)}
        self.db.execute("INSERT OR REPLACE INTO meta VALUES ('addresses', ?)", (json.dumps(totals),))
        sources = {**views.inlinks, **views.file_users}
        self.db.executemany("INSERT INTO inlink VALUES (?,?)", ((i, pack_ids(ids)) for i, ids in sources.items()))

    def write_causes(self, entry_of: Callable[[int], Entry[Any]], tape: Tape, scores: Scores) -> None:
        """Write the causes, each with a line made from its first finding."""
        seeds = self.db.execute(
            "SELECT s.id, coalesce(s.key, f.subject), f.subject, f.message, f.evidence FROM temp.cause_seed s JOIN finding f ON f.id = s.first"
            " ORDER BY s.id"
        )
        batch: list[tuple[Any, ...]] = []
        figures = scores.causes()
        upcoming = next(figures, None)
        for number, key, subject, message, evidence in seeds:
            cause = number - 1
            pages, gain = 0, 0.0
            if upcoming is not None and upcoming.cause == cause:
                pages, gain = upcoming.pages, upcoming.gain
                upcoming = next(figures, None)
            entry = entry_of(tape.cause_check[cause])
            findings, waived, data = tape.cause_findings[cause], tape.cause_waived[cause], json.loads(evidence)
            line = line_of(entry, key, message, data, findings, pages, subject.removeprefix(self.origin))
            batch.append((number, entry.id, key, line, findings, waived, pages, gain, *self._cause_ages[cause]))
            if len(batch) >= BATCH:
                self._add_causes(batch)
        self._add_causes(batch)
        self.db.execute("DROP TABLE temp.cause_seed")

    def _add_causes(self, batch: list[tuple[Any, ...]]) -> None:
        self.db.executemany("INSERT INTO cause VALUES (?,?,?,?,?,?,?,?,?,?)", batch)
        batch.clear()

    def check_age(self, numbers: Sequence[int]) -> tuple[str | None, int]:
        """The oldest date of some causes, and how often one of their findings has returned."""
        ages = [self._cause_ages[n] for n in numbers]
        return (min(first for first, _ in ages), max(returned for _, returned in ages)) if ages else (None, 0)

    def write_check(
        self,
        entry: Entry[Any],
        limits: Mapping[str, float],
        state: str,
        figures: Sequence[float | str | None],
    ) -> None:
        """Write a check with its texts as they are now, so that the file explains itself for ever.

        ``figures`` are findings, waived, pages, fixes, gain, unverified and crashed; the age as :meth:`check_age` gives it; and of the
        check's subjects those that were examined, that fail, that pass, and that it does not apply to.
        """
        check = entry.check
        texts = (check.effort, check.summary, check.why, check.fix, check.standard, json.dumps(dict(check.messages)))
        facts = (entry.id, entry.identity, entry.area, AREAS[entry.area], check.severity, check.subject, check.reach)
        row = (*facts, *texts, json.dumps(dict(limits)), check.revision, state, *figures)
        self.db.execute(f"INSERT INTO check_state VALUES ({','.join('?' * len(row))})", row)
