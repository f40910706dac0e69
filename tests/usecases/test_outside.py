"""What is known of pages from outside: visits, pages' own figures, columns of the inventory, and the order of work."""

from __future__ import annotations

from datetime import date, timedelta

import pytest

from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import Conflict, InvalidInput, InvalidUrl
from hodcarrier.core.inventory.views import VIEWS
from hodcarrier.core.states import Every, InventoryKind, VisitBy, VisitView, Weight
from hodcarrier.usecases import inventory, outside_trends, results, trends
from hodcarrier.usecases.inventory import filter_of, list_inventory
from hodcarrier.usecases.page_figures import get_page_figures
from hodcarrier.usecases.visits import VisitFilter, get_visits
from tests.usecases.conftest import START, Office
from tests.usecases.test_figures import imported

SHOP = "https://shop.example/"
LAST = date(2026, 11, 29)
VISITS = ["date", "page", "channel", "sessions", "engaged sessions", "conversions"]
SEARCH = ["date", "page", "query", "clicks", "impressions", "position"]
LINKS = ["linking page", "target page", "first seen", "last seen", "lost on"]


def each_day(days: int = 56) -> list[tuple[int, date]]:
    """Days up to the last, numbered from 0."""
    return [(n, LAST - timedelta(days=days - 1 - n)) for n in range(days)]


def visited(office: Office) -> None:
    """Rope rises from 2 to 4 a day by search, anchors fall from 5 to 1; a newsletter brings one a day to both."""
    rows: list[list[object]] = []
    for n, day in each_day():
        rows += [
            [day, f"{SHOP}rope", "search", 2 if n < 28 else 4, 1, 0.5],
            [day, f"{SHOP}anchors", "search", 5 if n < 28 else 1, "", ""],
            [day, f"{SHOP}rope", "newsletter", 1, 1, 0],
            [day, f"{SHOP}anchors", "newsletter", 1, "", ""],
        ]
    imported(office, rows, VISITS)


def searched(office: Office) -> None:
    """Rope has 3 clicks a day for two queries, the start 10; nobody is shown anchors."""
    rows: list[list[object]] = []
    for _, day in each_day():
        rows += [
            [day, f"{SHOP}rope", "rope", 2, 20, 4],
            [day, f"{SHOP}rope", "mooring rope", 1, 30, 9],
            [day, SHOP, "shop", 10, 12, 1],
        ]
    imported(office, rows, SEARCH)


def audited(office: Office) -> str:
    """Rope lacks its title, anchors its description too; the start is in order."""
    links = '<a href="/rope">Rope</a> <a href="/anchors">Anchors</a>'
    return office.audit(
        START,
        [
            page(doc(f"<h1>Shop</h1>{links}")),
            page(doc("<h1>Rope</h1>All about rope.", head=""), "/rope"),
            page(doc("<h1>Anchors</h1>All about anchors.", head=""), "/anchors"),
        ],
    )


def test_visits_are_added_up_by_page_and_by_channel(office: Office) -> None:
    assert get_visits(office.work, office.site.id, VisitFilter()).first is None
    visited(office)
    found = get_visits(office.work, office.site.id, VisitFilter())
    assert (found.first, found.last, found.before_first) == (date(2026, 11, 2), LAST, date(2026, 10, 5))
    assert [(row.text, row.now.sessions, row.before.sessions, row.movement) for row in found.items] == [
        (f"{SHOP}rope", 140, 84, "rose"),
        (f"{SHOP}anchors", 56, 168, "fell"),
    ]
    assert (found.now.sessions, found.now.engaged, found.now.conversions) == (196, 56, 14.0)
    assert found.counts == {"all": 2, "rising": 1, "at-risk": 1}
    assert (found.channels, len(found.days), found.days[0].visits) == (["newsletter", "search"], 56, 9)
    by_channel = get_visits(office.work, office.site.id, VisitFilter(by=VisitBy.CHANNEL))
    assert [(row.text, row.now.sessions) for row in by_channel.items] == [("search", 140), ("newsletter", 56)]
    assert sum(row.now.sessions for row in by_channel.items) == found.now.sessions


