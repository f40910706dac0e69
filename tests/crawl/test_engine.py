"""The crawl over made-up answers: order, limits, rules, what is recorded, going on after a break."""

from __future__ import annotations

import asyncio
import sqlite3
from pathlib import Path

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page, sitemap, text_file
from hodcarrier.core.progress import Progress
from hodcarrier.crawl import engine
from hodcarrier.crawl.engine import Crawl
from hodcarrier.crawl.fetch import Fetched
from hodcarrier.runfile import schema
from hodcarrier.runfile.store import open_part
from hodcarrier.runfile.writer import RunWriter
from tests.sample_site import NOW, ORIGIN, SampleFetcher, audit, crawl, make_plan


def link(*paths: str) -> str:
    return doc("".join(f'<a href="{p}">to {p}</a>' for p in paths))


def states(writer: RunWriter, role: int = 0) -> dict[str, tuple[int, int | None]]:
    rows = writer.db.execute(
        "SELECT url, state, status FROM address LEFT JOIN answer ON answer.address_id = id WHERE role = ?", (role,)
    )
    return {url.removeprefix(ORIGIN): (state, status) for url, state, status in rows}


def test_pages_are_fetched_once_and_in_order_of_depth() -> None:
    site = (page(link("/b", "/c", "/")), page(link("/d", "/c", "/b#x"), "/b"), page(link("/b"), "/c"), page(doc(), "/d"))
    writer, fetcher, end = crawl(site, make_plan({"parallel": 1}))
    assert end == "complete"
    pages = [url for url in fetcher.asked if not url.endswith((".txt", ".xml", ".gz"))]
    assert pages == [ORIGIN + p for p in ("/", "/b", "/c", "/d")]
    assert set(states(writer)) == {"/", "/b", "/c", "/d"}


@pytest.mark.parametrize("parallel", [1, 3, 16])
def test_parallel_fetches_find_the_same(parallel: int) -> None:
    site = tuple(page(link(f"/{2 * n + 1}", f"/{2 * n + 2}"), f"/{n}" if n else "/") for n in range(40))
    writer, fetcher, _ = crawl(site, make_plan({"parallel": parallel}))
    assert len([u for u in fetcher.asked if not u.endswith((".txt", ".xml", ".gz"))]) == len(set(states(writer)))
    assert {p for p, (_, status) in states(writer).items() if status == 200} == {s.path for s in site}


def test_redirects_are_recorded_hop_by_hop() -> None:
    writer, _, _ = crawl((page(link("/a")), moved("/a", "/b"), moved("/b", "/c", 308), page(doc(), "/c")))
    rows = writer.db.execute(
        "SELECT a.url, n.status, t.url FROM answer n JOIN address a ON a.id = n.address_id JOIN address t ON t.id = n.redirect_id ORDER BY a.id"
    ).fetchall()
    assert rows == [(ORIGIN + "/a", 301, ORIGIN + "/b"), (ORIGIN + "/b", 308, ORIGIN + "/c")]


@pytest.mark.parametrize(("checked", "state"), [(True, 1), (False, 3)])
def test_a_redirect_to_another_site_is_checked_but_never_followed(checked: bool, state: int) -> None:
    writer, fetcher, _ = crawl((page(link("/a")), moved("/a", "https://other.example/")), make_plan({"check_external": checked}))
    assert fetcher.asked.count("https://other.example/") <= 2, "HEAD, then GET where HEAD says no"
    assert [s for s, _ in states(writer, role=2).values()] == [state]


def test_redirect_loop_ends() -> None:
    writer, _, end = crawl((page(link("/a")), moved("/a", "/b"), moved("/b", "/a")))
    assert end == "complete"
    assert states(writer)["/b"] == (1, 301)


def test_robots_txt_keeps_us_out_of_what_it_says() -> None:
    site = (
        text_file("/robots.txt", "User-agent: *\nDisallow: /private"),
        page(link("/private/x", "/open")),
        page(doc(), "/open"),
        page(doc(), "/private/x"),
    )
    writer, fetcher, _ = crawl(site)
    assert ORIGIN + "/private/x" not in fetcher.asked
    assert states(writer)["/private/x"] == (2, None)
    rule = writer.db.execute("SELECT rule FROM address WHERE state = 2").fetchone()[0]
    assert rule == "Disallow: /private (line 2)"


