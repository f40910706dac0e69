"""The simulated sites: the same every time, different from edition to edition in just the ways the story needs."""

from __future__ import annotations

import asyncio
import ssl
from pathlib import Path

import pytest
from aiohttp import web
from aiohttp.test_utils import make_mocked_request

from hodcarrier.core.facts.page import collect
from hodcarrier.core.plan import APPEARANCES
from hodcarrier.core.states import Appearance
from hodcarrier.core.web.robots import parse
from hodcarrier.core.web.sitemaps import read
from hodcarrier.demo.figures import FIGURES, figures_of
from hodcarrier.demo.pages import Resource
from hodcarrier.demo.scenario import CLIENTS, PEOPLE, email_of
from hodcarrier.demo.sites import EDITIONS, SITES, build
from hodcarrier.demo.web import Certificates, SimulatedWeb

CARELESS = "harbour-and-hitch.example"  # the competitor that gets nearly everything wrong
ALL = [(host, edition) for host in SITES for edition in range(1, EDITIONS + 1)]


def html(host: str, edition: int) -> dict[str, bytes]:
    return {
        p: r.body for p, r in build(host, edition).resources.items() if r.content_type.startswith("text/html") and r.status == 200
    }


def test_every_site_of_the_story_is_there() -> None:
    hosts = {h for _, own, others in CLIENTS for h in (own, *others)}
    assert hosts == set(SITES) == set(FIGURES)
    assert all(host.endswith(".example") for host in hosts)
    assert all(email_of(name).endswith(".example") for name, _ in PEOPLE)


@pytest.mark.parametrize(("host", "edition"), ALL)
def test_a_site_is_the_same_every_time(host: str, edition: int) -> None:
    first = {p: r.body for p, r in build(host, edition).resources.items()}
    build.cache_clear()
    assert {p: r.body for p, r in build(host, edition).resources.items()} == first


@pytest.mark.parametrize(("host", "edition"), ALL)
def test_pages_are_whole_documents_with_links_to_each_other(host: str, edition: int) -> None:
    pages = html(host, edition)
    assert len(pages) > 20
    known = set(build(host, edition).resources)
    origin = build(host, edition).theme.origin
    front = collect(pages["/"], f"{origin}/", "text/html; charset=utf-8")
    assert front.head.title
    assert (front.language.lang and front.text.h1) or host == CARELESS
    inside = [link.url.removeprefix(origin) for link in front.links.all if link.kind == "anchor"]
    assert sum(1 for path in inside if path.partition("?")[0] in known) >= len(inside) // 2


@pytest.mark.parametrize("host", SITES)
def test_robots_txt_and_sitemap_can_be_read(host: str) -> None:
    resources = build(host, 1).resources
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
        parse(build("tidewrack.example", n).resources["/robots.txt"].body).allows(
            "HodcarrierBot", "https://tidewrack.example/shop/rope/"
        )
        for n in range(1, EDITIONS + 1)
    ]
    assert allowed == [True] * (EDITIONS - 1) + [False]


def test_the_moved_guide_leaves_links_behind_until_it_redirects() -> None:
    link = b'href="/guides/splicing-rope"'
    counts = [sum(link in body for body in html("tidewrack.example", n).values()) for n in (4, 5, 6, 7)]
    statuses = [build("tidewrack.example", n).resources["/guides/splicing-rope"].status for n in (4, 5, 6, 7)]
    assert statuses == [200, 404, 404, 301]
    assert counts[1] >= 100 and counts[2] < counts[1] / 3 and counts[3] == 0


@pytest.mark.parametrize(("appearance", "left_out"), [(Appearance.PHONE, True), (Appearance.DESKTOP, False)])
def test_phones_are_served_another_page(appearance: Appearance, left_out: bool) -> None:
    headers = {"Host": "ardmoor-seeds.example", "User-Agent": APPEARANCES[appearance]}
    answer = asyncio.run(SimulatedWeb().answer(make_mocked_request("GET", "/join", headers, sslcontext=True)))
    assert isinstance(answer, web.Response) and isinstance(answer.body, bytes)
    assert (answer.status == 200) and (b"noindex" in answer.body) == left_out


