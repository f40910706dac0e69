"""Documents that take long to read: told from others, read in a process of their own, given up at its limits."""

from __future__ import annotations

import asyncio

import pytest

from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.facts.page import collect
from hodcarrier.crawl import document
from hodcarrier.crawl.document import is_heavy, read_apart
from tests.sample_site import ORIGIN, crawl

DEEP = "<div>" * 100_000 + '<a href="/b">b</a>'


@pytest.mark.parametrize(
    ("body", "heavy"),
    [
        (b"", False),
        (b"<p>" * 16_000, False),
        (b"<p>" * 20_000 + b"x" * 10_000, False),
        (b"<p>" * 20_001 + b"x" * 10_000, True),
        (b"<p " + b"a " * 60_000 + b">", True),
        (b"<p>" + b"word " * 50_000 + b"</p>", False),
    ],
)
def test_what_is_heavy(body: bytes, heavy: bool) -> None:
    assert is_heavy(body) is heavy


def test_facts_from_the_other_process_are_the_same() -> None:
    body = doc('<nav><a href="b?x=1">naïve</a></nav><img src="i.png" alt="">' + "<p>rope " * 30_000).encode()
    facts = asyncio.run(read_apart(body, ORIGIN + "/a", "text/html", ("rope", "anchor")))
    assert facts == collect(body, ORIGIN + "/a", "text/html", None, ("rope", "anchor"))
    assert facts is not None and facts.text.expected_missing == ("anchor",)


def test_a_document_that_takes_too_long_is_given_up_and_said(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(document, "PROCESSOR_S", 1)
    writer, _, end = crawl((page(doc('<a href="/deep">d</a><a href="/c">c</a>')), page(DEEP, "/deep"), page(doc(), "/c")))
    rows = writer.db.execute(
        "SELECT url, status, failure FROM address JOIN answer ON address_id = id WHERE role = 0 ORDER BY url"
    )
    assert end == "complete"
    assert [(url.removeprefix(ORIGIN), status, failure) for url, status, failure in rows] == [
        ("/", 200, ""),
        ("/c", 200, ""),
        ("/deep", 200, "tangled"),
    ]


def test_a_heavy_document_within_the_limits_is_read_as_any() -> None:
    many = "".join(f'<li><a href="/p#{n}">x</a>' for n in range(15_000)) + '<a href="/b">b</a>'
    writer, _, _ = crawl((page(doc(many)), page(doc(), "/b"), page(doc(), "/p")))
    assert is_heavy(doc(many).encode())
    assert writer.db.execute("SELECT count(*) FROM page").fetchone() == (3,)


def test_comments_before_a_missing_doctype_cost_no_more_than_their_length() -> None:
    assert not collect(b"<!-- x -->" * 1000 + b"<p>x", ORIGIN + "/").markup.doctype
    assert collect(b"<!-- x --> \n<!-- -->" * 100 + b"<!DOCTYPE  html><p>x", ORIGIN + "/").markup.doctype
    assert collect(b"\xef\xbb\xbf<!doctype html><p>x", ORIGIN + "/").markup.doctype


def test_many_pictures_in_one_link_and_regions_in_regions() -> None:
    facts = collect(b"<a href=/x>" + b"<img src=/i.png>" * 20_000, ORIGIN + "/")
    assert len(facts.media.images) == 20_000 and not any(image.alone_in_link for image in facts.media.images)
    facts = collect(b"<nav>" * 3_000 + b"<a href=/x>x</a>" * 3_000, ORIGIN + "/")
    assert {link.landmark for link in facts.links.all} == {"navigation"}
