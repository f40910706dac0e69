"""Positions and links from other sites, from a table to what is shown."""

from __future__ import annotations

from datetime import date

import pytest

from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.states import BacklinkState
from hodcarrier.usecases.standings import PositionFilter, get_backlinks, get_positions
from tests.usecases.conftest import START, Office
from tests.usecases.test_figures import imported

SHOP = "https://shop.example/"
LOOKS: list[list[object]] = [
    ["2026-10-05", "rope", "phone", "", 9, "/a"], ["2026-11-30", "rope", "phone", "", 4, "/a"], ["2026-11-30", "rope", "phone", "b.example", 2, ""],
    ["2026-10-05", "knots", "desktop", "", 12, "/b"], ["2026-11-30", "knots", "desktop", "", "> 100", ""],
    ["2026-06-01", "old", "phone", "", 1, "/"],
]  # fmt: skip
LINKS: list[list[object]] = [
    ["https://blog.example/1", "/", "good rope", "", "2026-01-01", "2026-11-30", ""],
    ["https://blog.example/2", "/gone", "", "nofollow", "2026-11-20", "2026-11-30", ""],
    ["https://www.news.example/", "/gone", "", "", "2026-01-01", "2026-11-10", "2026-11-10"],
]
POSITIONS, BACKLINKS = (
    ["day", "keyword", "device", "site", "rank", "page"],
    ["source url", "target url", "anchor", "rel", "first seen", "last seen", "lost on"],
)


def test_positions_are_told_with_their_spread(office: Office) -> None:
    assert get_positions(office.work, office.site.id, PositionFilter()).last is None
    imported(office, LOOKS, POSITIONS)
    found = get_positions(office.work, office.site.id, PositionFilter())
    assert (found.first, found.last, found.devices, found.places) == (
        date(2026, 11, 3),
        date(2026, 11, 30),
        ["desktop", "phone"],
        [],
    )
    rope, knots = found.items
    assert (rope.keyword, rope.rank, rope.before, rope.change, rope.best, rope.page) == ("rope", 4, 9, 5, 4, SHOP + "a")
    assert [(each.host, each.rank) for each in rope.above] == [("b.example", 2)]
    assert (knots.keyword, knots.rank, knots.before, knots.change, knots.best) == ("knots", None, 12, None, 12)
    bands = {band.band: (band.now, band.before) for band in found.bands}
    assert bands["4–10"] == (1, 1) and bands["11–20"] == (0, 1) and bands["not found"] == (1, 0), (
        "who is looked at no more has no position"
    )
    phone = get_positions(office.work, office.site.id, PositionFilter(device="phone", moved=True, text="ROPE"))
    assert [row.keyword for row in phone.items] == ["rope"]
    part = get_positions(office.work, office.site.id, PositionFilter(), limit=1)
    assert (len(part.items), part.total, part.after) == (1, 2, "1")
    assert get_positions(office.work, office.site.id, PositionFilter(weeks=30)).items[0].before is None


def test_links_are_new_lost_and_lead_to_what_is_gone(office: Office) -> None:
    assert get_backlinks(office.work, office.site.id, BacklinkState.LIVE).since is None
    imported(office, LINKS, BACKLINKS)
    before = get_backlinks(office.work, office.site.id, BacklinkState.TO_GONE)
    assert before.items == [], "what was not looked at is not known to be gone"
    office.audit(START, [page(doc('<h1>Shop</h1><a href="/gone">x</a>')), gone("/gone")])
    found = {state: get_backlinks(office.work, office.site.id, state) for state in BacklinkState}
    rows = {state: [row.source_page[-1] for row in out.items] for state, out in found.items()}
    assert rows == {
        BacklinkState.LIVE: ["2", "1"], BacklinkState.NEW: ["2"], BacklinkState.LOST: ["/"], BacklinkState.TO_GONE: ["2"], BacklinkState.WIN_BACK: ["/"],
    }  # fmt: skip
    live = found[BacklinkState.LIVE]
    assert live.counts == {state: len(names) for state, names in rows.items()} and live.domains == {
        "live": 1,
        "new": 0,
        "lost": 1,
    }
    assert [(row.domain, row.status, row.rel, row.anchor) for row in live.items] == [
        ("blog.example", 404, "nofollow", ""),
        ("blog.example", 200, "", "good rope"),
    ]
    assert get_backlinks(office.work, office.site.id, BacklinkState.LIVE, text="GOOD").total == 1


def test_what_is_no_period_and_no_site_is_refused(office: Office) -> None:
    for weeks in (0, 105):
        with pytest.raises(InvalidInput, match="no period"):
            get_positions(office.work, office.site.id, PositionFilter(weeks=weeks))
        with pytest.raises(InvalidInput, match="no period"):
            get_backlinks(office.work, office.site.id, BacklinkState.LIVE, weeks)
    with pytest.raises(NotFound):
        get_positions(office.work, 99, PositionFilter())