def test_robots_txt_may_be_reported_only() -> None:
    site = (text_file("/robots.txt", "User-agent: *\nDisallow: /"), page(doc()))
    writer, _, _ = crawl(site, make_plan({"obey_robots": False}))
    assert states(writer)["/"] == (1, 200)


@pytest.mark.parametrize("robots", [gone("/robots.txt", 500), gone("/robots.txt", 503), Sample("/robots.txt", failure="reset")])
def test_unreachable_robots_txt_disallows_everything(robots: Sample) -> None:
    writer, fetcher, end = crawl((robots, page(doc())))
    assert end == "complete"
    assert ORIGIN + "/" not in fetcher.asked
    assert states(writer)["/"] == (2, None)


@pytest.mark.parametrize("status", [401, 403, 404, 410])
def test_missing_robots_txt_allows_everything(status: int) -> None:
    writer, _, _ = crawl((gone("/robots.txt", status), page(doc())))
    assert states(writer)["/"] == (1, 200)


def test_redirected_robots_txt_is_followed() -> None:
    site = (
        moved("/robots.txt", "/other.txt"),
        text_file("/other.txt", "User-agent: *\nDisallow: /x"),
        page(link("/x")),
        page(doc(), "/x"),
    )
    writer, _, _ = crawl(site)
    assert states(writer)["/x"] == (2, None)


@pytest.mark.parametrize("failure", ["dns", "connect", "tls", "timeout", "refused-address"])
def test_a_host_that_gives_no_answer_fails_the_run_in_words(failure: str) -> None:
    _, _, end = crawl((Sample("/robots.txt", failure=failure), Sample("/", failure=failure)))
    assert end.startswith("failed: shop.example cannot be audited: ")


def test_page_limit_leaves_the_rest_waiting() -> None:
    writer, fetcher, end = crawl(
        (page(link("/a", "/b", "/c", "/d")), *(page(doc(), f"/{x}") for x in "abcd")), make_plan({"pages_max": 3, "parallel": 4})
    )
    assert end == "pages"
    assert len([u for u in fetcher.asked if not u.endswith((".txt", ".xml", ".gz"))]) == 3
    assert sorted(state for state, _ in states(writer).values()) == [0, 0, 1, 1, 1]


def test_depth_and_length_limits() -> None:
    long = "/" + "x" * 200
    writer, _, end = crawl(
        (page(link("/a", long)), page(link("/b"), "/a"), page(doc(), "/b")), make_plan({"depth_max": 1, "url_chars_max": 100})
    )
    assert end == "complete"
    assert states(writer)["/b"] == (3, None)
    assert states(writer)[long] == (3, None)


def test_scope_is_the_host_and_the_prefix() -> None:
    site = (page(link("/en/x", "/fr/x", "https://www.shop.example/", "http://shop.example/en/y"), "/en/"), page(doc(), "/en/x"))
    writer, _, _ = crawl(site, make_plan({"start": [ORIGIN + "/en/"], "path_prefix": "/en/"}))
    assert set(states(writer)) == {"/en/", "/en/x", "http://shop.example/en/y"}


def test_sitemap_pages_are_fetched_and_noted_as_listed() -> None:
    writer, _, _ = crawl((page(doc()), sitemap("/", "/lone"), page(doc(), "/lone")))
    assert states(writer)["/lone"] == (1, 200)
    listed = [u for (u,) in writer.db.execute("SELECT url FROM listed JOIN address ON id = address_id ORDER BY url")]
    assert listed == [ORIGIN + "/", ORIGIN + "/lone"]


