"""A page looked at again now: what has changed since the last run, without touching it."""

from __future__ import annotations

import threading
from collections.abc import Iterator

import pytest

from hodcarrier.client import RequestFailed
from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.comparisons import LookBody
from hodcarrier.wire.pages import LooksBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from hodcarrier.wire.waivers import WaiverBody
from tests.running import LocalSite, Service, local_site

FULL = "<title>A title of some length</title><meta name=description content='What it is'>"


@pytest.fixture(scope="module")
def audited(service: Service) -> Iterator[tuple[LocalSite, int]]:
    with (
        local_site(
            page(doc('<h1>Front</h1><a href="/a">A</a><a href="/gone">gone</a>', FULL)),
            page(doc('<h1>A</h1><a href="/gone">gone</a><a href="/">up</a>', "<title>Another title here</title>"), "/a"),
            gone("/gone"),
        ) as site,
        service.client() as desk,
    ):
        client = desk.add_client(ClientBody(name="Looked at"))
        made = desk.add_site(
            SiteBody(client_id=client.id, address=site.address, plan={"private_addresses": ["127.0.0.0/8"], "rate_per_s": 500})
        )
        desk.wait_for_run(desk.start_run(made.id).id, every_s=0.1)
        yield site, made.id


def classes(service: Service, audited: tuple[LocalSite, int], path: str) -> dict[str, str]:
    site, number = audited
    with service.client() as desk:
        return {f.check: f.change for f in desk.look_at_page(number, LookBody(url=site.address + path)).findings}


def test_nothing_changed(service: Service, audited: tuple[LocalSite, int]) -> None:
    found = classes(service, audited, "a")
    assert found["desc-missing"] == found["link-broken"] == "still-there"
    assert set(found.values()) <= {"still-there", "unverified"}


def test_what_was_mended_and_what_broke(service: Service, audited: tuple[LocalSite, int]) -> None:
    site, number = audited
    before = site.samples["/a"]
    asked = len(site.asked)
    try:
        site.samples["/a"] = page(doc("<h1></h1>", FULL.replace("A title", "One title")), "/a")
        with service.client() as desk:
            run = desk.get_run(f"latest-{number}")
            found = desk.look_at_page(number, LookBody(url=site.address + "a"))
            assert desk.get_run(f"latest-{number}") == run, "the run stays as it is"
        classed = {f.check: f.change for f in found.findings}
        assert classed["desc-missing"] == classed["link-broken"] == "fixed"
        assert classed["text-h1-empty"] == "new"
        assert {"title", "description", "h1"} <= {c.field for c in found.changes}
        assert found.run_id == run.id
        assert sorted(site.asked[asked:]) == ["/a", "/robots.txt"], "nothing else is fetched"
    finally:
        site.samples["/a"] = before


def test_a_page_that_is_gone_now(service: Service, audited: tuple[LocalSite, int]) -> None:
    site, _ = audited
    before = site.samples.pop("/a")
    try:
        found = classes(service, audited, "a")
    finally:
        site.samples["/a"] = before
    assert found["reach-not-found"] == "new" and found["desc-missing"] == "gone-with-page"


def test_an_address_of_another_site_is_refused(service: Service, audited: tuple[LocalSite, int]) -> None:
    with service.client() as desk, pytest.raises(RequestFailed, match="is not on"):
        desk.look_at_page(audited[1], LookBody(url="https://elsewhere.example/"))


def test_progress_is_told_until_the_run_has_ended(service: Service, audited: tuple[LocalSite, int]) -> None:
    site, number = audited
    go_on = threading.Event()

    def hold_pages(number: int) -> None:
        if site.asked[number - 1] in ("/", "/a", "/gone"):
            go_on.wait(15)

    site.on_request = hold_pages
    states = []
    with service.client() as desk:
        for run in desk.watch_run(desk.start_run(number).id):
            states.append(run.state)
            if run.progress:
                assert run.progress.pages_done == 0 or go_on.is_set()
                go_on.set()
        assert go_on.is_set() and states[0] in ("queued", "crawling") and states[-1] == "done"
        with pytest.raises(RequestFailed, match="no run"):
            list(desk.watch_run("nothing"))


