"""What one run can say about a fingerprint: found, waived, known, examined, gone. The base of every comparison."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

from hodcarrier.core.catalogue import Catalogue, load
from hodcarrier.core.judge.compare import Sight
from hodcarrier.core.plan import STORED, Plan
from hodcarrier.core.reach import narrowed
from hodcarrier.core.states import WhyNot
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import unpack_ids
from hodcarrier.runfile.reader import RunFile

SITE = "site"
# So many addresses are looked up one by one before all of them are read.
LOOKED_UP_MAX = 500
# State, status, whether it redirects (by status or refresh), whether it has a document, whether its answer is not whole, whether it may be indexed.
Known = tuple[int, int | None, bool, bool, bool, bool]
_KNOWN = "state, status, redirect_id, words IS NOT NULL, failure, why_not"


def _known(row: tuple[Any, ...]) -> Known:
    state, status, redirect, has_page, failure, why_not = row
    return (
        state,
        status,
        redirect is not None or why_not == WhyNot.REFRESH,
        bool(has_page),
        bool(failure),
        why_not == WhyNot.INDEXABLE,
    )


@dataclass(frozen=True, slots=True)
class Unreached:
    """What a run with ``plan`` found and no run since can speak of, as none reached as much as that plan.

    ``subjects`` were met by none; ``fingerprints`` are of checks that look across pages, such as those for titles in common.
    """

    plan: Plan
    subjects: frozenset[str]
    fingerprints: frozenset[bytes]

    def __bool__(self) -> bool:
        return bool(self.subjects or self.fingerprints)


@dataclass(frozen=True, slots=True)
class Hidden:
    """What a run does not know without being able to say that it is gone.

    ``pages``: the pages that used to lead to them could not be read (``behind``). ``unreached``: the run did not go as far as the
    one that knew them, because it was cut short or its plan is narrower.
    """

    pages: frozenset[str] = frozenset()
    behind: frozenset[str] = frozenset()
    unreached: tuple[Unreached, ...] = ()

    def covers(self, subject: str) -> bool:
        """Whether a subject that the run does not know may be there all the same."""
        return subject in self.pages or any(subject in group.subjects for group in self.unreached)

    def clouds(self, fingerprint: bytes) -> bool:
        """Whether a place passes perhaps only because the run has seen less of the site."""
        return any(fingerprint in group.fingerprints for group in self.unreached)

    def stored(self) -> str:
        """As JSON, for the run file."""
        unreached = [
            {"plan": STORED.dump(g.plan), "subjects": sorted(g.subjects), "fingerprints": sorted(f.hex() for f in g.fingerprints)}
            for g in self.unreached
        ]
        return json.dumps({"pages": sorted(self.pages), "behind": sorted(self.behind), "unreached": unreached})

    @classmethod
    def read(cls, stored: str) -> Hidden:
        """From what :meth:`stored` gave, of this release or one before it."""
        found = json.loads(stored)
        unreached = (
            Unreached(STORED.load(g["plan"]), frozenset(g["subjects"]), frozenset(map(bytes.fromhex, g["fingerprints"])))
            for g in found.get("unreached", [])
        )
        return cls(frozenset(found["pages"]), frozenset(found["behind"]), tuple(unreached))


@dataclass(frozen=True, slots=True)
class CheckUsed:
    """A check as a run used it. ``limits`` are those in force, as JSON."""

    state: str
    needs: str
    revision: int
    limits: str

    @property
    def rule(self) -> str:
        """What must be equal for two runs to judge alike."""
        return f"{self.revision} {self.limits}"


class Sights:
    """Answers for one run. Checks are asked for by the ids they have or had.

    ``complete``: all that the plan reaches was reached, so that an unknown URL is linked and listed nowhere, unless it is
    hidden: behind pages that could not be read, or beyond what this plan reaches. ``base`` is the run it is compared with;
    without one, what the run file says of hidden URLs counts.
    """

    def __init__(
        self,
        db: sqlite3.Connection,
        complete: bool,
        base: sqlite3.Connection | None = None,
        catalogue: Catalogue | None = None,
    ) -> None:
        self.complete = complete
        self._db = db
        self._catalogue = catalogue or load()
        self._addresses: dict[str, Known] | None = None
        self._unverified: set[bytes] | None = None
        self.checks: dict[str, CheckUsed] = {
            self._catalogue.current(check): CheckUsed(state, needs, revision, limits)
            for check, state, needs, revision, limits in db.execute("SELECT id, state, needs, revision, limits FROM check_state")
        }
        self._asked = 0
        self.hidden = self._stored(db) if base is None else self.hidden_since(base)

    def _known(self, url: str) -> Known | None:
        """What the run knows of one of its pages or files. Looked up one by one at first; who asks for many has them all in memory."""
        if self._addresses is not None:
            return self._addresses.get(url)
        self._asked += 1
        if self._asked > LOOKED_UP_MAX:
            alike: dict[tuple[Any, ...], Known] = {}  # few differ, so that a large site takes little more than its URLs
            self._addresses = {}
            for found, *row in self._db.execute(f"SELECT url, {_KNOWN} FROM inventory WHERE role < 2"):
                known = _known(tuple(row))
                self._addresses[found] = alike.setdefault(known, known)
            return self._addresses.get(url)
        row = self._db.execute(
            f"SELECT {_KNOWN} FROM inventory WHERE id = (SELECT id FROM address WHERE url = ?) AND role < 2", (url,)
        ).fetchone()
        return _known(row) if row else None

    def state_of(self, url: str) -> int | None:
        """The state of a page or file, as the schema numbers it; ``None`` when the run does not know it."""
        known = self._known(url)
        return known[0] if known else None

    @staticmethod
    def _stored(db: sqlite3.Connection) -> Hidden:
        row = db.execute("SELECT value FROM meta WHERE key = 'hidden'").fetchone()
        return Hidden.read(row[0]) if row else Hidden()

    def _reached(self, url: str) -> bool:
        """Whether the run came to a URL, be it that robots.txt blocks it."""
        return self.state_of(url) in (schema.DONE, schema.DISALLOWED)

    def _unreadable(self, url: str) -> bool:
        known = self._known(url)
        if known is None:
            return False
        state, status, _, _, cut, _ = known
        return state != schema.DONE or status is None or cut or (status >= 400 and status not in (404, 410))

    def hidden_since(self, base: sqlite3.Connection) -> Hidden:
        """What this run could not see of what ``base`` knew."""
        before = self._stored(base)
        return replace(self._behind(base, before), unreached=tuple(self._unreached(base, before)))

    def _unreached(self, base: sqlite3.Connection, before: Hidden) -> Iterator[Unreached]:
        """What ``base`` or a run before it had findings on, as long as this run does not reach as much as the run that knew it."""
        own, base_plan = RunFile(self._db).plan, RunFile(base).plan
        if self.complete and not any(narrowed(plan, own) for plan in (base_plan, *(group.plan for group in before.unreached))):
            return
        subjects, fingerprints = set(), set()
        across = {entry.id for entry in self._catalogue.values() if entry.check.across_pages}
        for fingerprint, check, subject in base.execute(
            "SELECT fingerprint, check_id, subject FROM history WHERE state IN ('open', 'unverified')"
        ):
            if subject != SITE and not self._reached(subject):
                if not before.covers(subject):
                    subjects.add(subject)
            elif self._catalogue.current(check) in across and not before.clouds(fingerprint):
                fingerprints.add(fingerprint)
        for group in (*before.unreached, Unreached(base_plan, frozenset(subjects), frozenset(fingerprints))):
            if not self.complete or narrowed(group.plan, own):
                left = Unreached(
                    group.plan,
                    frozenset(s for s in group.subjects if not self._reached(s)),
                    frozenset(f for f in group.fingerprints if self.found(f) is None),
                )
                if left:
                    yield left

    def _behind(self, base: sqlite3.Connection, before: Hidden) -> Hidden:
        """Pages linked only from pages that this run could not read, or from such as are hidden themselves. What was hidden
        already stays so until one of those can be read."""
        documents = {url for (url,) in base.execute("SELECT url FROM inventory WHERE words IS NOT NULL")}
        behind = frozenset(url for url in documents | before.behind if self._unreadable(url))
        if not behind:
            return Hidden()
        hidden = {url for url in before.pages if self._known(url) is None} if behind & before.behind else set()
        urls = dict(base.execute("SELECT id, url FROM address WHERE role = 0"))
        unknown = {
            urls[target]: [urls[i] for i in unpack_ids(blob) if i in urls]
            for target, blob in base.execute("SELECT target_id, sources FROM inlink")
            if target in urls and self._known(urls[target]) is None
        }
        grown = True
        while grown:
            found = {
                url for url, sources in unknown.items() if url not in hidden and any(s in behind or s in hidden for s in sources)
            }
            hidden |= found
            grown = bool(found)
        return Hidden(frozenset(hidden), behind)

    def rule_of(self, check: str) -> str:
        """What decided about findings of a check: its revision and limits; empty when the run did not have the check."""
        used = self.checks.get(self._catalogue.current(check))
        return used.rule if used else ""

    def found(self, fingerprint: bytes) -> bool | None:
        """Whether a finding is there and waived (``True``) or open (``False``); ``None`` when it is not."""
        row = self._db.execute("SELECT waived FROM finding WHERE fingerprint = ?", (fingerprint,)).fetchone()
        return bool(row[0]) if row else None

    def _is_unverified(self, fingerprint: bytes) -> bool:
        if self._unverified is None:
            self._unverified = {fp for (fp,) in self._db.execute("SELECT fingerprint FROM unverified")}
        return fingerprint in self._unverified

    def of(self, fingerprint: bytes, check: str, subject: str) -> Sight:
        """The sight of one (check, subject, place), given by its fingerprint."""
        waived = self.found(fingerprint)
        return Sight(True, waived) if waived is not None else self.of_missing(fingerprint, check, subject)

    def of_missing(self, fingerprint: bytes, check: str, subject: str) -> Sight:
        """The sight of what the run is known not to have found."""
        used = self.checks.get(self._catalogue.current(check), CheckUsed("absent", "", 0, ""))
        clouded = self.hidden.clouds(fingerprint)
        examined = used.state == "on" and not self._is_unverified(fingerprint) and not clouded
        if subject == SITE:
            return Sight(False, known=True, examined=examined)
        known = self._known(subject)
        if known is None:
            return Sight(False, known=False, examined=False, gone=self.complete and not self.hidden.covers(subject))
        address_state, status, redirects, has_page, cut, indexable = known
        done = address_state == schema.DONE
        document = done and status == 200 and has_page and not cut and not redirects
        gone = not clouded and (status in (404, 410) or (redirects and used.needs in ("document", "indexable")))
        if used.needs == "indexable":
            # A page that may not be indexed any more is gone for a check that is about those which may.
            seen, gone = document and indexable, gone or (not clouded and document and not indexable)
        elif used.needs == "document":
            seen = document
        elif used.needs == "answer":
            seen = done and status is not None
        else:
            seen = address_state in (schema.DONE, schema.DISALLOWED)
        return Sight(False, known=True, examined=examined and seen, gone=gone)


def has_changed(check: str, base: Sights, head: Sights) -> bool:
    """Whether a check's revision or limits differ between two runs that both had it, or it was retired since the first."""
    before, after = base.rule_of(check), head.rule_of(check)
    return bool(before) and before != after