def test_sitemap_index_and_robots_line() -> None:
    index = text_file(
        "/map.xml",
        '<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><sitemap><loc>/one.txt</loc></sitemap></sitemapindex>',
    )
    site = (
        text_file("/robots.txt", "Sitemap: /map.xml"),
        index,
        text_file("/one.txt", ORIGIN + "/a\n"),
        page(doc()),
        page(doc(), "/a"),
    )
    writer, _, _ = crawl(site)
    assert states(writer)["/a"] == (1, 200)
    assert [r for (r,) in writer.db.execute("SELECT found FROM site_file WHERE kind = 'sitemap' ORDER BY id")] == [
        "robots",
        "usual",
        "index",
    ]


def test_sitemap_that_names_itself_ends() -> None:
    loop = text_file(
        "/sitemap.xml",
        f'<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><sitemap><loc>{ORIGIN}/sitemap.xml</loc></sitemap></sitemapindex>',
    )
    _, fetcher, end = crawl((loop, page(doc())))
    assert end == "complete"
    assert fetcher.asked.count(ORIGIN + "/sitemap.xml") == 1


def test_plan_without_sitemaps_or_links() -> None:
    _, fetcher, _ = crawl(
        (page(link("/a")), sitemap("/b"), page(doc(), "/b")), make_plan({"use_sitemaps": False, "use_links": False})
    )
    assert [u for u in fetcher.asked if not u.endswith(".txt")] == [ORIGIN + "/"]


def test_parameters_are_dropped_before_identity() -> None:
    site = (page(link("/a?sid=1", "/a?sid=2&x=1", "/a")), page(doc(), "/a"), page(doc(), "/a?x=1"))
    writer, _, _ = crawl(site, make_plan({"drop_parameters": ["sid"]}))
    assert set(states(writer)) == {"/", "/a", "/a?x=1"}


def test_files_are_asked_for_by_head_and_once() -> None:
    site = (
        page(doc('<img src="/i.png" alt=x><img src="/i.png" alt=x><a href="/b">b</a>')),
        page(doc('<img src="/i.png" alt=x>'), "/b"),
        text_file("/i.png", "x", content_type="image/png"),
    )
    writer, fetcher, _ = crawl(site)
    assert fetcher.asked.count(ORIGIN + "/i.png") == 1
    assert states(writer, role=1)["/i.png"] == (1, 200)


def test_what_headers_name_is_known() -> None:
    named = (
        '</cy>; rel="alternate"; hreflang="cy", <https://other.example/de>; rel=alternate; hreflang=de, </main>; rel=canonical'
    )
    home = page(doc(), headers=(("content-type", "text/html; charset=utf-8"), ("link", named)))
    site = (home, page(doc(lang="cy"), "/cy"), page(doc(), "/main"))
    writer, fetcher, _ = crawl(site)
    assert states(writer) == {"/": (1, 200), "/cy": (1, 200), "/main": (1, 200)}
    assert "https://other.example/de" not in fetcher.asked, "versions on other sites are not fetched"


def test_versions_that_headers_name_lead_back() -> None:
    def version(path: str, code: str, other: str, lang: str) -> Sample:
        headers = (("content-type", "text/html; charset=utf-8"), ("link", f"<{other}>; rel=alternate; hreflang={code}"))
        return page(doc(lang=lang), path, headers=headers)

    home = version("/", "cy", "/cy", "en")
    asked = "SELECT place FROM finding WHERE check_id = 'lang-alt-no-return'"
    run, _ = audit((home, version("/cy", "en", "/", "cy")))
    assert run.rows(asked) == []
    run, _ = audit((home, page(doc(lang="cy"), "/cy")))
    assert run.rows(asked) == [(f"{ORIGIN}/cy",)]


def test_other_types_are_recorded_without_facts() -> None:
    writer, _, _ = crawl((page(link("/x.pdf")), text_file("/x.pdf", "%PDF", content_type="application/pdf")))
    assert states(writer)["/x.pdf"] == (1, 200)
    assert writer.db.execute("SELECT count(*) FROM page").fetchone()[0] == 1


def test_body_that_is_not_what_its_type_says() -> None:
    writer, _, end = crawl((page(link("/b")), Sample("/b", bytes(range(256)) * 50, 200, (("content-type", "text/html"),))))
    assert end == "complete"
    assert states(writer)["/b"] == (1, 200)


