"""The simulated sites: the same every time, different from edition to edition in just the ways the story needs."""

from __future__ import annotations

import pytest

from hodcarrier.core.facts.page import collect
from hodcarrier.core.web.robots import parse
from hodcarrier.core.web.sitemaps import read
from hodcarrier.demo.scenario import CLIENTS, FIGURES, PEOPLE, email_of
from hodcarrier.demo.sites import EDITIONS, SITES, build

CARELESS = "harbour-and-hitch.example"  # the competitor that gets nearly everything wrong
ALL = [(host, edition) for host in SITES for edition in range(1, EDITIONS + 1)]


def html(host: str, edition: int) -> dict[str, bytes]:
    return {p: r.body for p, r in build(host, edition)[0].items() if r.content_type.startswith("text/html") and r.status == 200}


def test_every_site_of_the_story_is_there() -> None:
    hosts = {h for _, own, others in CLIENTS for h in (own, *others)}
    assert hosts == set(SITES) == set(FIGURES)
    assert all(host.endswith(".example") for host in hosts)
    assert all(email_of(name).endswith(".example") for name, _ in PEOPLE)


@pytest.mark.parametrize(("host", "edition"), ALL)
def test_a_site_is_the_same_every_time(host: str, edition: int) -> None:
    first = {p: r.body for p, r in build(host, edition)[0].items()}
    build.cache_clear()
    assert {p: r.body for p, r in build(host, edition)[0].items()} == first


@pytest.mark.parametrize(("host", "edition"), ALL)
def test_pages_are_whole_documents_with_links_to_each_other(host: str, edition: int) -> None:
    pages = html(host, edition)
    assert len(pages) > 20
    known = set(build(host, edition)[0])
    front = collect(pages["/"], f"https://{host}/", "text/html; charset=utf-8")
    assert front.head.title
    assert (front.language.lang and front.text.h1) or host == CARELESS
    inside = [link.url.removeprefix(f"https://{host}") for link in front.links.all if link.kind == "anchor"]
    assert sum(1 for path in inside if path.partition("?")[0] in known) >= len(inside) // 2


@pytest.mark.parametrize("host", SITES)
def test_robots_txt_and_sitemap_can_be_read(host: str) -> None:
    resources = build(host, 1)[0]
    if "/robots.txt" in resources:
        assert bool(parse(resources["/robots.txt"].body).unread) == (host == CARELESS)
    if "/sitemap.xml" in resources:
        assert read(resources["/sitemap.xml"].body).entries


def test_the_theme_loses_its_descriptions_in_the_second_edition() -> None:
    path = "/shop/rope/rope-7"
    described = [collect(html("tidewrack.example", n)[path], f"https://tidewrack.example{path}").head.description for n in (1, 2)]
    assert described[0] and not described[1]


def test_the_shop_is_shut_out_in_the_last_edition_only() -> None:
    allowed = [
        parse(build("tidewrack.example", n)[0]["/robots.txt"].body).allows(
            "HodcarrierBot", "https://tidewrack.example/shop/rope/"
        )
        for n in range(1, EDITIONS + 1)
    ]
    assert allowed == [True, True, True, False]


def test_the_moved_guide_leaves_links_behind() -> None:
    resources = build("tidewrack.example", 3)[0]
    assert resources["/guides/splicing-rope"].status in (404, 410)
    linked = [p for p, body in html("tidewrack.example", 3).items() if b'href="/guides/splicing-rope"' in body]
    assert len(linked) >= 40
