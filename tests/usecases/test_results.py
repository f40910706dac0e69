"""What a run found, as the use cases give it: parts, filters, the to-dos that findings are in, trends of any figure."""

from __future__ import annotations

from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, load, page, text_file
from hodcarrier.core.errors import NotFound
from hodcarrier.core.inventory.filters import EVERYTHING
from hodcarrier.core.judge.trend import TrendState
from hodcarrier.core.states import CheckOutcome, InventoryKind, Severity
from hodcarrier.usecases import inventory, remarks, results, sites, todo_lists, todos, trends, waivers
from hodcarrier.wire.remarks import RemarkBody
from hodcarrier.wire.results import FindingRow
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from tests.usecases.conftest import START, Office

WEEK = timedelta(weeks=1)
FULL = "<title>A title of some length</title><meta name=description content='What it is'>"


def shop(broken: int, head: str = FULL) -> list[Sample]:
    links = "".join(f'<a href="/gone{number}">gone</a>' for number in range(broken))
    return [page(doc(f"<h1>Shop</h1>{links}", head)), *(gone(f"/gone{number}") for number in range(broken))]


def listed(office: Office, run: str, **more: object) -> list[FindingRow]:
    values: dict[str, object] = {"check": "", "cause": None, "severity": None, "waived": False, "limit": 100, "after": 0, **more}
    return results.list_findings(office.work, run, **values).items  # type: ignore[arg-type]


def test_findings_come_in_parts_that_make_the_whole(office: Office) -> None:
    run = office.audit(START, shop(5))
    whole = listed(office, run, check="link-broken")
    assert len(whole) == 5
    met, after, parts = [], 0, 0
    while parts < 9:
        parts += 1
        found = results.list_findings(
            office.work, run, check="link-broken", cause=None, severity=None, waived=False, limit=2, after=after
        )
        assert found.total == 5
        met += [row.id for row in found.items]
        if found.after is None:
            break
        assert len(found.items) == 2
        after = int(found.after)
    assert (met, parts) == ([row.id for row in whole], 3)
    exact = results.list_findings(
        office.work, run, check="link-broken", cause=None, severity=None, waived=False, limit=5, after=0
    )
    assert exact.after is None, "there is no further part"


def test_findings_are_chosen_by_severity_and_cause(office: Office) -> None:
    run = office.audit(START, shop(2))
    whole = listed(office, run)
    for severity in Severity:
        assert [row.id for row in listed(office, run, severity=severity)] == [row.id for row in whole if row.severity == severity]
    cause = results.list_causes(office.work, run, "link-broken")[0]
    assert 0 < len(listed(office, run, cause=cause.id)) == cause.findings


def test_a_cause_and_a_check_name_the_to_do_that_has_their_findings(office: Office) -> None:
    run = office.audit(START, shop(2))
    first, second = results.list_causes(office.work, run, "link-broken")
    made = todos.add_todo(office.work, TodoBody(site_id=office.site.id, check="link-broken", cause=first.id), None)
    again = results.list_causes(office.work, run, "link-broken")
    assert [[todo.id for todo in cause.todos] for cause in again] == [[made.id], []]
    rows = {row.id: [todo.id for todo in row.todos] for row in results.list_checks(office.work, run)}
    assert rows["link-broken"] == [made.id] and all(not ids for check, ids in rows.items() if check != "link-broken")
    assert second.id in [cause.id for cause in results.list_causes(office.work, run, "link-broken", limit=1, after=first.id)]


def test_checks_show_the_change_since_the_run_before(office: Office) -> None:
    first, second = office.audit(START, shop(1)), office.audit(START + WEEK, shop(3))
    assert {row.id: row.change for row in results.list_checks(office.work, first)}["link-broken"] is None
    assert {row.id: row.change for row in results.list_checks(office.work, second)}["link-broken"] == 2


def test_a_check_shows_its_findings_over_the_runs_up_to_this_one(office: Office) -> None:
    runs = [office.audit(START + number * WEEK, shop(broken)) for number, broken in enumerate((2, 0, 3))]
    assert [count for _, count in results.get_check(office.work, runs[1], "link-broken").history] == [2, 0]
    last = results.get_check(office.work, runs[2], "link-broken")
    assert [count for _, count in last.history] == [2, 0, 3]
    assert [moment for moment, _ in last.history] == [START, START + WEEK, START + 2 * WEEK]
    assert len(last.causes) == 3 and last.retired is None
    with pytest.raises(NotFound, match="no check called “link-brokn”"):
        results.get_check(office.work, runs[2], "link-brokn")


def test_pages_come_in_parts(office: Office) -> None:
    run = office.audit(START, shop(3))
    first = inventory.list_inventory(office.work, run, InventoryKind.PAGE, EVERYTHING, "", "url", 3, 0)
    assert (len(first.items), first.total, first.after) == (3, 4, "3")
    last = inventory.list_inventory(office.work, run, InventoryKind.PAGE, EVERYTHING, "", "url", 3, 3)
    assert (len(last.items), last.after) == (1, None)