def test_a_person_stops_it() -> None:
    said = iter([*[""] * 12, "stopped", "stopped", "stopped", "stopped", "stopped", "stopped"])
    writer, _, end = crawl(
        tuple(page(link(f"/{n + 1}"), f"/{n}" if n else "/") for n in range(30)),
        make_plan({"parallel": 1}),
        should_stop=lambda: next(said),
    )
    assert end == "stopped"
    assert 0 < sum(1 for state, _ in states(writer).values() if state == 1) < 30


class Broken(RuntimeError):
    """Stands for the death of the process."""


class DyingFetcher(SampleFetcher):
    """Answers so many requests and then dies."""

    lives = 0

    async def get(self, url: str, method: str = "GET", bytes_max: int = 0):  # type: ignore[no-untyped-def]
        if len(self.asked) >= self.lives:
            raise Broken
        return await super().get(url, method)


@pytest.mark.parametrize("lives", [1, 2, 3, 5, 9, 17, 30, 43])
def test_going_on_after_a_death_gives_the_same_run(tmp_path: Path, lives: int, monkeypatch: pytest.MonkeyPatch) -> None:
    site = tuple(page(link(f"/{2 * n + 1}", f"/{2 * n + 2}", "/gone"), f"/{n}" if n else "/") for n in range(20))
    plan = make_plan({"parallel": 2})
    monkeypatch.setattr("hodcarrier.crawl.engine.COMMIT_PAGES", 4)
    path = tmp_path / "run.part"
    first = DyingFetcher({s.path: s for s in site})
    first.lives = lives
    writer = open_part(path, plan, {})
    with pytest.raises(Broken):
        asyncio.run(Crawl(plan, writer, first, now=lambda: NOW).run())
    writer.db.rollback()
    writer.close()
    second = SampleFetcher({s.path: s for s in site})
    writer = open_part(path, plan, {})
    committed = {u for (u,) in writer.db.execute("SELECT url FROM address WHERE state = 1")}
    assert asyncio.run(Crawl(plan, writer, second, now=lambda: NOW).run()) == "complete"
    assert not committed & set(second.asked), "a committed page was fetched again"
    whole, _, _ = crawl(site, plan)
    assert states(writer) == states(whole)
    writer.close()


def test_a_full_disk_damages_nothing_and_the_run_goes_on(tmp_path: Path) -> None:
    site = tuple(page(link(f"/{2 * n + 1}", f"/{2 * n + 2}") + "x" * n, f"/{n}" if n else "/") for n in range(300))
    whole = states(crawl(site)[0])
    part, plan = tmp_path / "x.part", make_plan()
    writer = open_part(part, plan, {})
    writer.db.execute("PRAGMA max_page_count = 16")
    fetcher = SampleFetcher({s.path: s for s in site})
    with pytest.raises(sqlite3.OperationalError, match="full"):
        asyncio.run(Crawl(plan, writer, fetcher, now=lambda: NOW).run())
    writer.close()
    assert sqlite3.connect(part).execute("PRAGMA integrity_check").fetchone() == ("ok",)
    writer = open_part(part, plan, {})
    writer.db.execute("PRAGMA max_page_count = 100000")
    assert asyncio.run(Crawl(plan, writer, fetcher, now=lambda: NOW).run()) == "complete"
    assert states(writer) == whole


@pytest.mark.parametrize(
    ("front", "obey", "state"),
    [
        (page(doc('<a rel=nofollow href="/a">a</a>')), True, (3, None)),
        (page(doc('<a rel=nofollow href="/a">a</a>')), False, (1, 200)),
        (page(doc('<a href="/a">a</a>', "<meta name=robots content=nofollow>")), True, (3, None)),
        (page(doc('<a href="/a">a</a>', "<meta name=robots content=none>")), True, (3, None)),
        (page(doc('<a href="/a">a</a>'), headers=(("content-type", "text/html"), ("x-robots-tag", "nofollow"))), True, (3, None)),
        (
            page(doc('<a href="/a">a</a>'), headers=(("content-type", "text/html"), ("x-robots-tag", "other: nofollow"))),
            True,
            (1, 200),
        ),
        (page(doc('<a rel=nofollow href="/a">a</a><a href="/b">b</a>')), True, (1, 200)),
    ],
)
def test_nofollow_is_obeyed_or_not(front: Sample, obey: bool, state: tuple[int, int | None]) -> None:
    """The last case: another page links to it without nofollow."""
    site = (front, page(doc(), "/a"), page(link("/a"), "/b"))
    writer, _, _ = crawl(site, make_plan({"obey_nofollow": obey}))
    assert states(writer)["/a"] == state


