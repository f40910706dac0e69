"""What an examination finds depends on the facts alone: not on the order of pages, nor on that of checks, nor on how often it is made."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hodcarrier.core.catalogue import Catalogue, doc, load, moved, page, sitemap, text_file
from hodcarrier.examine.examination import examine
from hodcarrier.runfile.reader import RunFile
from tests.sample_site import NOW, ORIGIN, audit, crawl, make_plan

TEXT = "<p>" + "Rope that was laid by hand keeps its shape in the wet. " * 30
SITE = (
    page(doc('<a href="/a">a</a><a href="/b">b</a><a href="/gone">x</a><img src="/i.png">')),
    page(doc(f'<h1>Rope</h1>{TEXT}<a href="/c">click here</a>', "<title>Rope</title>"), "/a"),
    page(doc(f'<h1>Rope</h1>{TEXT}<a href="/old">old</a>', "<title>Rope</title>"), "/b"),
    page(doc("<h3>Odd</h3>", '<link rel=canonical href="/a"><title>Odd</title>'), "/c"),
    page(doc(f"{TEXT} again", "<title>Lone</title>"), "/lone"),
    moved("/old", "/a"),
    text_file("/i.png", "x" * 300_000, content_type="image/png"),
    sitemap("/a", "/lone", "/gone"),
)
PATHS = ("/", "/a", "/b", "/c", "/lone", "/old", "/gone")


def found(run: RunFile) -> dict[str, Any]:
    """Everything that is said of a run, in an order of its own."""
    rows = {
        table: sorted(run.rows(f"SELECT {columns} FROM {table}"), key=repr)
        for table, columns in (
            ("finding", "check_id, severity, subject, place, message, waived, first_seen, times_returned"),
            ("unverified", "check_id, subject, place, reason"),
            (
                "check_state",
                "id, findings, pages, fixes, round(gain, 9), unverified, crashed, examined, failing, passed, not_applicable",
            ),
            ("cause", "check_id, key, findings, pages, round(gain, 9)"),
            ("inventory", "url, scored, round(health, 9), critical, high, medium, low, inlinks, depth, why_not"),
        )
    }
    summary = run.meta("summary")
    return {
        **rows,
        "health": round(summary["health"], 9),
        "areas": {a: round(s, 9) for a, s in summary["areas"].items() if s is not None},
    }


LISTED = {"addresses": tuple(ORIGIN + path for path in PATHS)}


@pytest.fixture(scope="module")
def usual() -> dict[str, Any]:
    return found(audit(SITE, LISTED)[0])


@given(st.permutations(PATHS))
@settings(max_examples=25, deadline=None)
def test_the_order_of_pages_does_not_matter(usual: dict[str, Any], order: list[str]) -> None:
    assert found(audit(SITE, {"addresses": tuple(ORIGIN + path for path in order)})[0]) == usual


@given(st.randoms(use_true_random=False))
@settings(max_examples=10, deadline=None)
def test_the_order_of_checks_does_not_matter(usual: dict[str, Any], draw: Any) -> None:
    entries = list(load().items())
    draw.shuffle(entries)
    assert found(audit(SITE, LISTED, catalogue=Catalogue(dict(entries), {}, {}))[0]) == usual


def test_examining_twice_finds_the_same(usual: dict[str, Any]) -> None:
    writer, _, _ = crawl(SITE, make_plan(LISTED))
    for _ in range(2):
        examine(writer.db, NOW)
        assert found(RunFile(writer.db)) == usual