def mixed(broken: int, pages: int = 30) -> list[Sample]:
    """A front page with links to so many pages, of which some are gone."""
    links = "".join(f'<a href="/p{number}">p</a>' for number in range(pages))
    there = [page(doc(f"<h1>{number}</h1>", FULL), f"/p{number}") for number in range(broken, pages)]
    return [page(doc(f"<h1>Shop</h1>{links}", FULL)), *(gone(f"/p{number}") for number in range(broken)), *there]


@pytest.mark.parametrize(
    ("figure", "broken", "state", "change"),
    [
        ("check.link-broken", (1, 1, 1), TrendState.STEADY, 0),
        ("check.link-broken", (8, 4, 0), TrendState.IMPROVING, -8),
        ("check.link-broken", (0, 4, 8), TrendState.WORSENING, 8),
        ("pages", (1, 1, 1), TrendState.STEADY, 0),
    ],
)
def test_a_trend_is_told_in_a_word(
    office: Office, figure: str, broken: tuple[int, ...], state: TrendState, change: float
) -> None:
    for number, count in enumerate(broken):
        office.audit(START + number * WEEK, mixed(count))
    found = trends.get_trend(office.work, office.site.id, figure)
    assert (found.state, found.change) == (state, change)


@pytest.mark.parametrize(("last", "state"), [(21, TrendState.STEADY), (24, TrendState.WORSENING)])
def test_many_findings_are_steady_within_a_twentieth_a_month(office: Office, last: int, state: TrendState) -> None:
    """Of 20 findings a change of one a month is steady, one of four is not; 30 days lie between the first and the last."""
    for days, count in ((0, 20), (15, 20 + (last - 20) // 2), (30, last)):
        office.audit(START + timedelta(days=days), mixed(count))
    assert trends.get_trend(office.work, office.site.id, "check.link-broken").state == state


@pytest.mark.parametrize(("pages", "state"), [(20, TrendState.STEADY), (21, TrendState.STEADY), (22, TrendState.IMPROVING)])
def test_of_what_is_better_the_more_one_a_month_is_steady(office: Office, pages: int, state: TrendState) -> None:
    for days, count in ((0, 20), (15, (20 + pages) / 2), (30, pages)):
        office.audit(START + timedelta(days=days), mixed(0, int(count) - 1))
    assert trends.get_trend(office.work, office.site.id, "pages").state == state


def test_a_trend_has_the_remarks_of_its_site_alone(office: Office) -> None:
    other = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/"), None)
    for number, text in ((office.site.id, "New theme"), (other.id, "New shop")):
        remarks.add_remark(office.work, number, RemarkBody(day=START.date(), text=text), None)
    assert [remark.text for remark in trends.get_trend(office.work, office.site.id).remarks] == ["New theme"]


def test_a_point_without_a_figure_says_why(office: Office) -> None:
    office.audit(START, [text_file("/robots.txt", "User-agent: *\nDisallow: /"), *shop(0)])
    office.audit(START + WEEK, shop(0))
    points = trends.get_trend(office.work, office.site.id, "area.titles").points
    assert (points[0].value, points[0].note) == (None, "not examined") and points[1].note == ""


def test_days_late_are_counted_from_the_due_date_on(office: Office) -> None:
    for days in (-3, 0, 4):
        todos.add_todo(
            office.at(START - timedelta(days=30)),
            TodoBody(site_id=office.site.id, title=str(days), due=(START + timedelta(days=days)).date()),
            None,
        )
    assert {todo.title: todo.days_late for todo in todo_lists.list_todos(office.work).items} == {"-3": 3, "0": 0, "4": 0}


def test_the_waivers_of_a_site_that_there_is_not(office: Office) -> None:
    assert waivers.list_waivers(office.work, office.site.id) == []
    with pytest.raises(NotFound, match="no site 999"):
        waivers.list_waivers(office.work, 999)


def test_checks_by_outcome_are_apart_and_say_what_the_check_says_itself(office: Office) -> None:
    run = office.audit(START, shop(2))
    failing = {row.id for row in results.list_checks(office.work, run)}
    seen: set[str] = set()
    for outcome in CheckOutcome:
        rows = results.list_checks(office.work, run, outcome)
        assert not seen & {row.id for row in rows}
        seen |= {row.id for row in rows}
        for row in rows[:5]:
            single = results.get_check(office.work, run, row.id)
            assert (single.outcome, single.examined, single.failing) == (
                row.outcome,
                row.examined,
                row.failing,
            ) and row.outcome == outcome
    assert failing <= seen and len(seen) == len(load())
    nothing = {row.id: row for row in results.list_checks(office.work, run, CheckOutcome.NOT_APPLICABLE)}
    assert nothing["media-alt-missing"].passed == 0 < (nothing["media-alt-missing"].not_applicable or 0)