def test_depth_limits_leave_out_and_bring_back() -> None:
    deep = (page(link("/a")), page(link("/b"), "/a"), page(doc(), "/b"))
    writer, _, _ = crawl(deep, make_plan({"depth_max": 1}))
    assert states(writer)["/b"] == (3, None)
    assert writer.db.execute("SELECT rule FROM address WHERE url LIKE '%/b'").fetchone() == ("deeper than the plan's limit",)


@pytest.mark.parametrize(
    ("plan", "fetched"),
    [
        ({}, {"/", "/shop/a", "/shop/b?s=1", "/help"}),
        ({"include": ["/", "/shop/*"]}, {"/", "/shop/a", "/shop/b?s=1"}),
        ({"exclude": ["/shop/*"]}, {"/", "/help"}),
        ({"exclude": ["*?s=*"]}, {"/", "/shop/a", "/help"}),
        ({"include": ["/", "/shop/*"], "exclude": ["regex:/b"]}, {"/", "/shop/a"}),
        ({"use_links": False}, {"/"}),
        ({"use_links": False, "addresses": [ORIGIN + "/help"]}, {"/", "/help"}),
        ({"keep_parameters": ["x"]}, {"/", "/shop/a", "/shop/b", "/help"}),
    ],
)
def test_what_belongs_and_where_it_comes_from(plan: dict[str, object], fetched: set[str]) -> None:
    site = (
        page(link("/shop/a", "/shop/b?s=1", "/help")),
        *(page(doc(), p) for p in ("/shop/a", "/shop/b?s=1", "/shop/b", "/help")),
    )
    writer, _, _ = crawl(site, make_plan(plan))
    assert {p for p, (_, status) in states(writer).items() if status == 200} == fetched


def test_sitemaps_are_given_named_and_usual() -> None:
    site = (
        page(doc()),
        text_file("/robots.txt", f"Sitemap: {ORIGIN}/named.xml\n"),
        sitemap_at("/named.xml", "/n"),
        sitemap_at("/given.xml", "/g"),
        sitemap("/u"),
        *(page(doc(), p) for p in ("/n", "/g", "/u")),
    )
    for plan, found in (
        ({"sitemaps": [ORIGIN + "/given.xml"]}, {"/n", "/g", "/u"}),
        ({"sitemaps": [ORIGIN + "/given.xml"], "use_sitemaps": False}, {"/g"}),
        ({}, {"/n", "/u"}),
    ):
        writer, _, _ = crawl(site, make_plan(plan))
        assert {p for p, (_, status) in states(writer).items() if status == 200} == {"/"} | found


def sitemap_at(path: str, *paths: str) -> Sample:
    return Sample(path, sitemap(*paths).body, 200, sitemap().headers)


def test_a_staging_site_that_is_noindex_can_be_judged_as_public() -> None:
    site = (page(doc("<h1>x</h1>", "<meta name=robots content=noindex>")),)
    strict, _ = audit(site)
    lenient, _ = audit(site, {"obey_noindex": False})
    assert strict.rows("SELECT why_not FROM verdict") == [("noindex",)]
    assert lenient.rows("SELECT why_not FROM verdict") == [("",)]


SHOWN = doc('<img src="/i.png" alt="i"><a href="/b">b</a>')
LINKED = doc('<a href="/i.png">larger</a><a href="/doc">read</a>')
PICTURE = Sample("/i.png", b"\x89PNG", headers=(("content-type", "image/png"),))


