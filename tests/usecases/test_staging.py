"""A staging host is compared with the live one by path."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import Sample, doc, page
from hodcarrier.core.errors import RunMismatch
from hodcarrier.core.plan import Plan
from hodcarrier.core.states import Change
from hodcarrier.runfile.moved import mover
from hodcarrier.usecases import clients, comparisons, sites
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.comparisons import ComparisonOut
from hodcarrier.wire.sites import SiteBody
from tests.usecases.conftest import START, Office

LIVE, STAGING = "https://shop.example", "https://staging.shop.example"
DAY = timedelta(days=1)
HEAD = "<title>A title of some length</title><meta name=description content='What it is'>"


def pages(origin: str, *, broken: int = 1, described: bool = True) -> list[Sample]:
    head = HEAD if described else "<title>A title of some length</title>"
    links = "".join(f'<a href="{origin}/gone-{n}">old</a>' for n in range(broken))
    return [
        page(doc(f'<h1>Shop</h1><a href="/a">a</a>{links}', HEAD), f"{origin}/" if origin != LIVE else "/"),
        page(doc("<h1>A</h1><img src=/x.png>", head), f"{origin}/a" if origin != LIVE else "/a"),
    ]


@pytest.fixture
def staging(office: Office) -> Office:
    made = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address=f"{STAGING}/"), None)
    return replace(office, site=made)


def compare(office: Office, staging: Office, **more: object) -> ComparisonOut:
    live = office.audit(START, pages(LIVE))
    new = staging.audit(START + DAY, pages(STAGING, **more))  # type: ignore[arg-type]
    return comparisons.compare_runs(office.work, live, new)


def counts(found: ComparisonOut) -> dict[Change, int]:
    return {change: number for change, number in found.counts.items() if number}


def test_the_same_site_on_another_host_is_the_same(office: Office, staging: Office) -> None:
    found = compare(office, staging)
    assert (found.base_host, found.head_host) == ("shop.example", "staging.shop.example")
    assert set(counts(found)) == {Change.STILL_THERE} and found.reconciles, counts(found)
    assert (found.page_changes_total == 0 and found.lists == {}) or not any(found.lists.values())
    assert found.base_health == pytest.approx(found.head_health)


def test_what_the_release_changes_is_told(office: Office, staging: Office) -> None:
    found = compare(office, staging, broken=3, described=False)
    new = {(f.check, f.subject) for f in found.findings if f.change == Change.NEW}
    assert ("link-broken", f"{STAGING}/") in new and ("desc-missing", f"{STAGING}/a") in new
    assert found.reconciles and found.health_change is not None and found.health_change < 0


def test_what_it_cures_keeps_the_address_where_it_was_found(office: Office, staging: Office) -> None:
    found = compare(office, staging, broken=0)
    cured = [f for f in found.findings if f.change == Change.FIXED and f.check == "link-broken"]
    assert [(f.subject, f.place) for f in cured] == [(f"{LIVE}/", f"{LIVE}/gone-0")]


def test_the_run_itself_stays_as_it_was(office: Office, staging: Office) -> None:
    compare(office, staging)
    names = sorted(path.suffix for path in office.work.store.whole_path("x").parent.iterdir())
    assert ".moved" not in names
    live = comparisons.compare_runs(office.work, *(r for r in (office.audit(START + 2 * DAY, pages(LIVE)),) * 2))
    assert live.findings and not any(STAGING in f.subject + f.place for f in live.findings)


def test_sites_of_two_clients_are_not_compared(office: Office) -> None:
    other = clients.add_client(office.work, ClientBody(name="Kiln"), None)
    foreign = replace(office, site=sites.add_site(office.work, SiteBody(client_id=other.id, address=f"{STAGING}/"), None))
    with pytest.raises(RunMismatch, match="another client"):
        compare(office, foreign)


@pytest.mark.parametrize(
    ("base", "head", "text", "moved"),
    [
        ("https://a.example/", "https://b.example/", "https://a.example/x", "https://b.example/x"),
        ("https://a.example/", "https://b.example/", "http://a.example", "http://b.example"),
        ("https://a.example/", "http://b.example/", "https://a.example/ http://a.example/", "http://b.example/ https://b.example/"),
        ("https://a.example/", "https://b.example/", "https://a.example.org/ https://a.example-x/", "https://a.example.org/ https://a.example-x/"),
        ("https://a.example/", "https://b.example:8443/", "de https://a.example/de?x=1", "de https://b.example:8443/de?x=1"),
        ("https://a.example/", "https://b.example/", "A title about a.example", "A title about a.example"),
    ],
)  # fmt: skip
def test_only_urls_of_the_host_move(base: str, head: str, text: str, moved: str) -> None:
    assert mover(Plan((base,)), Plan((head,)))(text) == moved
