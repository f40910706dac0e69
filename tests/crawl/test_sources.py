"""robots.txt and sitemaps as a crawl meets them: redirects, errors, loops, forms, hostile ones."""

from __future__ import annotations

import asyncio
import gzip

import pytest

from hodcarrier.core.catalogue import Sample, doc, moved, page, text_file
from hodcarrier.crawl import sources
from hodcarrier.crawl.engine import Crawl
from hodcarrier.crawl.sources import policy_of
from hodcarrier.runfile.writer import RunWriter
from tests.sample_site import NOW, ORIGIN, SampleFetcher, audit, crawl, make_plan

SHUT = "User-agent: *\nDisallow: /a\n"
SITE = (page(doc('<a href="/a">a</a>')), page(doc(), "/a"))
XML = (("content-type", "application/xml"),)
HEAD = '<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">'


def urls(writer: RunWriter, status: int | None = 200) -> set[str]:
    rows = writer.db.execute(
        "SELECT url FROM address JOIN answer ON answer.address_id = id WHERE role = 0 AND status IS ?", (status,)
    )
    return {url.removeprefix(ORIGIN) for (url,) in rows}


def disallowed(writer: RunWriter) -> set[str]:
    return {url.removeprefix(ORIGIN) for (url,) in writer.db.execute("SELECT url FROM address WHERE state = 2")}


@pytest.mark.parametrize(
    ("answers", "shut"),
    [
        ((text_file("/robots.txt", SHUT),), {"/a"}),
        ((text_file("/robots.txt", SHUT, 404),), set()),
        ((text_file("/robots.txt", SHUT, 403),), set()),
        ((text_file("/robots.txt", SHUT, 410),), set()),
        ((text_file("/robots.txt", SHUT, 500),), {"/"}),
        ((text_file("/robots.txt", SHUT, 503),), {"/"}),
        ((Sample("/robots.txt", failure="protocol"),), {"/"}),
        ((moved("/robots.txt", "/r1"), text_file("/r1", SHUT)), {"/a"}),
        ((moved("/robots.txt", "/r1", 302), moved("/r1", "/r2", 307), text_file("/r2", SHUT)), {"/a"}),
        ((*tuple(moved(f"/r{n}" if n else "/robots.txt", f"/r{n + 1}") for n in range(5)), text_file("/r5", SHUT)), {"/a"}),
        ((*tuple(moved(f"/r{n}" if n else "/robots.txt", f"/r{n + 1}") for n in range(6)), text_file("/r6", SHUT)), set()),
        ((moved("/robots.txt", "/robots.txt"),), set()),
        ((moved("/robots.txt", "/r1"), text_file("/r1", SHUT, 500)), {"/"}),
        ((text_file("/robots.txt", "<html>not found</html>"),), set()),
    ],
)
def test_what_an_answer_to_robots_txt_means(answers: tuple[Sample, ...], shut: set[str]) -> None:
    """RFC 9309, 2.3.1: at least five redirects are followed; 4xx means no rules, 5xx and no answer that nothing may be fetched."""
    writer, _, end = crawl((*SITE, *answers))
    assert disallowed(writer) == shut
    assert end == "complete"


@pytest.mark.parametrize(("status", "allowed"), [(200, False), (204, True), (404, True), (429, True), (500, None), (None, None)])
def test_policies(status: int | None, allowed: bool | None) -> None:
    policy = policy_of(status, b"" if status == 204 else SHUT.encode())
    assert (None if policy is None else policy.allows("x", ORIGIN + "/a")) is allowed


def test_rules_that_are_only_reported_are_recorded() -> None:
    writer, _, _ = crawl((*SITE, text_file("/robots.txt", SHUT)), make_plan({"obey_robots": False}))
    assert urls(writer) == {"/", "/a"}
    assert writer.db.execute("SELECT rule FROM address WHERE url LIKE '%/a'").fetchone() == ("Disallow: /a (line 2)",)


def test_our_own_group_counts_under_our_own_name() -> None:
    robots = text_file("/robots.txt", "User-agent: *\nDisallow: /\nUser-agent: trialbot\nDisallow: /a\n")
    writer, _, _ = crawl((*SITE, robots), make_plan({"robots_token": "TrialBot"}))
    assert urls(writer) == {"/"} and disallowed(writer) == {"/a"}


def test_crawl_delay_slows_the_fetcher_down() -> None:
    robots = text_file("/robots.txt", "User-agent: *\nCrawl-delay: 2.5\n")
    _, fetcher, _ = crawl((*SITE, robots))
    assert fetcher.slowed[1] == 2.5
    _, fetcher, _ = crawl((*SITE, robots), make_plan({"obey_crawl_delay": False}))
    assert fetcher.slowed == ("", 0.0)


def locs(*paths: str) -> str:
    return "".join(f"<url><loc>{ORIGIN}{p}</loc></url>" for p in paths)


def index(*paths: str) -> str:
    inside = "".join(f"<sitemap><loc>{ORIGIN}{p}</loc></sitemap>" for p in paths)
    return f'<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{inside}</sitemapindex>'


