"""Positions and links from other sites, told from what was seen."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.figures.backlinks import Backlink, domains, is_in, state_of
from hodcarrier.core.figures.standings import BANDS, BEYOND, Position, band_of, side_by_side, spread, standings
from hodcarrier.core.states import BacklinkState

DAY = date(2026, 11, 30)
WEEK = timedelta(days=7)


def look(rank: int | None, weeks_ago: int = 0, host: str = "", keyword: str = "rope") -> Position:
    return Position(keyword, "phone", "Leeds", host, DAY - weeks_ago * WEEK, rank)


def test_a_keyword_is_told_now_before_and_at_best_with_who_stands_above() -> None:
    looks = [
        look(8, 9),
        look(3, 6),
        look(3, 5),
        look(9, 4),
        look(5, 1),
        look(6),
        look(2, 0, "b.example"),
        look(4, 0, "a.example"),
    ]
    looks += [look(1, 1, "c.example"), look(None, 0, "d.example"), look(7, 0, "e.example")]
    (found,) = standings(looks, DAY - 4 * WEEK)
    assert found.before is not None
    assert (found.now.rank, found.before.rank, found.change, found.best.rank) == (6, 9, 3, 3)
    assert found.best.day == DAY - 6 * WEEK, "the first time"
    assert found.above == [("b.example", 2), ("a.example", 4)], "that day, and higher only"


def test_who_is_not_found_stands_below_all_that_are() -> None:
    (found,) = standings([look(None), look(None, 5), look(40, 0, "a.example")], DAY - WEEK)
    assert (found.now.rank, found.change, found.best.rank, found.above) == (None, None, None, [("a.example", 40)])
    (lost,) = standings([look(None), look(4, 5)], DAY - WEEK)
    assert lost.before is not None and (lost.before.rank, lost.change, lost.best.rank) == (4, None, 4)


def test_devices_and_places_and_keywords_stand_alone() -> None:
    other = Position("rope", "desktop", "Leeds", "", DAY, 2)
    found = standings([look(6), other, look(1, keyword="knots"), look(1, 0, "a.example", keyword="knots")], DAY - WEEK)
    assert [(each.now.keyword, each.now.device, each.now.rank) for each in found] == [
        ("rope", "phone", 6),
        ("rope", "desktop", 2),
        ("knots", "phone", 1),
    ]
    assert [each.above for each in found] == [[], [], []], "level is not above"


@given(st.lists(st.none() | st.integers(1, 200), max_size=50))
def test_every_position_is_in_one_band(ranks: list[int | None]) -> None:
    found = spread(ranks)
    assert sum(found.values()) == len(ranks) and list(found) == [*BANDS, BEYOND]


@pytest.mark.parametrize(
    ("rank", "band"), [(1, "1–3"), (3, "1–3"), (4, "4–10"), (20, "11–20"), (51, "51–100"), (101, BEYOND), (None, BEYOND)]
)
def test_the_ends_of_bands_belong_to_them(rank: int | None, band: str) -> None:
    assert band_of(rank) == band


def link(
    first: int | None = 20, lost: int | None = None, status: int | None = 200, host: str = "blog.example", page: str = "/"
) -> Backlink:
    """A link that was first seen and lost so many weeks ago."""
    ago = lambda weeks: None if weeks is None else DAY - weeks * WEEK  # noqa: E731
    return Backlink(
        f"https://{host}/post", f"https://shop.example{page}", first_seen=ago(first), lost_on=ago(lost), status=status
    )


SINCE = DAY - 4 * WEEK


@pytest.mark.parametrize(
    ("given_link", "states"),
    [
        (link(), {BacklinkState.LIVE}), (link(first=2), {BacklinkState.LIVE, BacklinkState.NEW}), (link(first=None), {BacklinkState.LIVE}),
        (link(lost=1), {BacklinkState.LOST}), (link(lost=9), set()), (link(status=404), {BacklinkState.LIVE, BacklinkState.TO_GONE}),
        (link(lost=9, status=410), {BacklinkState.WIN_BACK}), (link(lost=1, status=410), {BacklinkState.LOST, BacklinkState.WIN_BACK}),
        (link(status=None), {BacklinkState.LIVE}), (link(status=500), {BacklinkState.LIVE}), (link(first=2, lost=1), {BacklinkState.LOST}),
    ],
)  # fmt: skip
def test_a_link_is_on_the_lists_that_it_belongs_to(given_link: Backlink, states: set[BacklinkState]) -> None:
    assert {state for state in BacklinkState if is_in(given_link, state, SINCE)} == states
    assert state_of(given_link, SINCE) in (BacklinkState.LIVE, BacklinkState.NEW, BacklinkState.LOST)


def test_domains_are_counted_once_whatever_they_do() -> None:
    links = [
        link(host="www.a.example"), link(host="a.example", first=1), link(host="b.example", first=2), link(host="c.example", lost=1),
        link(host="d.example", lost=1), link(host="d.example", page="/b"), link(host="e.example", lost=20), link(host="f.example", first=None),
        link(host="f.example", first=1, page="/b"),
    ]  # fmt: skip
    assert domains(links, SINCE) == {"live": 4, "new": 1, "lost": 1}
    assert domains([], SINCE) == {"live": 0, "new": 0, "lost": 0}


def test_hosts_stand_side_by_side_by_their_last_looks() -> None:
    def look(keyword: str, host: str, day: int, rank: int | None) -> Position:
        return Position(keyword, "phone", "", host, date(2026, 11, day), rank)

    looks = [
        look("rope", "", 1, 9), look("rope", "", 8, 2), look("anchor", "", 8, None),
        look("rope", "b.example", 8, 3), look("anchor", "b.example", 8, 11), look("knots", "b.example", 8, 1),
    ]  # fmt: skip
    assert side_by_side(looks, ["", "b.example", "c.example"], 3) == ([1, 1, None], 2)
    assert side_by_side(looks, ["", "b.example"], 20) == ([1, 2], 2)
    assert side_by_side([], ["", "b.example"], 3) == ([None, None], 0)
