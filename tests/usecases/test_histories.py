"""A finding and a page over the runs of a site: what each saw, what it could not see, and what changed."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, page, text_file
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.register.models import Member, Run
from hodcarrier.runfile import results
from hodcarrier.usecases import histories, plans, waivers
from hodcarrier.usecases.workspace import latest_run_id
from hodcarrier.wire.waivers import WaiverBody
from tests.usecases.conftest import START, Office

WEEK = timedelta(weeks=1)
URL = "https://shop.example/1"


def site(
    title: str = "First page", broken: bool = True, there: bool = True, blocked: bool = False, words: int = 0
) -> list[Sample]:
    link = '<a href="/gone">old</a>' if broken else ""
    text = " ".join(["rope"] * words)
    pages = [page(doc('<a href="/1">1</a><h1>Start</h1>'), "/")]
    if there and not blocked:
        pages.append(page(doc(f"<h1>One</h1>{link}<p>{text}</p>", f"<title>{title}</title>"), "/1"))
    rules = "Disallow: /1\n" if blocked else "Disallow:\n"
    return [*pages, *([] if there else [gone("/1")]), gone("/gone"), text_file("/robots.txt", f"User-agent: *\n{rules}")]


def fingerprint(office: Office, check: str = "link-broken") -> str:
    with office.work.reading() as session:
        latest = latest_run_id(session, office.site.id)
    with office.work.open_run(latest) as run:
        return str(results.findings(run, check_id=check)[0]["fingerprint"])


def seen(office: Office, wanted: str) -> list[str]:
    found = histories.finding_history(office.work, office.site.id, wanted)
    return [str(sight.seen) for sight in reversed(found.runs)]


def test_a_finding_is_found_gone_and_back(office: Office) -> None:
    office.audit(START, site(broken=False))
    office.audit(START + WEEK, site())
    wanted = fingerprint(office)
    for week, state in enumerate([{"broken": False}, {}, {"blocked": True}, {"there": False}, {}], 2):
        office.audit(START + week * WEEK, site(**state))
    assert seen(office, wanted) == ["open", "passed", "open", "unverified", "gone", "open"], "from the first run that had it"
    found = histories.finding_history(office.work, office.site.id, wanted)
    assert (found.check, found.subject, found.times_returned, found.more) == ("link-broken", URL, 1, 0)
    assert (found.first_seen, found.last_seen) == (START + WEEK, START + 6 * WEEK)
    assert [sight.at for sight in found.runs] == sorted((sight.at for sight in found.runs), reverse=True)


def test_a_waived_finding_is_found_all_the_same(office: Office) -> None:
    office.audit(START, site())
    wanted = fingerprint(office)
    waivers.add_waiver(office.at(START), office.site.id, WaiverBody(check="link-broken", reason="Meant so"), None)
    office.audit(START + WEEK, site())
    assert seen(office, wanted)[-1] == "waived"


def test_a_changed_rule_is_told(office: Office) -> None:
    office.audit(START, site(words=5))
    wanted = fingerprint(office, "text-thin")
    plans.change_plan(office.work, office.site.id, {"thresholds": {"words_min": 300}}, None, Member(id=None, name=""))
    office.audit(START + WEEK, site(words=5))
    found = histories.finding_history(office.work, office.site.id, wanted)
    assert [sight.rule_changed for sight in found.runs] == [True, False]


def test_the_beginning_of_a_fingerprint_will_do(office: Office) -> None:
    office.audit(START, site())
    wanted = fingerprint(office)
    assert histories.finding_history(office.work, office.site.id, wanted[:10]).fingerprint == wanted
    with pytest.raises(NotFound, match="No run of this site had a finding"):
        histories.finding_history(office.work, office.site.id, "ff" * 16)
    with pytest.raises(InvalidInput, match="no fingerprint"):
        histories.finding_history(office.work, office.site.id, "xyz")


def test_several_that_begin_alike_are_told_apart(office: Office) -> None:
    run = office.audit(START, site())
    with office.work.open_run(run) as opened:
        prints = [row["fingerprint"] for row in results.findings(opened)]
    first = prints[0][:8]
    path = office.work.store.whole_path(run)
    path.chmod(0o644)
    with closing(sqlite3.connect(path)) as db, db:
        db.execute(
            "UPDATE finding SET fingerprint = ? WHERE fingerprint = ?",
            (bytes.fromhex(first + "00" * 12), bytes.fromhex(prints[1])),
        )
    with pytest.raises(Conflict, match="Several findings begin with"):
        histories.finding_history(office.work, office.site.id, first)


def test_a_page_over_the_runs_says_what_changed(office: Office) -> None:
    office.audit(START, [page(doc("<h1>Start</h1>"), "/")])
    states = [{}, {"title": "Another title"}, {"blocked": True}, {"title": "Another title", "words": 400}, {"there": False}]
    for week, state in enumerate(states, 1):
        office.audit(START + week * WEEK, site(**state))
    found = histories.page_history(office.work, office.site.id, URL + "#there")
    rows = list(reversed(found.runs))
    assert [row.known for row in rows] == [False, True, True, True, True, True]
    assert [row.status for row in rows] == [None, 200, 200, None, 200, 404]
    assert [row.changed for row in rows] == [[], [], ["title"], ["why_not"], ["why_not", "words"], ["status", "why_not"]]
    assert rows[3].why_not == "disallowed" and rows[3].title is None
    assert all(row.findings is not None for row in rows[1:])


def test_a_page_that_no_run_knows_is_said_so(office: Office) -> None:
    office.audit(START, site())
    with pytest.raises(NotFound, match="No run of this site knows"):
        histories.page_history(office.work, office.site.id, "https://shop.example/none")


def test_runs_without_a_file_and_before_the_limit_are_counted(office: Office) -> None:
    ids = [office.audit(START + week * WEEK, site()) for week in range(4)]
    wanted = fingerprint(office)
    office.work.store.whole_path(ids[1]).write_bytes(b"nothing that could be read" * 100)
    found = histories.finding_history(office.work, office.site.id, wanted, limit=3)
    assert [sight.run_id for sight in found.runs] == [ids[3], ids[2]] and found.more == 2
    with office.work.session() as session:
        session.get_one(Run, ids[2]).file = "removed"
    assert histories.page_history(office.work, office.site.id, URL).more == 2