PAGES = tuple(page(doc(), f"/p{n}") for n in range(4))


@pytest.mark.parametrize(
    ("answers", "listed"),
    [
        ((Sample("/sitemap.xml", HEAD + locs("/p1", "/p2") + "</urlset>", headers=XML),), {"/p1", "/p2"}),
        ((Sample("/sitemap.xml", "\n  " + HEAD + locs("/p1") + "</urlset>", headers=XML),), set()),
        ((Sample("/sitemap.xml", gzip.compress((HEAD + locs("/p1") + "</urlset>").encode()), headers=XML),), {"/p1"}),
        ((Sample("/sitemap.xml", index("/s1.xml", "/s2.xml"), headers=XML), Sample("/s1.xml", HEAD + locs("/p1") + "</urlset>", headers=XML), Sample("/s2.xml", HEAD + locs("/p2") + "</urlset>", headers=XML)), {"/p1", "/p2"}),
        ((Sample("/sitemap.xml", index("/sitemap.xml", "/s1.xml"), headers=XML), Sample("/s1.xml", index("/sitemap.xml"), headers=XML)), set()),
        ((moved("/sitemap.xml", "/s.xml"), Sample("/s.xml", HEAD + locs("/p3") + "</urlset>", headers=XML)), {"/p3"}),
        ((text_file("/sitemap_index.xml", index("/s1.xml")), Sample("/s1.xml", HEAD + locs("/p1") + "</urlset>", headers=XML)), {"/p1"}),
        ((text_file("/sitemap.txt", f"{ORIGIN}/p1\n{ORIGIN}/p2\n"),), {"/p1", "/p2"}),
        ((text_file("/robots.txt", f"Sitemap: {ORIGIN}/feed.rss"), Sample("/feed.rss", f"<rss><channel><item><link>{ORIGIN}/p2</link></item></channel></rss>", headers=XML)), {"/p2"}),
        ((text_file("/robots.txt", f"Sitemap: {ORIGIN}/atom"), Sample("/atom", f'<feed xmlns="http://www.w3.org/2005/Atom"><entry><link href="{ORIGIN}/p1"/></entry></feed>', headers=XML)), {"/p1"}),
        ((text_file("/robots.txt", "User-agent: *\nDisallow: /sitemap.xml\n"), Sample("/sitemap.xml", HEAD + locs("/p1") + "</urlset>", headers=XML)), set()),
        ((Sample("/sitemap.xml", HEAD + locs("/p1", "/p2"), headers=XML),), {"/p1", "/p2"}),
        ((Sample("/sitemap.xml", '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>' + HEAD + "<url><loc>&b;</loc></url></urlset>", headers=XML),), set()),
        ((Sample("/sitemap.xml", f'<!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/hostname">]>{HEAD}<url><loc>{ORIGIN}/&a;</loc></url></urlset>', headers=XML),), set()),
    ],
)  # fmt: skip
def test_sitemaps_in_every_form(answers: tuple[Sample, ...], listed: set[str]) -> None:
    writer, _, end = crawl((page(doc()), *PAGES, *answers))
    assert urls(writer) == {"/"} | listed
    assert end == "complete"


def test_entries_of_other_sites_are_listed_and_not_fetched() -> None:
    body = HEAD + "<url><loc>https://other.example/x</loc></url>" + locs("/p1") + "</urlset>"
    writer, fetcher, _ = crawl((page(doc()), *PAGES, Sample("/sitemap.xml", body, headers=XML)))
    assert not any("other.example" in url for url in fetcher.asked)
    assert writer.db.execute("SELECT count(*) FROM listed").fetchone() == (2,)


def test_pages_known_from_sitemaps_have_no_depth() -> None:
    writer, _, _ = crawl((page(doc()), *PAGES, Sample("/sitemap.xml", HEAD + locs("/p1") + "</urlset>", headers=XML)))
    assert writer.db.execute("SELECT depth, found_by FROM address WHERE url LIKE '%/p1'").fetchone() == (None, 4)


def test_each_sitemap_is_fetched_once() -> None:
    robots = text_file(
        "/robots.txt", f"Sitemap: {ORIGIN}/sitemap.xml\nSitemap: {ORIGIN}/sitemap.xml#again\nSitemap: http://[half\n"
    )
    _, fetcher, _ = crawl(
        (page(doc()), robots, Sample("/sitemap.xml", HEAD + "</urlset>", headers=XML)),
        make_plan({"sitemaps": [ORIGIN + "/sitemap.xml"]}),
    )
    assert fetcher.asked.count(ORIGIN + "/sitemap.xml") == 1


def test_robots_txt_of_another_host_is_read_once_however_many_want_it() -> None:
    links = "".join(f'<a href="https://img.shop.example/{n}">x</a>' for n in range(20))
    site = (page(doc(links)), text_file("https://img.shop.example/robots.txt", "User-agent: *\nDisallow: /1"))
    writer, fetcher, _ = crawl(site, make_plan({"subdomains": True, "parallel": 8}))
    assert fetcher.asked.count("https://img.shop.example/robots.txt") == 1
    kept_out = writer.db.execute("SELECT count(*) FROM address WHERE state = 2").fetchone()
    assert kept_out == (11,), "1 and 10 to 19"