def test_visits_are_narrowed_sorted_and_shown_in_parts(office: Office) -> None:
    visited(office)

    def ask(limit: int = 100, after: int = 0, **which: object) -> list[str]:
        return [row.text for row in get_visits(office.work, office.site.id, VisitFilter(**which), limit=limit, after=after).items]  # type: ignore[arg-type]

    assert ask(view=VisitView.AT_RISK) == [f"{SHOP}anchors"]
    assert ask(sort="visits") == [f"{SHOP}anchors", f"{SHOP}rope"]
    assert ask(sort="-conversions") == [f"{SHOP}rope", f"{SHOP}anchors"]
    assert ask(text="ROPE") == [f"{SHOP}rope"]
    assert ask(limit=1, after=1) == [f"{SHOP}anchors"]
    narrow = get_visits(office.work, office.site.id, VisitFilter(channel="newsletter"))
    assert [row.now.sessions for row in narrow.items] == [28, 28]
    with pytest.raises(InvalidInput, match="Nothing is sorted by"):
        ask(sort="mood")
    with pytest.raises(InvalidInput, match="no period"):
        ask(weeks=0)


def test_a_page_shows_what_is_known_of_it_from_outside(office: Office) -> None:
    nothing = get_page_figures(office.work, office.site.id, f"{SHOP}rope")
    assert (nothing.sentence, nothing.search, nothing.links) == ("There are no figures from outside of this page.", None, None)
    visited(office)
    searched(office)
    imported(
        office,
        [["https://a.example/1", "/rope", "2026-01-01", LAST, ""], ["https://a.example/2", "/rope", "2026-01-01", LAST, ""], ["https://b.example/", "/rope", "2026-01-01", LAST, LAST]],
        LINKS,
    )  # fmt: skip
    imported(office, [[LAST, "rope", "phone", "Cardiff", 4, "/rope"], [LAST, "anchor", "phone", "", 2, "/anchors"]], ["date", "keyword", "device", "place", "rank", "url"])  # fmt: skip
    known = get_page_figures(office.work, office.site.id, f"{SHOP}rope")
    assert known.sentence == (
        "84 clicks from search and 140 visits (67 % more than in the four before) in the four weeks to 29 November 2026; "
        "2 links from 1 other site."
    )
    assert [(row.text, row.now.clicks) for row in known.queries] == [("rope", 56), ("mooring rope", 28)]
    assert [(row.text, row.now.sessions) for row in known.channels] == [("search", 112), ("newsletter", 28)]
    assert [(each.keyword, each.rank, each.place) for each in known.keywords] == [("rope", 4, "Cardiff")]
    assert (known.links, known.linking_domains, known.lost_links) == (2, 1, 1)
    unknown = get_page_figures(office.work, office.site.id, f"{SHOP}knots")
    assert unknown.sentence.startswith("No clicks from search and no visits in the four weeks to 29 November 2026; no link")
    with pytest.raises(InvalidUrl):
        get_page_figures(office.work, office.site.id, "https://")


def rows_of(office: Office, run_id: str, where: str, columns: str, sort: str = "url") -> list[dict[str, object]]:
    of = InventoryKind.PAGE
    part = list_inventory(office.work, run_id, of, filter_of(of, where), columns, sort, 100, 0)
    return [dict(row.values) for row in part.items]