def test_sites_have_about_the_size_of_the_story() -> None:
    wanted = {
        "tidewrack.example": 160,
        "saltline-stores.example": 120,
        CARELESS: 90,
        "pellow-kiln.example": 60,
        "clayfold-school.example": 50,
        "ardmoor-seeds.example": 240,
        "two-rivers-seedbank.example": 130,
    }
    for host, pages in wanted.items():
        assert 0.8 * pages <= len(html(host, EDITIONS)) <= 1.2 * pages, host


def test_figures_go_from_the_first_week_to_the_last() -> None:
    for host, spans in FIGURES.items():
        for (first, last), values in zip(spans, figures_of(host), strict=True):
            assert len(values) == EDITIONS and abs(values[0] - first) <= 0.02 * last and abs(values[-1] - last) <= 0.02 * last


@pytest.mark.parametrize("manner", ["none", "cut", "old"])
def test_answers_that_no_server_should_give(manner: str) -> None:
    """What the crawl meets, over a socket."""
    resource = Resource(b"<title>x</title>", manner=manner)  # type: ignore[arg-type]
    said = asyncio.run(_asked(resource))
    assert said.startswith({"none": b"", "cut": b"HTTP/1.1 200", "old": b"HTTP/1.0 200"}[manner]) and (said == b"") == (
        manner == "none"
    )
    if manner == "cut":
        assert b"Content-Length: 32" in said and said.endswith(resource.body)


async def _asked(resource: Resource) -> bytes:
    simulated = SimulatedWeb()
    application = web.Application()

    async def answer(request: web.Request) -> web.StreamResponse:
        return await simulated.fail(request, resource)

    application.router.add_get("/", answer)
    runner = web.AppRunner(application)
    await runner.setup()
    place = web.TCPSite(runner, "127.0.0.1", 0)
    await place.start()
    port = runner.addresses[0][1]
    reader, writer = await asyncio.open_connection("127.0.0.1", port)
    writer.write(b"GET / HTTP/1.1\r\nHost: a.example\r\n\r\n")
    said = await reader.read()
    writer.close()
    await runner.cleanup()
    return said


KINDS = {"": True, "old": True, "expired": False, "name": False, "untrusted": False, "weak": False, "none": False}


@pytest.mark.parametrize(("kind", "holds"), KINDS.items())
def test_certificates_that_do_not_hold(kind: str, holds: bool, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    """A reader that trusts the authority takes the sound ones alone."""
    site = build("tidewrack.example", 1)
    monkeypatch.setattr(site, "certificate", kind)
    simulated = SimulatedWeb()
    simulated.edition = 1
    certificates = Certificates(simulated)
    certificates.authority.cert_pem.write_to_path(str(tmp_path / "ca.pem"))
    reader = ssl.create_default_context(cafile=str(tmp_path / "ca.pem"))
    try:
        shake_hands(certificates.context(), reader, "tidewrack.example")
    except ssl.SSLError:
        assert not holds
    else:
        assert holds


def shake_hands(server: ssl.SSLContext, reader: ssl.SSLContext, host: str) -> None:
    """A handshake in memory. Raises :class:`ssl.SSLError` when one of the two does not want it."""
    to_server, to_reader = ssl.MemoryBIO(), ssl.MemoryBIO()
    ends = [
        reader.wrap_bio(to_reader, to_server, server_hostname=host),
        server.wrap_bio(to_server, to_reader, server_side=True),
    ]
    left = set(ends)
    while left:
        for end in ends:
            try:
                end.do_handshake()
                left.discard(end)
            except ssl.SSLWantReadError:
                continue
