"""From facts to findings, causes, health and summary, over a whole run file, in one transaction."""

from __future__ import annotations

import json
import sqlite3
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

import numpy as np

from hodcarrier.core.catalogue import CATALOGUE_VERSION, Entry, Fail, Unsure, load
from hodcarrier.core.causes import cause_key, cause_line
from hodcarrier.core.fingerprints import fingerprint
from hodcarrier.core.health import RANK, Faults, gains, page_health, site_factor, site_health
from hodcarrier.core.plan import Plan, read_plan
from hodcarrier.core.views import Answer, FileView, GroupView, PageView, SiteView
from hodcarrier.core.waivers import Waiver, covered
from hodcarrier.examine.history import carry_forward
from hodcarrier.examine.measures import Gathered
from hodcarrier.examine.model import Model
from hodcarrier.examine.site import make_site_view
from hodcarrier.examine.summary import make_summary
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import pack_ids
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import SITE

BATCH = 5_000


@dataclass(slots=True)
class Found:
    """What the figures need of a finding; the rest is in the file already. ``pages`` are the rows of scored pages it counts for; −1
    stands for the site."""

    check: int
    cause: int
    waived: bool
    pages: tuple[int, ...]


@dataclass
class Tally:
    """What is counted of one check."""

    entry: Entry
    limits: dict[str, float]
    findings: int = 0
    waived: int = 0
    unverified: int = 0
    crashed: int = 0
    keys: defaultdict[str, list[str]] = field(default_factory=lambda: defaultdict(list))