def test_figures_from_outside_are_columns_of_the_inventory(office: Office) -> None:
    run_id = audited(office)
    names = "url,clicks,impressions,position,visits,outside_links"
    [*_, rope] = rows_of(office, run_id, "", names)
    assert rope == {"url": f"{SHOP}rope", "clicks": None, "impressions": None, "position": None, "visits": None, "outside_links": None}  # fmt: skip
    visited(office)
    searched(office)
    start, anchors, rope = rows_of(office, run_id, "", names)
    assert rope == {"url": f"{SHOP}rope", "clicks": 84, "impressions": 1400, "position": 7, "visits": 140, "outside_links": None}
    assert (anchors["clicks"], anchors["position"], anchors["visits"]) == (0, None, 56)
    assert (start["clicks"], start["visits"]) == (280, 0)
    assert [row["url"] for row in rows_of(office, run_id, "clicks > 0 and visits > 100", "url")] == [f"{SHOP}rope"]
    assert [row["url"] for row in rows_of(office, run_id, "", "url", "-visits")] == [f"{SHOP}rope", f"{SHOP}anchors", SHOP]
    figures = inventory.get_inventory_figures(
        office.work, run_id, InventoryKind.PAGE, filter_of(InventoryKind.PAGE, ""), "clicks,visits_change", ""
    )
    assert figures.sums == {"clicks": 364.0, "visits_change": -56.0}
    assert "clicks" in figures.recorded and "outside_links" not in figures.recorded
    written = list(
        inventory.each_row(office.work, run_id, InventoryKind.PAGE, filter_of(InventoryKind.PAGE, ""), ["clicks"], "url")
    )
    assert written == [{"clicks": 280}, {"clicks": 0}, {"clicks": 84}]


def test_an_earlier_run_has_the_figures_of_its_own_time(office: Office) -> None:
    run_id = audited(office)
    office.audit(START + timedelta(days=7), [page(doc("<h1>Shop</h1>"))])
    searched(office)
    assert START.date() == date(2026, 11, 3)
    [row] = rows_of(office, run_id, 'url ends with "rope"', "clicks,clicks_change")
    assert row == {"clicks": 3 * 28, "clicks_change": 3 * 28 - 3 * 2}, "two of the four weeks before have no figures"


def test_views_of_content_say_which_pages_are_worth_a_look(office: Office) -> None:
    run_id = audited(office)
    searched(office)
    views = {view.name: view for view in VIEWS if view.of == InventoryKind.PAGE}

    def shown(name: str) -> list[object]:
        view = views[name]
        return [row["url"] for row in rows_of(office, run_id, view.where, ",".join(view.columns), view.sort)]

    assert shown("Content") == [SHOP, f"{SHOP}rope", f"{SHOP}anchors"]
    assert shown("Nobody comes here") == [f"{SHOP}anchors"]
    assert shown("Worth updating") == [f"{SHOP}rope"]
    assert shown("Clicked, with severe findings") == [SHOP, f"{SHOP}rope"]
    assert shown("Gone, but linked from other sites") == []


def test_work_is_put_in_order_by_what_pages_get(office: Office) -> None:
    run_id = audited(office)
    with pytest.raises(Conflict, match="no search figures of this site"):
        results.list_checks(office.work, run_id, weight=Weight.CLICKS)
    searched(office)
    with pytest.raises(Conflict, match="no visits of this site"):
        results.list_causes(office.work, run_id, weight=Weight.VISITS)
    usual = results.list_checks(office.work, run_id)
    found = results.list_checks(office.work, run_id, weight=Weight.CLICKS)
    assert {row.id for row in found} == {row.id for row in usual}
    assert all(row.weight is None for row in usual)
    titles = next(row for row in found if row.id == "title-missing")
    assert titles.weight == 84, "rope has them, anchors has none; each page counts once"
    causes = results.list_causes(office.work, run_id, weight=Weight.CLICKS)
    worth = [cause.weight or 0 for cause in causes]
    assert worth == sorted(worth, reverse=True) and worth[0] > 0
    assert {cause.id for cause in causes} == {cause.id for cause in results.list_causes(office.work, run_id)}
    rest = results.list_causes(office.work, run_id, limit=500, after=causes[0].id, weight=Weight.CLICKS)
    assert [cause.id for cause in rest] == [cause.id for cause in causes[1:]]
    with pytest.raises(InvalidInput, match="no place 99999"):
        results.list_causes(office.work, run_id, after=99_999, weight=Weight.CLICKS)


