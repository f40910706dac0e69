"""Filters of the inventory: each does what it says, and one that cannot be used is refused, never left out."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, page
from hodcarrier.core.errors import InvalidInput
from hodcarrier.runfile import results
from hodcarrier.runfile.reader import RunFile
from tests.listing import listed
from tests.sample_site import ORIGIN, audit

IMAGE = (("content-type", "image/png"), ("content-length", "450000"))
SITE = (
    page(
        doc(
            '<h1>Rope</h1><a href="/a">A</a><a href="/gone">B</a><img src="/big.png"><img src="/dumb.png">',
            "<title>Rope</title><meta name=description content='All of it'>",
        )
    ),
    page(doc("<h1>A</h1><p>" + "word " * 50, "<title>Anchors</title>"), "/a"),
    gone("/gone"),
    Sample("/big.png", b"x", headers=IMAGE),
    Sample("/dumb.png", b"", headers=(("content-type", "image/png"),)),
)


@pytest.fixture(scope="module")
def run() -> RunFile:
    return audit(SITE)[0]


def paths(run: RunFile, *filters: tuple[str, str, str], role: str = "page") -> list[str]:
    part = listed(run, filters, role=role)
    assert part.total == len(part.rows)
    return [row["url"].removeprefix(ORIGIN) for row in part.rows]


@pytest.mark.parametrize(
    ("name", "operator", "value", "expected"),
    [
        ("status", "", "404", ["/gone"]),
        ("words", "gt", "40", ["/a"]),
        ("words", "le", "4.5", ["/", "/gone"]),
        ("title", "has", "nch", ["/a"]),
        ("title", "", "Rope", ["/"]),
        ("description", "", "", ["/a", "/gone"]),
        ("description", "not", "", ["/"]),
        ("words", "", "", []),
        ("state", "", "done", ["/", "/a", "/gone"]),
        ("state", "", "disallowed", []),
    ],
)
def test_a_filter_does_what_it_says(run: RunFile, name: str, operator: str, value: str, expected: list[str]) -> None:
    assert paths(run, (name, operator, value)) == expected


@pytest.mark.parametrize(
    ("name", "operator", "value", "words"),
    [
        ("colour", "", "red", "no column"),
        ("words", "near", "3", "no operator"),
        ("words", "lt", "abc", "not a number"),
        ("words", "lt", "nan", "not a number"),
        ("words", "gt", "inf", "not a number"),
        ("status", "lt", "", "not a number"),
        ("state", "", "asleep", "is never “asleep”"),
    ],
)
def test_a_filter_that_cannot_be_used_is_refused(run: RunFile, name: str, operator: str, value: str, words: str) -> None:
    with pytest.raises(InvalidInput, match=words):
        paths(run, (name, operator, value))


def test_a_file_has_the_size_that_its_server_tells_or_none(run: RunFile) -> None:
    rows = {row["url"].removeprefix(ORIGIN): row for row in listed(run, role="file").rows}
    assert rows["/big.png"]["decoded_bytes"] == 450_000
    assert rows["/dumb.png"]["decoded_bytes"] is None
    assert paths(run, ("decoded_bytes", "gt", "400000"), role="file") == ["/big.png"]
    assert results.page(run, ORIGIN + "/big.png")["role"] == "file"
    assert results.page(run, ORIGIN + "/big.png")["links_in"] == [ORIGIN + "/"]
