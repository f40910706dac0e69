"""Tables in a narrow terminal."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.cli.fitting import GAP, Column, fit, shorten, without_origin

URLS = ["https://shop.example/a/long/way/to/the/page", "https://shop.example/"]


@pytest.mark.parametrize(
    ("text", "width", "shown"),
    [
        ("/shop/rope/discontinued-line", 40, "/shop/rope/discontinued-line"),
        ("/shop/rope/discontinued-line", 15, "/shop/r…ed-line"),
        ("/shop/rope/discontinued-line", 16, "/shop/ro…ed-line"),
        ("abc", 2, "abc"),
    ],
)
def test_urls_are_cut_in_the_middle(text: str, width: int, shown: str) -> None:
    assert shorten(text, width) == shown


def test_urls_of_one_host_are_paths() -> None:
    assert without_origin([*URLS, ""]) == ["/a/long/way/to/the/page", "/", ""]
    assert without_origin([*URLS, "https://www.shop.example/"]) == [*URLS, "https://www.shop.example/"]
    assert without_origin(["https://shop.example"]) == ["/"]
    assert without_origin(["no URL", ""]) == ["no URL", ""]


def test_what_must_stay_whole_stays_whole_and_urls_give_way_first() -> None:
    columns = [Column("Id", ["405c716a97"], solid=True), Column("Page", URLS), Column("What", ["Title too short for this page"])]
    kept = fit(columns, 74)
    assert [c.width for c in kept] == [10, 29, 29]
    kept = fit([Column("Id", ["405c716a97"], solid=True), Column("Page", URLS), Column("What", ["Title too short"])], 50)
    assert [c.width for c in kept] == [10, 26, 8]


def test_hosts_may_be_cut_and_the_last_columns_left_out() -> None:
    hosts = Column("Site", ["harbour-and-hitch.example"], solid=True)
    rest = [Column("Findings", ["12"], solid=True), Column("Extent", ["whole"], solid=True)]
    assert [c.heading for c in fit([Column("Id", ["1"], solid=True), hosts, *rest], 42)] == ["Id", "Site", "Findings", "Extent"]
    assert hosts.width == 17
    narrow = [Column("Id", ["1"], solid=True), Column("Site", ["harbour-and-hitch.example"]), *rest]
    assert [c.heading for c in fit(narrow, 30)] == ["Id", "Site"]


@given(
    st.lists(st.tuples(st.lists(st.text("ab /.:-", max_size=60), min_size=1, max_size=4), st.booleans()), min_size=2, max_size=8),
    st.integers(40, 200),
)
def test_a_table_fits_or_cannot_be_made_narrower(parts: list[tuple[list[str], bool]], room: int) -> None:
    kept = fit([Column("Heading", cells, solid) for cells, solid in parts], room)
    needed = sum(c.width for c in kept) + GAP * (len(kept) - 1)
    assert needed <= room or all(c.width == c.least for c in kept)
    assert all(c.width >= c.least for c in kept)