@pytest.mark.parametrize("parallel", [1, 4])
@pytest.mark.parametrize(
    "front", [(SHOWN, LINKED), (LINKED.replace('"/doc"', '"/b"'), SHOWN)], ids=["shown first", "linked first"]
)
def test_what_is_shown_and_linked_is_a_page_whichever_comes_first(front: tuple[str, str], parallel: int) -> None:
    site = (page(front[0]), page(front[1], "/b"), page(doc(), "/doc"), PICTURE)
    writer, _, _ = crawl(site, make_plan({"parallel": parallel}))
    assert states(writer)["/i.png"] == (1, 200) and states(writer, role=1) == {}
    run, _ = audit((*site[:3], gone("/i.png")))
    assert run.rows("SELECT subject FROM finding WHERE check_id = 'media-broken'") == [(ORIGIN + "/i.png",)]


def test_a_document_that_was_taken_for_a_file_is_read_when_a_link_leads_to_it() -> None:
    site = (
        page(doc('<object data="/doc"></object><a href="/b">b</a>')),
        page(doc('<a href="/c">c</a>'), "/b"),
        page(doc('<a href="/doc">d</a>'), "/c"),
        page(doc('<a href="/only-here">o</a>'), "/doc"),
        page(doc(), "/only-here"),
    )
    for parallel in (1, 2, 8):
        writer, fetcher, _ = crawl(site, make_plan({"parallel": parallel}))
        assert set(states(writer)) == {"/", "/b", "/c", "/doc", "/only-here"}
        assert writer.db.execute("SELECT count(*) FROM page").fetchone() == (5,)
        assert fetcher.asked.count(ORIGIN + "/doc") <= 2, "at most once as a file and once as a page"


def test_a_file_stays_one_when_the_plan_leaves_such_pages_out() -> None:
    site = (page(SHOWN), page(LINKED, "/b"), PICTURE)
    writer, _, _ = crawl(site, make_plan({"exclude": ["/*.png"]}))
    assert states(writer, role=1) == {"/i.png": (1, 200)}


def test_a_stop_does_not_wait_for_a_host_that_says_nothing(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(engine, "GRACE_S", 0.05)
    monkeypatch.setattr(engine, "ASK_EVERY_S", 0.01)
    fetcher = SampleFetcher({s.path: s for s in (page(link("/a", "/b")), page(doc(), "/a"))})
    ask = fetcher.get

    async def get(url: str, method: str = "GET", bytes_max: int = 0) -> Fetched:
        fetched = await ask(url, method, bytes_max)
        if url.endswith("/b"):
            await asyncio.Event().wait()
        return fetched

    fetcher.get = get  # type: ignore[method-assign]
    plan = make_plan({"parallel": 2})
    writer = RunWriter.create(":memory:", {})
    stop = lambda: "stopped" if ORIGIN + "/b" in fetcher.asked else ""  # noqa: E731
    assert asyncio.run(Crawl(plan, writer, fetcher, now=lambda: NOW, should_stop=stop).run()) == "stopped"
    assert states(writer)["/b"] == (0, None), "still to be fetched"
    assert states(writer)["/"] == (1, 200)


def test_progress_counts_answers_and_time() -> None:
    told: list[Progress] = []
    site = (page(link("/a", "/gone", "/slow")), page(doc(), "/a"), gone("/gone"), Sample("/slow", failure="timeout"))
    crawl(site, on_commit=told.append)
    assert told[-1].answers == {"2xx": 2, "4xx": 1, "timeout": 1}
    assert told[-1].pages_done == 4 and 0 <= told[-1].elapsed_s < 600
    assert {url.removeprefix(ORIGIN) for url, _, _ in told[-1].recent} == {"/", "/a", "/gone", "/slow"}


def test_a_redirect_out_of_the_path_prefix_is_no_page_and_no_file_of_the_site() -> None:
    site = (page(link("/en/moved"), "/en/"), moved("/en/moved", "/fr/there"), page(doc(), "/fr/there"))
    writer, _, _ = crawl(site, make_plan({"start": [f"{ORIGIN}/en/"], "path_prefix": "/en/"}))
    role = writer.db.execute("SELECT role FROM address WHERE url = ?", (f"{ORIGIN}/fr/there",)).fetchone()[0]
    assert schema.ROLES[role] == "external"