def test_figures_from_outside_are_followed_by_week_and_month(office: Office) -> None:
    empty = trends.get_trend(office.work, office.site.id, "search.clicks")
    assert (empty.points, empty.words) == ([], "Clicks from search: 0 weeks are too few for a trend; three are needed.")
    searched(office)
    visited(office)
    imported(office, [["2026-10-01", "Referring domains", 40], ["2026-11-05", "Referring domains", 46]], ["day", "name", "value"])
    weeks = trends.get_trend(office.work, office.site.id, "search.clicks")
    assert weeks.every == Every.WEEK and [p.value for p in weeks.points] == [91.0] * 8
    assert weeks.state == "steady" and weeks.between.startswith("Clicks from search: no change between 11 October")
    months = trends.get_trend(office.work, office.site.id, "visits.sessions", every=Every.MONTH)
    assert [(p.value, p.note) for p in months.points] == [(None, "figures of only 27 days"), (None, "figures of only 29 days")]
    place = trends.get_trend(office.work, office.site.id, "search.position", start=LAST - timedelta(days=6))
    assert [p.value for p in place.points] == [pytest.approx((20 * 4 + 30 * 9 + 12) / 62)]
    assert place.high_is_good is False
    site = trends.get_trend(office.work, office.site.id, "site.Referring domains", every=Every.MONTH)
    assert [p.value for p in site.points] == [40.0, 46.0] and site.high_is_good is None
    figures = [each.figure for each in outside_trends.outside_figures(office.work, office.site.id)]
    assert figures == ["search.clicks", "search.impressions", "search.ctr", "search.position", "visits.sessions", "visits.conversions", "site.Referring domains"]  # fmt: skip
    with pytest.raises(InvalidInput, match="no figure “Mood”"):
        trends.get_trend(office.work, office.site.id, "site.Mood")


def test_links_and_positions_are_followed_as_they_stood(office: Office) -> None:
    rows: list[list[object]] = [
        ["https://a.example/1", "/", "2026-11-02", "2026-11-22", ""],
        ["https://a.example/2", "/", "2026-11-10", "2026-11-12", "2026-11-17"],
        ["https://b.example/", "/", "2026-11-10", "2026-11-22", ""],
    ]
    imported(office, rows, LINKS)

    def values(figure: str) -> list[float | None]:
        return [point.value for point in trends.get_trend(office.work, office.site.id, figure).points]

    assert values("links.live") == [1.0, 3.0, 2.0]
    assert values("links.domains") == [1.0, 2.0, 2.0]
    looks: list[list[object]] = [["2026-11-03", "rope", 2], ["2026-11-03", "anchor", 9], ["2026-11-10", "rope", 5], ["2026-11-10", "anchor", "> 100"]]  # fmt: skip
    imported(office, looks, ["date", "keyword", "rank"])
    assert (values("positions.top3"), values("positions.top10")) == ([1.0, 0.0], [2.0, 1.0])


def test_runs_fall_into_weeks_and_months(office: Office) -> None:
    for days in (0, 2, 14):
        office.audit(START + timedelta(days=days), [page(doc("<h1>Shop</h1>"))], {"pages_max": 50 + days})
    weeks = trends.get_trend(office.work, office.site.id, every=Every.WEEK)
    assert [(p.first, p.note, p.value is not None) for p in weeks.points] == [
        (date(2026, 11, 2), "plan changed", True),
        (date(2026, 11, 9), "no run", False),
        (date(2026, 11, 16), "plan changed", True),
    ]
    assert weeks.points[0].at == START + timedelta(days=2), "the last run of the week counts"
    assert "2 weeks are too few" in weeks.words and "plan changed on 17 November" in weeks.between
    assert len(trends.get_trend(office.work, office.site.id, every=Every.MONTH).points) == 1
