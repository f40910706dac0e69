"""The pass over checks: every check looks at everything it is about, and what it yields becomes findings."""

from __future__ import annotations

from array import array
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from xxhash import xxh3_64_intdigest

from hodcarrier.core.catalogue import Entry, Fail, FileView, GroupView, Outcome, PageView, SiteView, Subject, Unsure
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.files import FileFacts
from hodcarrier.core.judge.causes import cause_key
from hodcarrier.core.judge.fingerprints import fingerprint
from hodcarrier.core.judge.health import SITE_ROW
from hodcarrier.core.judge.waivers import Waiver, covered
from hodcarrier.core.summary import Crash
from hodcarrier.core.web.series import in_one_series
from hodcarrier.examine.asking import Asking
from hodcarrier.examine.columns import Gathering
from hodcarrier.examine.measures import Gathered
from hodcarrier.examine.scoring import Tape
from hodcarrier.examine.views import RunViews
from hodcarrier.examine.writing import Results
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import SITE

CRASHES_KEPT = 1_000


@dataclass
class Tally:
    """What is counted of one check. ``keys`` are the pages of a group check by what they share."""

    entry: Entry[Any]
    limits: dict[str, float]
    findings: int = 0
    waived: int = 0
    unverified: int = 0
    crashed: int = 0
    # Of its subjects: those it was asked about, those it failed on, and those that it could not tell of.
    examined: int = 0
    failing: int = 0
    unsure: int = 0
    keys: defaultdict[str, array[int]] = field(default_factory=lambda: defaultdict(lambda: array("I")))


@dataclass(frozen=True, slots=True)
class Place:
    """What is being looked at: its address id, the rows of the scored pages that its faults count for, its template."""

    subject: str
    address: int | None
    rows: Sequence[int]
    template: str = ""


