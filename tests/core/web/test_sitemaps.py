"""Reading sitemaps of all forms, hostile ones too."""

import gzip

import pytest

from hodcarrier.core.web import sitemaps
from hodcarrier.core.web.sitemaps import Entry, read

NS = 'xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"'


def test_urlset() -> None:
    found = read(
        f"<?xml version='1.0'?><urlset {NS}><url><loc> https://a.example/ </loc><lastmod>2026-11-24</lastmod></url><url><loc>https://a.example/b</loc></url></urlset>".encode()
    )
    assert found.kind == "urlset"
    assert found.entries == (Entry("https://a.example/", "2026-11-24"), Entry("https://a.example/b"))
    assert found.problems == ()


def test_index() -> None:
    found = read(f"<sitemapindex {NS}><sitemap><loc>https://a.example/1.xml</loc></sitemap></sitemapindex>".encode())
    assert (found.kind, len(found.entries)) == ("index", 1)


@pytest.mark.parametrize(
    "body",
    [
        b"<rss><channel><item><link>https://a.example/x</link><pubDate>x</pubDate></item></channel></rss>",
        b'<feed xmlns="http://www.w3.org/2005/Atom"><entry><link href="https://a.example/x"/><updated>2026-01-01</updated></entry></feed>',
    ],
)
def test_feeds(body: bytes) -> None:
    found = read(body)
    assert found.kind == "feed"
    assert [entry.loc for entry in found.entries] == ["https://a.example/x"]


def test_plain_text() -> None:
    found = read(b"\xef\xbb\xbfhttps://a.example/\r\nhttps://a.example/b\r\n")
    assert (found.kind, [e.loc for e in found.entries]) == ("text", ["https://a.example/", "https://a.example/b"])


def test_gzip() -> None:
    assert read(gzip.compress(b"https://a.example/\n")).entries == (Entry("https://a.example/"),)


def test_broken_gzip() -> None:
    assert read(b"\x1f\x8bnot really").problems == ("not-gzip",)


@pytest.mark.parametrize(
    ("body", "problem"),
    [
        (f"<urlset {NS}><url><loc>https://a.example/?a&b</loc></url></urlset>", "not-well-formed"),
        (f"<urlset {NS}><url><loc>https://a.example/</loc></url>", "not-well-formed"),
        ("<html><body>Hello</body></html>", "wrong-root"),
        ("<urlset><url><loc>https://a.example/</loc></url></urlset>", "wrong-namespace"),
        (f"<urlset {NS}><url><lastmod>2026</lastmod></url></urlset>", "no-loc"),
        ("hello there", "not-well-formed"),
    ],
)
def test_problems(body: str, problem: str) -> None:
    assert problem in read(body.encode()).problems


def test_entries_before_the_fault_are_kept() -> None:
    assert (
        len(read(f"<urlset {NS}><url><loc>https://a.example/</loc></url><url><loc>&nope;</loc></url></urlset>".encode()).entries)
        == 1
    )


def test_entity_expansion_is_refused() -> None:
    bomb = (
        '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]>' + f"<urlset {NS}><url><loc>&b;</loc></url></urlset>"
    )
    found = read(bomb.encode())
    assert found.entries == ()
    assert "not-well-formed" in found.problems


def test_external_entity_is_refused() -> None:
    body = '<!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/hostname">]>' + f"<urlset {NS}><url><loc>&a;</loc></url></urlset>"
    assert read(body.encode()).entries == ()


def test_too_many_entries() -> None:
    assert "too-many" in read(b"https://a.example/\n" * 50_001).problems
    assert "too-many" not in read(b"https://a.example/\n" * 50_000).problems


def test_nothing() -> None:
    found = read(b"")
    assert (found.kind, found.entries) == ("text", ())


def test_xml_without_end_is_read_no_further_than_it_makes_sense(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sitemaps, "ELEMENTS_MAX", 20_000)
    listed = "<url><loc>https://a.example/1</loc></url>"
    deep = read(f"<urlset {NS}>{listed}{'<a>' * 10_000}".encode())
    assert (deep.problems, [e.loc for e in deep.entries]) == (("too-large",), ["https://a.example/1"])
    wide = read(f"<urlset {NS}>{'<a/>' * 20_001}{listed}</urlset>".encode())
    assert (wide.problems, wide.entries) == (("too-large",), ())
    other = read(f"<urlset {NS}>{'<a><b/></a>' * 1000}{listed}</urlset>".encode())
    assert (other.problems, len(other.entries)) == ((), 1)