class Examination:
    """One examination of one run file; :func:`examine` is the way in."""

    def __init__(self, db: sqlite3.Connection, now: datetime, base: RunFile | None, waivers: Sequence[Waiver]) -> None:
        self.db = db
        self.now = now
        self.base = base
        self.waivers = [w for w in waivers if w.in_force(now.date())]
        run = RunFile(db)
        self.run = run
        self.plan: Plan = read_plan(run.meta("plan"))
        self.model = Model.load(db, self.plan)
        if base is not None:
            self.model.once_indexable = {row[0] for row in base.rows("SELECT url FROM once_indexable")}
        off = set(self.plan.checks_off)
        entries = list(load().values())
        self.off = [entry for entry in entries if entry.id in off]
        self.tallies = [Tally(entry, entry.limits(self.plan.thresholds)) for entry in entries if entry.id not in off]
        self.found: list[Found] = []
        self.unwritten: list[tuple[Any, ...]] = []
        self.prints: set[bytes] = set()
        self.causes: dict[tuple[int, str], int] = {}
        self.cause_data: list[tuple[int, str, Fail]] = []
        self.unverified: dict[bytes, tuple[str, str, str, str]] = {}
        self.crashes: list[dict[str, str]] = []
        self.rows: dict[int, int] = {}
        self.gathered = Gathered()

    def run_all(self) -> dict[str, Any]:
        """Examine, write the results, return the summary."""
        self._clear()
        scored = [i for i in range(1, len(self.model.known)) if self.model.is_scored(i)]
        self.rows = {i: row for row, i in enumerate(scored)}
        self._examine_pages()
        self._examine_groups()
        self._examine_files()
        site = make_site_view(self.model, self.run, self.now)
        self._examine_site(site)
        faults, triples = self._faults(len(scored))
        counts = faults.page_counts()
        healths = page_health(counts)
        self._write_verdicts(counts, healths)
        check_gains, cause_gains = self._gains(faults, triples)
        self._write_findings()
        self.db.executemany("INSERT INTO unverified VALUES (?,?,?,?,?)", ((k, *v) for k, v in self.unverified.items()))
        self._write_causes(cause_gains)
        self._write_checks(check_gains)
        carry_forward(self.db, self.base, self._complete(), self.now, self.model)
        health = site_health(faults)
        areas = {
            area: site_health(faults, self._area_mask(faults, area)) for area in dict.fromkeys(t.entry.area for t in self.tallies)
        }
        summary = make_summary(
            self.db,
            self.model,
            health=health,
            areas=areas,
            factor=float(site_factor(faults.site_counts())[0]),
            site=site,
            gathered=self.gathered,
            end=self.run.meta("end", "complete"),
            crashes=self.crashes,
            free_of_severe=int(((counts[:, 0] + counts[:, 1]) == 0).sum()) if len(scored) else 0,
            severe_rows={i for i in scored if counts[self.rows[i], 0] + counts[self.rows[i], 1] > 0},
        )
        self.db.execute("INSERT OR REPLACE INTO meta VALUES ('summary', ?)", (json.dumps(summary),))
        self.db.execute("INSERT OR REPLACE INTO meta VALUES ('catalogue', ?)", (json.dumps(CATALOGUE_VERSION),))
        self.db.commit()
        return summary

    def _complete(self) -> bool:
        return bool(self.run.meta("end", "complete") == "complete")

    def _clear(self) -> None:
        """Results of an earlier examination of the same file give way."""
        if not self.db.in_transaction:
            self.db.execute("BEGIN")
        for table in schema.RESULT_TABLES:
            self.db.execute(f"DROP TABLE IF EXISTS {table}")
        for statement in schema.RESULTS.split(";"):
            if statement.strip():
                self.db.execute(statement)

    # -- running checks ----------------------------------------------------------------------------------------

    def _examine_pages(self) -> None:
        by_needs: dict[str, list[int]] = {"address": [], "answer": [], "document": []}
        for n, tally in enumerate(self.tallies):
            if tally.entry.check.subject == "page":
                by_needs[tally.entry.check.needs].append(n)
        group_checks = [t for t in self.tallies if t.entry.check.subject == "group"]
        checks_of_answers = sorted(by_needs["address"] + by_needs["answer"])
        checks_of_documents = sorted(checks_of_answers + by_needs["document"])
        for i, view in self.model.pages():
            answer = view.answer
            document = view.facts is not None and answer is not None and answer.status == 200 and not answer.failure
            self.gathered.add(view)
            if view.state not in ("queued", "skipped"):
                answered = answer is not None and answer.status is not None
                checks = checks_of_documents if document else checks_of_answers if answered else by_needs["address"]
                rows, template = self._rows_of(i), view.facts.template if view.facts else ""
                for n in checks:
                    self._collect(n, view, view.url, i, rows, template)
            if document and view.indexable:
                for tally in group_checks:
                    if key := tally.entry.key(view):
                        tally.keys[key].append(view.url)

    def _rows_of(self, i: int) -> tuple[int, ...]:
        return (self.rows[i],) if i in self.rows else ()

    def _examine_groups(self) -> None:
        for n, tally in enumerate(self.tallies):
            for key, members in tally.keys.items():
                if len(members) < 2:
                    continue
                group = GroupView(key, tuple(sorted(members)))
                for outcome in self._outcomes(tally, group, group.members[0]):
                    if isinstance(outcome, Fail):
                        for url in group.members:
                            i = self.model.ids[url]
                            self._take(n, outcome, url, i, self._rows_of(i), "")

    def _examine_files(self) -> None:
        file_checks = [(n, t) for n, t in enumerate(self.tallies) if t.entry.check.subject == "file"]
        for i, kind in self.model.file_kinds.items():
            item = self.model.known[i]
            if item.state not in (schema.DONE, schema.DISALLOWED):
                continue
            answer = self.run.answer(i) or Answer(None)
            users = tuple(self.rows[u] for u in self.model.file_users.get(i, ()) if u in self.rows)
            state = schema.STATES[item.state]
            view = FileView(item.url, kind, state, item.rule, answer, self.model.target(item.url), len(users), self.plan)
            for n, tally in file_checks:
                if item.state == schema.DONE or tally.entry.check.needs == "address":
                    self._collect(n, view, item.url, i, users, "")

    def _examine_site(self, site: SiteView) -> None:
        for n, tally in enumerate(self.tallies):
            if tally.entry.check.subject == "site":
                self._collect(n, site, SITE, None, (-1,), "")

    def _collect(
        self, n: int, view: PageView | FileView | SiteView, subject: str, i: int | None, rows: tuple[int, ...], template: str
    ) -> None:
        tally = self.tallies[n]
        for outcome in self._outcomes(tally, view, subject):
            if isinstance(outcome, Fail):
                self._take(n, outcome, subject, i, rows, template)
            else:
                self._leave(tally, outcome, subject)

    def _outcomes(self, tally: Tally, view: PageView | FileView | GroupView | SiteView, subject: str) -> list[Fail | Unsure]:
        """What a check yields. One that raises is recorded as crashed for the subject, and the run goes on."""
        try:
            return list(tally.entry.find(view, tally.limits))
        except Exception as error:  # noqa: BLE001
            tally.crashed += 1
            self.crashes.append({"check": tally.entry.id, "subject": subject, "error": f"{type(error).__name__}: {error}"[:300]})
            key = fingerprint(tally.entry.id, subject, "")
            self.unverified[key] = (tally.entry.id, subject, "", "the check crashed")
            return []

    def _take(self, n: int, fail: Fail, subject: str, i: int | None, rows: tuple[int, ...], template: str) -> None:
        tally = self.tallies[n]
        key = fingerprint(tally.entry.id, subject, fail.place)
        if key in self.prints:
            return
        self.prints.add(key)
        name = cause_key(tally.entry, subject, template, fail)
        cause = self.causes.setdefault((n, name), len(self.causes))
        if cause == len(self.cause_data):
            self.cause_data.append((n, name, fail))
        waived = covered(self.waivers, tally.entry.id, subject, key)
        tally.findings += not waived
        tally.waived += waived
        self.found.append(Found(n, cause, waived, rows))
        row = (key, tally.entry.id, i, subject, fail.place, fail.key, json.dumps(dict(fail.data)), cause + 1, waived)
        self.unwritten.append(row)
        if len(self.unwritten) >= BATCH:
            self._write_findings()

    def _leave(self, tally: Tally, unsure: Unsure, subject: str) -> None:
        key = fingerprint(tally.entry.id, subject, unsure.place)
        if key not in self.unverified:
            tally.unverified += 1
            self.unverified[key] = (tally.entry.id, subject, unsure.place, unsure.reason)

    # -- figures -----------------------------------------------------------------------------------------------

    def _faults(self, pages: int) -> tuple[Faults, Any]:
        """Fault rows (page, check) and, for every row and finding, the cause: parallel arrays."""
        page: list[int] = []
        check: list[int] = []
        cause: list[int] = []
        for found in self.found:
            if not found.waived:
                page.extend(found.pages)
                check.extend([found.check] * len(found.pages))
                cause.extend([found.cause] * len(found.pages))
        if not page:
            empty = np.zeros(0, dtype=np.int64)
            return Faults(pages, empty, empty, empty), (empty, empty)
        width = len(self.tallies)
        keys = (np.array(page, dtype=np.int64) + 1) * width + np.array(check, dtype=np.int64)
        unique, inverse = np.unique(keys, return_inverse=True)
        row_check = unique % width
        severities = np.array([RANK[t.entry.check.severity] for t in self.tallies], dtype=np.int64)
        return Faults(pages, unique // width - 1, row_check, severities[row_check]), (inverse, np.array(cause, dtype=np.int64))

    def _gains(self, faults: Faults, triples: Any) -> tuple[Any, Any]:
        rows, causes = triples
        check_gains = gains(faults, len(self.tallies), faults.check, np.arange(len(faults.check)))
        if len(rows) == 0:
            return check_gains, np.zeros(len(self.causes))
        pairs = np.unique(np.stack([rows, causes]), axis=1)
        alone = np.bincount(pairs[0], minlength=len(faults.check))[pairs[0]] == 1
        return check_gains, gains(faults, len(self.causes), pairs[1][alone], pairs[0][alone])

    def _area_mask(self, faults: Faults, area: str) -> Any:
        inside = np.array([t.entry.area == area for t in self.tallies])
        return inside[faults.check] if len(faults.check) else np.zeros(0, dtype=bool)

    # -- writing -----------------------------------------------------------------------------------------------

    def _write_verdicts(self, counts: Any, healths: Any) -> None:
        def row(i: int) -> tuple[Any, ...]:
            item = self.model.known[i]
            inlinks = len(self.model.inlinks.get(i, ()))
            at = self.rows.get(i)
            if at is None:
                return (i, 0, item.why_not, inlinks, None, 0, 0, 0, 0)
            return (i, 1, item.why_not, inlinks, float(healths[at]), *(int(c) for c in counts[at]))

        pages = [i for i, item in enumerate(self.model.known) if i and item.role == 0]
        self.db.executemany("INSERT INTO verdict VALUES (?,?,?,?,?,?,?,?,?)", (row(i) for i in pages))
        self.db.executemany("UPDATE address SET depth = ? WHERE id = ?", ((self.model.known[i].depth, i) for i in pages))
        sources = {**self.model.inlinks, **self.model.file_users}
        self.db.executemany("INSERT INTO inlink VALUES (?,?)", ((i, pack_ids(ids)) for i, ids in sources.items()))

    def _write_findings(self) -> None:
        """Write the findings gathered since the last time, so that they need not stay in memory."""
        self.db.executemany(
            "INSERT INTO finding (fingerprint, check_id, subject_id, subject, place, message, evidence, cause_id, waived)"
            " VALUES (?,?,?,?,?,?,?,?,?)",
            self.unwritten,
        )
        self.unwritten.clear()

    def _write_causes(self, cause_gains: Any) -> None:
        findings: defaultdict[int, int] = defaultdict(int)
        pages: defaultdict[int, set[int]] = defaultdict(set)
        for found in self.found:
            if not found.waived:
                findings[found.cause] += 1
                pages[found.cause].update(found.pages)
        rows = []
        for cause, (n, key, fail) in enumerate(self.cause_data):
            count = len(pages[cause] - {-1})
            line = cause_line(self.tallies[n].entry, key, fail, findings[cause], count)
            rows.append((cause + 1, self.tallies[n].entry.id, key, line, findings[cause], count, float(cause_gains[cause])))
        self.db.executemany("INSERT INTO cause VALUES (?,?,?,?,?,?,?)", rows)

    def _write_checks(self, check_gains: Any) -> None:
        pages: defaultdict[int, set[int]] = defaultdict(set)
        fixes: defaultdict[int, set[int]] = defaultdict(set)
        for found in self.found:
            if not found.waived:
                pages[found.check].update(found.pages)
                fixes[found.check].add(found.cause)
        rows = []
        for n, t in enumerate(self.tallies):
            check = t.entry.check
            figures = (t.findings, t.waived, len(pages[n] - {-1}), len(fixes[n]), float(check_gains[n]), t.unverified, t.crashed)
            rows.append((t.entry.id, t.entry.area, check.severity, check.subject, check.needs, check.revision, "on", *figures))
        for entry in self.off:
            check = entry.check
            rows.append(
                (entry.id, entry.area, check.severity, check.subject, check.needs, check.revision, "off", 0, 0, 0, 0, 0.0, 0, 0)
            )
        self.db.executemany("INSERT INTO check_state VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?)", rows)


def examine(db: sqlite3.Connection, now: datetime, base: RunFile | None = None, waivers: Sequence[Waiver] = ()) -> dict[str, Any]:
    """Examine the facts in a run file and write the results into it.

    ``base`` is the run before of the same site, whose history is carried forward. Returns the summary, which is also
    stored under ``summary`` in the file. An examination that is broken off leaves nothing behind and can be made anew.
    """
    return Examination(db, now, base, waivers).run_all()