def make_todo(service: Service, number: int, check: str) -> int:
    with service.client() as desk:
        return desk.add_todo(TodoBody(site_id=number, check=check)).id


def check(service: Service, todo: int) -> tuple[str, int, str]:
    with service.client() as desk:
        found = desk.check_todo(todo)
        return found.state, found.cleared, found.events[-1].text


def test_a_to_do_is_checked_now(service: Service, audited: tuple[LocalSite, int]) -> None:
    site, number = audited
    todo = make_todo(service, number, "link-broken")
    front, there = site.samples["/"], site.samples["/a"]
    try:
        assert check(service, todo) == ("open", 0, "Checked now. 2 places still there.")
        site.samples["/a"] = page(doc("<h1>A</h1>", FULL), "/a")
        assert check(service, todo) == ("open", 1, "Checked now. 1 of 2 places cleared.")
        # The page still links to it, and what it leads to is there again: that must be fetched, not taken from the last run.
        site.samples["/gone"] = page(doc("<h1>Back</h1>", FULL), "/gone")
        state, cleared, said = check(service, todo)
        assert (state, cleared) == ("confirmed", 2) and said.startswith("Checked now. Confirmed: all 2 places passed.")
        with service.client() as desk, pytest.raises(RequestFailed, match="is confirmed"):
            desk.check_todo(todo)
    finally:
        site.samples.update({"/": front, "/a": there, "/gone": gone("/gone")})


def test_what_one_page_cannot_tell_stays_unverified(service: Service, audited: tuple[LocalSite, int]) -> None:
    _, number = audited
    with service.client() as desk:
        checks = {row.id: row.subject for row in desk.list_checks(f"latest-{number}") if row.findings}
        whole = next(name for name, subject in checks.items() if subject == "site")
        by_hand = desk.add_todo(TodoBody(site_id=number, title="Ring the printer")).id
    state, cleared, said = check(service, make_todo(service, number, whole))
    assert (state, cleared) == ("open", 0) and "could not be examined" in said
    with service.client() as desk, pytest.raises(RequestFailed, match="by hand"):
        desk.check_todo(by_hand)


def test_a_page_that_is_gone_takes_its_faults_with_it(service: Service, audited: tuple[LocalSite, int]) -> None:
    site, number = audited
    todo = make_todo(service, number, "desc-missing")
    before = site.samples.pop("/a")
    try:
        state, cleared, _ = check(service, todo)
        assert (state, cleared) == ("confirmed", 1), "the page is gone, and its fault with it"
    finally:
        site.samples["/a"] = before


def test_a_waiver_holds_for_a_look_too(service: Service, audited: tuple[LocalSite, int]) -> None:
    site, number = audited
    with service.client() as desk:
        waiver = desk.add_waiver(number, WaiverBody(check="desc-missing", reason="Meant so"))
        found = {f.check: (f.change, f.waived) for f in desk.look_at_page(number, LookBody(url=site.address + "a")).findings}
        desk.remove_waiver(waiver.id)
    assert found["desc-missing"] == ("waived", True)


def test_several_pages_are_looked_at_and_one_that_cannot_be_stops_none(service: Service, audited: tuple[LocalSite, int]) -> None:
    site, site_id = audited
    with service.client() as desk:
        found = desk.look_at_pages(
            site_id, LooksBody(urls=[f"{site.address}a", "https://elsewhere.example/", f"{site.address}gone"])
        )
        assert [row.status for row in found] == [200, None, 404]
        assert [bool(row.error) for row in found] == [False, True, False]
        assert found[0].still > 0 and found[0].changed == []
        with pytest.raises(RequestFailed, match="Choose 1 to 25"):
            desk.look_at_pages(site_id, LooksBody(urls=[]))
