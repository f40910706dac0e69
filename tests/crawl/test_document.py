"""Documents that take long to read: told from others, read by a process of their own that is kept, given up at its limits."""

from __future__ import annotations

import asyncio
import os
import signal
import threading
from collections.abc import Iterator

import pytest
from hypothesis import given
from hypothesis import strategies as st

import hodcarrier.crawl.readers
from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.facts.heavy import depth_at_most, is_heavy
from hodcarrier.core.facts.page import PageFacts, collect
from hodcarrier.crawl.readers import READERS, Readers
from tests.sample_site import ORIGIN, crawl

DEEP = "<div>" * 100_000 + '<a href="/b">b</a>'


@pytest.mark.parametrize(
    ("body", "heavy"),
    [
        (b"", False),
        (b"<div>" * 2_000, False),
        (b"<div>" * 2_001, True),
        (b"<div>" * 1_500 + b"</div>" * 1_500 + b"<p>" * 1_500, False),
        (b"<p>x</p>" * 30_000, False),
        (b"</p>" * 3_000 + b"<div>" * 2_001, True),
        (b"<td>1<td>2<td>3" * 700, True),
        (b"<!-- a --><!-- b -->" * 3_000, False),
        (b"<p>" + b"1 < 2 <= 3 " * 3_000, False),
        (b"<p " + b"a " * 60_000 + b">", True),
        (b"<p " + b"a " * 60_000, True),
        (b"<p " + b"a " * 49_998 + b">" + b"<b>x</b>" * 9_000 + b"<i " + b"a " * 60_000 + b">", True),
        (b"<p " + b"a " * 49_000 + b">" + b"<b>x</b>" * 9_000, False),
        (b"<p>" + b"word " * 50_000 + b"</p>", False),
    ],
)
def test_what_is_heavy(body: bytes, heavy: bool) -> None:
    assert is_heavy(body) is heavy


@given(st.lists(st.sampled_from([b"<b>", b"</b>", b"<p class=x>", b"</P>", b"text", b"<!doctype html>", b"<1"]), max_size=60))
def test_the_depth_is_that_of_the_tags_that_are_open(pieces: list[bytes]) -> None:
    depth = deepest = 0
    for piece in pieces:
        depth = max(0, depth + {b"<b>": 1, b"<p class=x>": 1, b"</b>": -1, b"</P>": -1}.get(piece, 0))
        deepest = max(deepest, depth)
    assert depth_at_most(b"".join(pieces)) == deepest


async def read_all(readers: Readers, *bodies: bytes) -> list[PageFacts | None]:
    return [await readers.read(body, ORIGIN + "/a", "text/html", ("rope", "anchor")) for body in bodies]


@pytest.fixture(params=["forked", "started"])
def readers(request: pytest.FixtureRequest) -> Iterator[Readers]:
    """Both ways in which a reader begins: a process with threads does not fork."""
    ended = threading.Event()
    if request.param == "started":
        threading.Thread(target=ended.wait, daemon=True).start()
    found = Readers()
    yield found
    found.end()
    ended.set()


def test_facts_from_the_other_process_are_the_same(readers: Readers) -> None:
    bodies = [
        doc('<nav><a href="b?x=1">naïve</a></nav><img src="i.png" alt="">' + "<p>rope " * 30_000).encode(),
        doc("<p>short").encode(),
        b"",
    ]
    found = asyncio.run(read_all(readers, *bodies))
    assert found == [collect(body, ORIGIN + "/a", "text/html", None, ("rope", "anchor")) for body in bodies]
    assert found[0] is not None and found[0].text.expected_missing == ("anchor",)


def test_a_reader_is_kept_and_replaced_when_it_has_ended(readers: Readers) -> None:
    async def pids() -> list[int]:
        met = []
        for spoil in (False, True, False):
            assert (await read_all(readers, b"<p>x"))[0] is not None
            (reader,) = readers._free
            met.append(reader.pid)
            if spoil:
                os.kill(reader.pid, signal.SIGKILL)
                assert (await read_all(readers, b"<p>x")) == [None], "it says so once, and the next one has a new reader"
        return met

    first, same, other = asyncio.run(pids())
    assert first == same != other


def test_no_more_readers_than_the_bound_are_at_work(readers: Readers) -> None:
    async def at_once() -> int:
        found = await asyncio.gather(*(read_all(readers, b"<p>x" * 50) for _ in range(8)))
        assert all(facts is not None for part in found for facts in part)
        return len(readers._free)

    assert asyncio.run(at_once()) == READERS


def test_a_document_that_takes_too_long_is_given_up_and_said(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(hodcarrier.crawl.readers, "PROCESSOR_S", 1)
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
    many = "".join(f'<p><a href="/p#{n}">x</a>' for n in range(15_000)) + '<a href="/b">b</a>'
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