def index_of(*places: str) -> Sample:
    body = "".join(f"<sitemap><loc>{place}</loc></sitemap>" for place in places)
    xml = f'<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{body}</sitemapindex>'
    return text_file("/sitemap.xml", xml, content_type="application/xml")


def listing(path: str, entry: str) -> Sample:
    xml = f'<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><loc>{ORIGIN}{entry}</loc></url></urlset>'
    return text_file(path, xml, content_type="application/xml")


def test_what_is_wrong_with_one_sitemap_keeps_no_other_from_being_read() -> None:
    """Not an address, named twice, blocked by robots.txt, gone: those after it are read all the same."""
    places = (
        "http://[::1",
        f"{ORIGIN}/one.xml",
        f"{ORIGIN}/one.xml",
        f"{ORIGIN}/shut.xml",
        f"{ORIGIN}/gone.xml",
        f"{ORIGIN}/two.xml",
    )
    writer, fetcher, _ = crawl(
        (
            text_file("/robots.txt", "User-agent: *\nDisallow: /shut"),
            index_of(*places),
            *(listing(f"/{name}.xml", f"/{name}") for name in ("one", "two", "shut")),
            *(page(doc(), path) for path in ("/", "/one", "/two")),
        )
    )
    assert {"/one", "/two"} <= urls(writer)
    asked = [url.removeprefix(ORIGIN) for url in fetcher.asked]
    assert "/shut.xml" not in asked and asked.count("/one.xml") == 1 and "/gone.xml" in asked


def many(count: int, first: int = 0) -> str:
    return HEAD + locs(*(f"/p{number}" for number in range(first, first + count))) + "</urlset>"


def indexed(files: int, each: int) -> tuple[Sample, ...]:
    """A site whose index names so many sitemaps with so many entries each."""
    names = [f"/s{number}.xml" for number in range(files)]
    parts = (Sample(name, many(each, number * each), headers=XML) for number, name in enumerate(names))
    return (page(doc()), Sample("/sitemap.xml", index(*names), headers=XML), *parts)


@pytest.mark.parametrize(("entries", "cut"), [(12, False), (13, True)])
def test_no_more_entries_are_read_than_the_page_limit_can_use(entries: int, cut: bool, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sources, "ENTRIES_MAX", 5)
    writer, _, end = crawl(indexed(1, entries), make_plan({"pages_max": 3}))
    assert writer.db.execute("SELECT count(*) FROM listed").fetchone() == (12,)
    assert (writer.meta("sitemaps_cut", False), end) == (cut, "pages")


def test_a_site_that_lists_more_than_is_read_is_not_wholly_reached(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sources, "ALL_BYTES_MAX", 1_000)
    run, summary = audit(indexed(4, 10))
    assert summary["end"] == "pages"
    assert summary["notices"] == ["The sitemaps list more than was read: what only the rest of them lists is unverified."]
    assert len([item for item in run.sitemap_files() if item.sitemap.kind == "urlset"]) == 2


def test_sitemaps_are_given_up_when_the_run_must_end() -> None:
    site = indexed(20, 2)
    asked = []

    def stop() -> str:
        asked.append(1)
        return "stopped" if len(asked) > 3 else ""

    writer, fetcher, end = crawl(site, should_stop=stop)
    assert end == "stopped" and writer.meta("prepared")
    assert len([url for url in fetcher.asked if "/s" in url.removeprefix(ORIGIN) and url.endswith(".xml")]) < 6


def test_a_preparation_that_was_broken_off_is_made_anew() -> None:
    plan, site = make_plan(), indexed(3, 4)
    writer = RunWriter.create(":memory:", {"plan": {}})
    fetcher = SampleFetcher({sample.path: sample for sample in site})
    asked = iter(["", "", "leave"])
    assert asyncio.run(Crawl(plan, writer, fetcher, now=lambda: NOW, should_stop=lambda: next(asked, "leave")).run()) == "leave"
    assert not writer.meta("prepared")
    assert asyncio.run(Crawl(plan, writer, fetcher, now=lambda: NOW).run()) == "complete"
    whole, _, _ = crawl(site)
    for table in ("listed", "site_file", "address"):
        assert (
            writer.db.execute(f"SELECT count(*) FROM {table}").fetchone()
            == whole.db.execute(f"SELECT count(*) FROM {table}").fetchone()
        )


def test_what_was_noted_of_a_sitemap_is_what_reading_it_again_gives() -> None:
    site = (page(doc()), Sample("/sitemap.xml", HEAD + locs("/a") + "<url></url>", headers=XML))
    run, _ = audit(site)
    noted = run.sitemap_files()
    run.db.execute("DELETE FROM meta WHERE key = 'sitemaps'")
    assert run.sitemap_files() == noted
    assert noted[0].sitemap.problems and noted[0].sitemap.size_bytes == len(site[1].body)