class Checking:
    """Runs checks over the views of one run. Findings go to ``results``, what figures need of them to ``tape``."""

    def __init__(
        self, views: RunViews, tallies: Sequence[Tally], waivers: Sequence[Waiver], rows: dict[int, int], results: Results
    ) -> None:
        self.views = views
        self.tallies = tallies
        self.waivers = waivers
        self.rows = rows
        self.results = results
        self.tape = Tape(results.db)
        self.crashes: list[Crash] = []
        self.gathered = Gathered()
        self.columns = Gathering(views)
        self._causes: dict[int, int] = {}
        # The versions in other languages that pages name.
        self._versions: dict[int, set[str]] = {}

        # How many pages, files and groups there were to look at.
        self.looked_at: Counter[Subject] = Counter()

    def _about(self, subject: Subject) -> list[int]:
        return [n for n, tally in enumerate(self.tallies) if tally.entry.check.subject == subject]

    def pages(self) -> None:
        """Look at every page; group checks note which pages belong together."""
        asking = Asking([(n, self.tallies[n].entry.check) for n in self._about(Subject.PAGE)])
        group_tallies = [self.tallies[n] for n in self._about(Subject.GROUP)]
        for i, view in self.views.pages():
            answer = view.answer
            document = view.is_document
            self.gathered.add(view)
            self.columns.add(view)
            if view.state not in ("queued", "skipped"):
                answered = answer is not None and answer.status is not None
                checks = asking.of(view, document, answered)
                self.looked_at[Subject.PAGE] += 1
                own = view.facts.template.key if view.facts else ""
                place = Place(view.url, i, self._rows_of(i), self.views.templates.get(i, own))
                for n in checks:
                    self._look(n, view, place)
            if document and view.indexable:
                self.looked_at[Subject.GROUP] += 1
                for tally in group_tallies:
                    if key := tally.entry.key(view):
                        tally.keys[key].append(i)
                if group_tallies and view.alternates:
                    self._versions[i] = {alternate.url for alternate in view.alternates if alternate.in_head}
        for n, examined in asking.examined().items():
            self.tallies[n].examined = examined

    def _rows_of(self, i: int) -> tuple[int, ...]:
        return (self.rows[i],) if i in self.rows else ()

    def groups(self) -> None:
        """Look at pages that share something."""
        for n in self._about(Subject.GROUP):
            tally = self.tallies[n]
            tally.examined = sum(map(len, tally.keys.values()))
            for key, ids in self._joined(tally):
                if len(ids) < 2 or self._are_one(ids):
                    continue
                members = sorted((self.views.url_of(i), i) for i in ids)
                group = GroupView(key, tuple(url for url, _ in members))
                fails = [o for o in self._outcomes(tally, group, group.members[0]) if isinstance(o, Fail)]
                for url, i in members:
                    self._take_all(n, fails, Place(url, i, self._rows_of(i)))
            tally.keys.clear()

    def _joined(self, tally: Tally) -> Iterator[tuple[str, Sequence[int]]]:
        """What the pages share, with the pages; keys that the check joins stand together under the first of them."""
        join = tally.entry.join
        if join is None:
            yield from tally.keys.items()
            return
        for together in join(list(tally.keys), tally.limits):
            yield together[0], array("I", (i for key in together for i in tally.keys[key]))

    def _are_one(self, ids: Sequence[int]) -> bool:
        """Whether all these pages are versions of one another in other languages, or parts of one series, so that none repeats another."""
        first, *others = ids
        urls = {i: self.views.url_of(i) for i in ids}
        together = {first}
        waiting = set(others)
        while found := {i for i in waiting if self._belong(i, together, urls)}:
            together |= found
            waiting -= found
        return not waiting

    def _belong(self, i: int, together: set[int], urls: Mapping[int, str]) -> bool:
        own = self._versions.get(i, set[str]())
        return any(urls[k] in own or urls[i] in self._versions.get(k, ()) or in_one_series(urls[i], urls[k]) for k in together)

    def files(self, run: RunFile) -> None:
        """Look at every file of the site that was asked for or is disallowed."""
        checks = self._about(Subject.FILE)
        alike = self.views.files.alike
        for i, kinds in self.views.file_kinds.items():
            item = self.views.known[i]
            if item.state not in (schema.DONE, schema.DISALLOWED):
                continue
            self.looked_at[Subject.FILE] += 1
            answer = run.answer(i) or Answer(None)
            users = [self.rows[u] for u in self.views.file_users.get(i, ()) if u in self.rows]
            state, target = schema.STATES[item.state], self.views.target(item.url)
            seen = self.views.files.of(item.url)
            same = tuple(map(self.views.url_of, alike.get(i, ())))
            read = seen.read if seen is not None else FileFacts()
            view = FileView(item.url, kinds, state, item.rule, answer, target, len(users), self.views.plan, read, same)
            for n in checks:
                if item.state == schema.DONE or self.tallies[n].entry.check.reach == "address":
                    self.tallies[n].examined += 1
                    self._look(n, view, Place(item.url, i, users))

    def site(self, site: SiteView) -> None:
        """Look at the site as a whole."""
        self.looked_at[Subject.SITE] = 1
        for n in self._about(Subject.SITE):
            self.tallies[n].examined = 1
            self._look(n, site, Place(SITE, None, (SITE_ROW,)))

    def _look(self, n: int, view: PageView | FileView | SiteView, place: Place) -> None:
        tally = self.tallies[n]
        outcomes = self._outcomes(tally, view, place.subject)
        if outcomes:
            self._take_all(n, [o for o in outcomes if isinstance(o, Fail)], place)
            unsure = [o for o in outcomes if isinstance(o, Unsure)]
            tally.unsure += len(unsure) == len(outcomes)
            self._leave_all(tally, unsure, place.subject)

    def _outcomes(self, tally: Tally, view: PageView | FileView | GroupView | SiteView, subject: str) -> list[Outcome]:
        """What a check yields. One that raises is recorded as crashed for the subject, and the run goes on."""
        try:
            return list(tally.entry.find(view, tally.limits))
        except Exception as error:  # noqa: BLE001
            tally.crashed += 1
            if len(self.crashes) < CRASHES_KEPT:
                self.crashes.append(Crash(tally.entry.id, subject, f"{type(error).__name__}: {error}"[:300]))
            key = fingerprint(tally.entry.identity, subject, "")
            self.results.add_unverified(key, tally.entry.id, subject, "", "the check crashed")
            return []

    def _take_all(self, n: int, fails: Sequence[Fail], place: Place) -> None:
        """Take the findings of one check on one subject; a place that is yielded twice counts once."""
        entry = self.tallies[n].entry
        self.tallies[n].failing += bool(fails)
        seen: set[str] = set()
        own_causes: dict[str, int] = {}
        for fail in fails:
            if fail.place not in seen:
                seen.add(fail.place)
                self._take(n, entry, fail, place, own_causes)

    def _take(self, n: int, entry: Entry[Any], fail: Fail, place: Place, own_causes: dict[str, int]) -> None:
        tally = self.tallies[n]
        key = fingerprint(entry.identity, place.subject, fail.place)
        name = fail.cause or cause_key(entry.check.cause, place.subject, place.template, fail.key, fail.place)
        cause = self._cause(n, name, place.subject, own_causes)
        waived = bool(self.waivers) and covered(self.waivers, entry.id, place.subject, key)
        if waived:
            tally.waived += 1
            self.tape.cause_waived[cause] += 1
        else:
            tally.findings += 1
            self.tape.note(n, cause, place.rows)
        self.results.add_finding(key, entry, place.address, place.subject, fail, cause, waived)

    def _cause(self, n: int, name: str, subject: str, own_causes: dict[str, int]) -> int:
        """The number of a cause. Those that belong to one subject need not be remembered beyond it: each is looked at once."""
        if name == subject:
            if name not in own_causes:
                own_causes[name] = self.tape.new_cause(n)
                self.results.add_cause(own_causes[name], None)
            return own_causes[name]
        short = xxh3_64_intdigest(f"{n} {name}".encode("utf-8", "surrogatepass"))
        cause = self._causes.get(short)
        if cause is None:
            cause = self._causes[short] = self.tape.new_cause(n)
            self.results.add_cause(cause, name)
        return cause

    def _leave_all(self, tally: Tally, unsure: Sequence[Unsure], subject: str) -> None:
        seen: set[str] = set()
        for outcome in unsure:
            if outcome.place not in seen:
                seen.add(outcome.place)
                tally.unverified += 1
                key = fingerprint(tally.entry.identity, subject, outcome.place)
                self.results.add_unverified(key, tally.entry.id, subject, outcome.place, outcome.reason)
