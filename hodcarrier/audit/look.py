"""One page looked at again now: fetched, examined, and set against the last run, which stays as it is.

The page is crawled into a small run of its own in memory. What the last run knows of the URLs it refers to is borrowed, so
that its links can be judged without fetching them.
"""

from __future__ import annotations

import asyncio
import sqlite3
from collections import Counter
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import datetime

from hodcarrier.audit.audit import audit
from hodcarrier.core.errors import DamagedRun, HodcarrierError, InvalidInput, NotFound
from hodcarrier.core.judge.compare import classify
from hodcarrier.core.plan import Plan, plan_values
from hodcarrier.core.scope import Scope
from hodcarrier.core.states import NEW_CHANGES, Change
from hodcarrier.core.web.urls import read_address
from hodcarrier.crawl.fetch import Access
from hodcarrier.examine.views import Neighbourhood
from hodcarrier.runfile import results, schema
from hodcarrier.runfile.packing import unpack_ids
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights, has_changed
from hodcarrier.runfile.writer import RunWriter
from hodcarrier.usecases import plans, waiver_scopes
from hodcarrier.usecases.workspace import Workspace, latest_run_id
from hodcarrier.wire.comparisons import LookFinding, LookOut, PageChange
from hodcarrier.wire.pages import LookBrief
from hodcarrier.wire.results import PageOut

SECONDS_MAX = 60
PAGES_MAX = 25
COMPARED = ("status", "title", "description", "h1", "canonical", "words", "why_not")


@dataclass(frozen=True)
class Looked:
    """The small run of a page, with the last run of its site beside it."""

    run: RunFile
    url: str
    base: RunFile | None


def look(work: Workspace, site_id: int, address: str) -> LookOut:
    """Look at one page of a site. Raises :class:`InvalidInput` for a URL that is not of the site, and when its host does not answer."""
    plan = plans.get_plan(work, site_id).values
    scope = Scope.of(plan)
    url = scope.identity(read_address(address))
    if not scope.on_site(url):
        raise InvalidInput(f"{url} is not on {plan.host}.", "Give an address of this site.", "url")
    with last_run(work, site_id) as (run_id, base), looked_at(work, site_id, plan, url, base) as looked:
        moment = None
        if base is not None:
            moment = datetime.fromisoformat(base.meta("started_at") or base.meta("finished_at"))
        return _answer(looked, run_id, moment)


def look_at_several(work: Workspace, site_id: int, addresses: Sequence[str]) -> list[LookBrief]:
    """Look at several pages of a site, one after the other; one that cannot be looked at stops none of the others. Raises :class:`InvalidInput` for more than
    :data:`PAGES_MAX`."""
    wanted = list(dict.fromkeys(addresses))
    if not 1 <= len(wanted) <= PAGES_MAX:
        raise InvalidInput(f"{len(wanted)} pages are chosen.", f"Choose 1 to {PAGES_MAX}, or run an audit.", "urls")
    return [_brief(work, site_id, address) for address in wanted]


def _brief(work: Workspace, site_id: int, address: str) -> LookBrief:
    try:
        found = look(work, site_id, address)
    except HodcarrierError as error:
        return LookBrief(url=address, error=str(error))
    counts = Counter(finding.change for finding in found.findings)
    new = sum(counts[change] for change in (*NEW_CHANGES, Change.RETURNED))
    return LookBrief(
        url=found.page.url,
        status=found.page.status,
        changed=[change.field for change in found.changes],
        fixed=counts[Change.FIXED],
        new=new,
        still=counts[Change.STILL_THERE],
        unverified=counts[Change.UNVERIFIED],
        error=found.page.failure,
    )


@contextmanager
def last_run(work: Workspace, site_id: int) -> Iterator[tuple[str | None, RunFile | None]]:
    """The latest run of a site, if there is one that can be read."""
    try:
        with work.reading() as session:
            run_id = latest_run_id(session, site_id)
        base = work.open_run(run_id)
    except (NotFound, DamagedRun):
        yield None, None
        return
    with base:
        yield run_id, base


