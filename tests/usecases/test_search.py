"""Search: what is found, in which order, and what a broken run file does to it."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import doc, page
from hodcarrier.usecases import sites
from hodcarrier.usecases.search import search
from hodcarrier.usecases.todos import add_todo
from hodcarrier.wire.search import HitKind
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from tests.usecases.conftest import START, Office

SHOP = [
    page(doc('<h1>Shop</h1><a href="/rope_and_line">rope</a><a href="/ropes">all</a>', "<title>The shop</title>")),
    page(doc("<h1>Rope</h1>", "<title>Rope and line, 100% hemp</title>"), "/rope_and_line"),
    page(doc("<h1>Ropes</h1>", "<title>All we twist</title>"), "/ropes"),
]


def names(office: Office, text: str, limit: int = 20) -> list[tuple[HitKind, str]]:
    return [(hit.kind, hit.name) for hit in search(office.work, text, limit)]


def test_sites_clients_pages_checks_and_to_dos_are_found_by_a_part_of_their_name(office: Office) -> None:
    office.audit(START, SHOP)
    todo = add_todo(office.work, TodoBody(site_id=office.site.id, title="Ring the rope maker"), None)
    found = search(office.work, "rope")
    assert (HitKind.TODO, "Ring the rope maker") in [(h.kind, h.name) for h in found]
    assert next(h.link for h in found if h.kind == HitKind.TODO) == f"/todos/{todo.id}"
    by_page = {h.name: h.link for h in found if h.kind == HitKind.PAGE}
    assert set(by_page) == {"Rope and line, 100% hemp", "All we twist"}
    assert all(link.startswith(f"/sites/{office.site.id}/page?url=https%3A%2F%2F") for link in by_page.values())
    assert (HitKind.SITE, office.site.host) in names(office, office.site.host)
    assert names(office, "link-broken")[0][0] == HitKind.CHECK


def test_every_word_must_be_there(office: Office) -> None:
    office.audit(START, SHOP)
    assert (HitKind.PAGE, "Rope and line, 100% hemp") in names(office, "hemp rope")
    assert names(office, "hemp anchor") == []


@pytest.mark.parametrize("text", ["", "   "])
def test_nothing_asked_for_finds_nothing(office: Office, text: str) -> None:
    assert search(office.work, text) == []


@pytest.mark.parametrize(("text", "hits"), [("100%", 1), ("rope_and", 1), ("r_pe", 0), ("h%p", 0), ("\\", 0)])
def test_signs_of_the_database_are_letters_like_others(office: Office, text: str, hits: int) -> None:
    office.audit(START, SHOP)
    assert len([kind for kind, _ in names(office, text) if kind == HitKind.PAGE]) == hits


def test_what_begins_with_the_text_comes_first_and_no_more_than_asked_for(office: Office) -> None:
    office.audit(START, SHOP)
    found = search(office.work, "all", limit=3)
    assert len(found) <= 3
    begins = [hit.name.lower().startswith("all") for hit in search(office.work, "all", limit=50)]
    assert begins == sorted(begins, reverse=True)


def test_a_run_file_that_is_gone_hides_its_pages_only(office: Office) -> None:
    run = office.audit(START, SHOP)
    office.work.store.whole_path(run).unlink()
    assert names(office, "hemp") == []
    assert (HitKind.SITE, office.site.host) in names(office, office.site.host)


def test_what_is_called_so_comes_first(office: Office) -> None:
    assert search(office.work, "link-broken")[0].link == "/catalogue#link-broken"
    assert search(office.work, "Orphan pages")[0].name == "Orphan pages"


@pytest.mark.parametrize(
    ("words", "title"),
    [
        ("dead link", "Broken internal links"),
        ("alt attribute", "Images without alt text"),
        ("TTFB", "Slow time to first byte"),
        ("og:title", "Open Graph title missing"),
        ("403", "Pages return 401, 403 or another 4xx"),
    ],
)
def test_checks_are_found_by_the_words_of_the_trade(office: Office, words: str, title: str) -> None:
    assert title in [hit.name for hit in search(office.work, words)]


def test_pages_are_found_past_a_site_that_was_never_audited(office: Office) -> None:
    """The first site has no run and the second a damaged one; the third is searched all the same."""
    more = [
        sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address=f"https://{name}.example/"), None)
        for name in ("second", "third")
    ]
    for site in more:
        answers = [page(doc("<h1>Rope</h1>", "<title>Rope for small boats</title>"), f"https://{site.host}/")]
        run = Office(office.work, office.mail, site).audit(START, answers)
        if site.host.startswith("second"):
            office.work.store.whole_path(run).write_bytes(b"no run file")
    hits = search(office.work, "small boats", 20)
    assert [hit.detail for hit in hits if hit.kind == "page"] == ["https://third.example/"]