@contextmanager
def looked_at(
    work: Workspace, site_id: int, plan: Plan, url: str, base: RunFile | None, also: Sequence[str] = ()
) -> Iterator[Looked]:
    """Fetch and examine one page, and fetch ``also`` what it refers to, so that this need not be borrowed from the last run. Raises
    :class:`InvalidInput` when its host does not answer."""
    alone = replace(
        plan,
        start=(url, *also),
        use_links=False,
        use_sitemaps=False,
        sitemaps=(),
        addresses=(),
        check_files=False,
        check_external=False,
        pages_max=1 + len(also),
        time_max_s=SECONDS_MAX,
    )
    opened = plans.open_access(work, site_id)
    writer = RunWriter.create(":memory:", {"plan": plan_values(alone), "run_id": "look"})
    try:
        audited = asyncio.run(
            audit(
                writer,
                alone,
                work.now,
                access=Access(**opened) if opened else None,
                waivers=waiver_scopes.waivers_in_force(work, site_id),
                open_base=lambda: base.again() if base is not None else None,
                prepare=lambda written: _borrow(written.db, url, base) if base is not None else None,
                probe=False,
                inspect=True,
            )
        )
        if audited.failed:
            raise InvalidInput(f"The page cannot be looked at: {audited.failed}", "Check the address, or try again later.", "url")
        writer.db.execute("DELETE FROM inlink")  # the ids in it are those of the last run
        yield Looked(RunFile(writer.db), url, base)
    finally:
        writer.close()


def _borrow(db: sqlite3.Connection, url: str, base: RunFile) -> Neighbourhood | None:
    """Give the URLs that the page refers to the outcome they had in the last run; gives where the page stood in it."""
    known = {other: row for row, other in db.execute("SELECT id, url FROM address WHERE state != ?", (schema.DONE,))}
    for other, row in known.items():
        found = base.rows(
            "SELECT a.role, a.state, n.status, n.failure, t.url FROM address a LEFT JOIN answer n ON n.address_id = a.id"
            " LEFT JOIN address t ON t.id = n.redirect_id WHERE a.url = ?",
            other,
        )
        if not found:
            continue
        role, state, status, failure, target = found[0]
        db.execute("UPDATE address SET role = ?, state = ? WHERE id = ?", (role, state, row))
        if state == schema.DONE and failure is not None:
            values = (row, status, failure, "", "", "", 0, 0, 0.0, 0.0, known.get(target), "", b"\x90", "")
            db.execute("INSERT OR IGNORE INTO answer VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?)", values)
    db.commit()
    there = base.address_id(url)
    if there is None:
        return None
    sources = base.rows("SELECT sources FROM inlink WHERE target_id = ?", there)
    depth, found_by = base.rows("SELECT depth, found_by FROM address WHERE id = ?", there)[0]
    listed = bool(base.rows("SELECT 1 FROM listed WHERE address_id = ?", there))
    return Neighbourhood(url, unpack_ids(sources[0][0]) if sources else [], listed, depth, found_by)


def _answer(looked: Looked, run_id: str | None, run_at: datetime | None) -> LookOut:
    page = results.page(looked.run, looked.url)
    now = {row["fingerprint"]: row for row in page["findings"]}
    before = {}
    changes: list[PageChange] = []
    if looked.base is not None and looked.base.address_id(looked.url) is not None:
        old = results.page(looked.base, looked.url)
        page["links_in"] = old["links_in"]
        before = {row["fingerprint"]: row for row in old["findings"] if row["subject"] == looked.url}
        changes = [
            PageChange(url=looked.url, field=name, base=_shown(old[name]), head=_shown(page[name]))
            for name in COMPARED
            if old[name] != page[name]
        ]
    sights_now = Sights(looked.run.db, complete=False)
    sights_before = Sights(looked.base.db, complete=False) if looked.base is not None else None
    findings = []
    for fingerprint, row in {**before, **now}.items():
        key = bytes.fromhex(fingerprint)
        sight = sights_now.of(key, row["check"], row["subject"])
        if sights_before is None:
            change = Change.NEW
        else:
            before_sight = sights_before.of(key, row["check"], row["subject"])
            change = classify(before_sight, sight, False, has_changed(row["check"], sights_before, sights_now))
        if change == Change.FIXED and not judged_alone(looked, row["check"]):
            change = Change.UNVERIFIED
        findings.append(LookFinding(change=change, **row))
    return LookOut(page=PageOut(**page), run_id=run_id, run_at=run_at, changes=changes, findings=findings)


def judged_alone(looked: Looked, check: str) -> bool:
    """Whether a check can pass on one page alone; groups, files and the site need the whole run."""
    found = looked.run.rows("SELECT subject FROM check_state WHERE id = ?", check)
    return bool(found) and found[0][0] == "page"


def _shown(value: object) -> str:
    return "none" if value in (None, "") else str(value)
