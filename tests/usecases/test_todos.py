"""A to-do's life over several runs: confirmed, opened again, left as it is; one finding in one to-do."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, page, text_file
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import DueSpan, PlaceOutcome, TodoState
from hodcarrier.register.models import Member, Todo
from hodcarrier.usecases import members, runs, todo_changes, todo_lists, todos, waivers
from hodcarrier.usecases.todo_lists import TodoFilter
from hodcarrier.usecases.todo_runs import judge_look
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.todos import TodoBody, TodoChange
from hodcarrier.wire.waivers import WaiverBody
from tests.usecases.conftest import START, Office

WEEK = timedelta(weeks=1)
ROBOTS = text_file("/robots.txt", "User-agent: *\nDisallow: /private\n")


def shop(broken: int) -> list[Sample]:
    """A shop of three pages of which ``broken`` link to an address that is gone."""
    pages = [
        page(
            doc(f'<a href="/1">1</a><a href="/2">2</a><h1>Page {n}</h1>' + ('<a href="/gone">old</a>' if n < broken else "")),
            path,
        )
        for n, path in enumerate(("/", "/1", "/2"))
    ]
    return [*pages, ROBOTS, gone("/gone")]


@pytest.fixture
def member(office: Office) -> Member:
    body = MemberBody(name="Casper Dunmore", email="casper@agency.example", role=Role.FIXER, password="long enough words")
    made = members.add_member(office.work, body)
    with office.work.session() as session:
        found = session.get(Member, made.id)
        assert found is not None
        session.expunge(found)
        return found


def make(office: Office, weeks: int, **more: object) -> int:
    body = TodoBody.model_validate({"site_id": office.site.id, "check": "link-broken", **more})
    return todos.add_todo(office.at(START + weeks * WEEK + timedelta(hours=1)), body, None).id


def set_done(office: Office, todo: int, member: Member, weeks: int) -> None:
    todo_changes.change_todo(office.at(START + weeks * WEEK + timedelta(days=2)), todo, TodoChange(state="done"), None, member)


def story(office: Office, todo: int) -> list[str]:
    return [event.text for event in todo_lists.get_todo(office.work, todo).events if event.kind == "run"]


def test_done_and_passed_is_confirmed(office: Office, member: Member) -> None:
    office.audit(START, shop(3))
    todo = make(office, 0)
    assert todo_lists.get_todo(office.work, todo).places == 3
    set_done(office, todo, member, 0)
    office.audit(START + WEEK, shop(0))
    found = todo_lists.get_todo(office.work, todo)
    assert (found.state, found.cleared, found.flag) == ("confirmed", 3, "")
    assert story(office, todo) == ["Confirmed: all 3 places passed."]


def test_open_and_passed_is_confirmed_and_says_that_the_audit_did_it(office: Office) -> None:
    office.audit(START, shop(1))
    todo = make(office, 0)
    office.audit(START + WEEK, shop(0))
    assert todo_lists.get_todo(office.work, todo).state == "confirmed"
    assert "the audit did that" in story(office, todo)[0]


def test_done_and_still_there_is_opened_again(office: Office, member: Member) -> None:
    office.audit(START, shop(3))
    todo = make(office, 0)
    set_done(office, todo, member, 0)
    office.audit(START + WEEK, shop(1))
    found = todo_lists.get_todo(office.work, todo)
    assert (found.state, found.flag, found.cleared) == ("open", "still there on 1 of 3", 2)


def test_unverified_places_leave_it_as_it_is(office: Office, member: Member) -> None:
    office.audit(START, shop(3))
    todo = make(office, 0)
    set_done(office, todo, member, 0)
    shut = [replace(s, body="User-agent: *\nDisallow: /") if s.path == "/robots.txt" else s for s in shop(0)]
    for weeks in (1, 2):
        office.audit(START + weeks * WEEK, shut)
        found = todo_lists.get_todo(office.work, todo)
        assert (found.state, found.cleared) == ("done", 0), "pages behind one that cannot be read are not gone"
        assert found.flag == "3 of 3 places unverified"
    office.audit(START + 3 * WEEK, shop(0))
    assert todo_lists.get_todo(office.work, todo).state == "confirmed"


def test_a_confirmed_one_whose_findings_return_is_opened_again(office: Office, member: Member) -> None:
    office.audit(START, shop(3))
    todo = make(office, 0)
    office.audit(START + WEEK, shop(0))
    office.audit(START + 2 * WEEK, shop(0))
    assert len(story(office, todo)) == 1, "what is confirmed already is not told again"
    office.audit(START + 3 * WEEK, shop(2))
    found = todo_lists.get_todo(office.work, todo)
    assert (found.state, found.flag, found.cleared, found.closed_at) == ("open", "back on 2 of 3 places", 1, None)
    assert story(office, todo)[-1] == "Opened again: the findings are back on 2 of 3 places."
    office.audit(START + 4 * WEEK, shop(0))
    assert todo_lists.get_todo(office.work, todo).state == "confirmed"


def test_findings_that_return_and_are_in_another_todo_stay_there(office: Office, member: Member) -> None:
    office.audit(START, shop(1))
    first = make(office, 0)
    office.audit(START + WEEK, shop(0))
    office.audit(START + 2 * WEEK, shop(1))
    todo_changes.change_todo(office.work, first, TodoChange(state="dropped", drop_reason="not ours"), None, member)
    second = make(office, 2)
    office.audit(START + 3 * WEEK, shop(0))
    assert todo_lists.get_todo(office.work, second).state == "confirmed"
    third_run = office.audit(START + 4 * WEEK, shop(1))
    assert third_run
    assert todo_lists.get_todo(office.work, first).state == "dropped"
    assert todo_lists.get_todo(office.work, second).state == "open"
    todo_changes.change_todo(office.work, second, TodoChange(state="dropped", drop_reason="not ours"), None, member)
    third = make(office, 4)
    office.audit(START + 5 * WEEK, shop(1))
    assert [todo_lists.get_todo(office.work, n).state for n in (first, second, third)] == ["dropped", "dropped", "open"]


def test_of_two_confirmed_ones_with_the_same_finding_the_later_is_opened_again(office: Office, member: Member) -> None:
    office.audit(START, shop(1))
    first = make(office, 0)
    todo_changes.change_todo(office.work, first, TodoChange(state="dropped", drop_reason="later"), None, member)
    second = make(office, 0)
    office.audit(START + WEEK, shop(0))
    with office.work.session() as session:
        found = session.get(Todo, first)
        assert found is not None
        found.state = TodoState.CONFIRMED
    office.audit(START + 2 * WEEK, shop(1))
    assert [todo_lists.get_todo(office.work, n).state for n in (first, second)] == ["confirmed", "open"]


@pytest.mark.parametrize(
    "plan",
    [
        {"use_links": False, "use_sitemaps": False, "addresses": ["https://shop.example/"]},
        {"path_prefix": "/help/", "addresses": ["https://shop.example/help/"]},
        {"exclude": ["/1", "/2", "/gone"]},
    ],
)
def test_a_narrower_plan_confirms_nothing(office: Office, member: Member, plan: dict[str, object]) -> None:
    office.audit(START, shop(3))
    todo = make(office, 0)
    set_done(office, todo, member, 0)
    for weeks in (1, 2):
        office.audit(START + weeks * WEEK, shop(3), plan)
        found = todo_lists.get_todo(office.work, todo)
        assert (found.state, found.cleared) == ("done", 0)
    office.audit(START + 3 * WEEK, shop(3), {})
    assert todo_lists.get_todo(office.work, todo).state == "open"


def test_a_new_fault_of_the_same_check_is_not_part_of_an_old_todo(office: Office) -> None:
    office.audit(START, shop(1))
    todo = make(office, 0)
    office.audit(START + WEEK, shop(3))
    assert todo_lists.get_todo(office.work, todo).places == 1
    second = todo_lists.get_todo(office.work, make(office, 1))
    assert second.places == 2 and f"1 more are in to-do {todo} already" in second.events[0].text
    with pytest.raises(Conflict, match=f"to-do {todo} already"):
        make(office, 1)


def test_a_dropped_or_confirmed_todo_frees_its_findings(office: Office, member: Member) -> None:
    office.audit(START, shop(1))
    todo = make(office, 0)
    todo_changes.change_todo(office.work, todo, TodoChange(state="dropped", drop_reason="later"), None, member)
    assert make(office, 0) != todo


def test_a_waived_place_counts_as_cleared(office: Office) -> None:
    office.audit(START, shop(1))
    todo = make(office, 0)
    waivers.add_waiver(
        office.at(START + timedelta(days=1)), office.site.id, WaiverBody(check="link-broken", reason="Meant so"), None
    )
    office.audit(START + WEEK, shop(1))
    assert todo_lists.get_todo(office.work, todo).state == "confirmed"


def test_due_dates(office: Office) -> None:
    office.audit(START, shop(1))
    by_severity = todo_lists.get_todo(office.work, make(office, 0))
    assert by_severity.due == date(2026, 11, 17), "high: ten working days"
    with pytest.raises(InvalidInput, match="in the past"):
        make(office, 0, due=date(2026, 11, 2))
    late = todo_lists.get_todo(office.at(START + timedelta(days=20)), by_severity.id)
    assert (late.overdue, late.days_late) == (True, 6)
    overdue = todo_lists.list_todos(office.at(START + timedelta(days=20)), TodoFilter(due=DueSpan.OVERDUE)).items
    assert [t.id for t in overdue] == [by_severity.id]
    assert todo_lists.list_todos(office.work, TodoFilter(due=DueSpan.OVERDUE)).items == []


def test_people_that_cannot_be_given_work(office: Office) -> None:
    office.audit(START, shop(1))
    guest = members.add_member(
        office.work,
        MemberBody(
            name="Guest", email="g@rope.example", role="guest", password="long enough words", client_id=office.site.client_id
        ),
    )
    with pytest.raises(NotFound, match="no member 99"):
        make(office, 0, assignee=99)
    with pytest.raises(InvalidInput, match="guest"):
        make(office, 0, assignee=guest.id)


def test_titles_say_where(office: Office) -> None:
    office.audit(START, shop(3))
    with office.work.open_run(runs.list_runs(office.work).items[0].id) as opened:
        cause = opened.rows("SELECT id FROM cause WHERE check_id = 'link-broken'")[0][0]
    todo = todo_lists.get_todo(office.work, make(office, 0, check="", cause=cause))
    assert todo.title == "Broken internal links: /gone" and todo.places == 3
    by_hand = todos.add_todo(office.work, TodoBody(site_id=office.site.id, title="Ring them"), None)
    assert (by_hand.title, by_hand.places) == ("Ring them", 0)
    office.audit(START + WEEK, shop(0))
    assert todo_lists.get_todo(office.work, by_hand.id).state == "open", "no run judges what it cannot see"


def test_a_new_due_date_is_told_once(office: Office) -> None:
    made = todos.add_todo(office.at(START), TodoBody(site_id=office.site.id, title="Ring them", due=START.date()), None)
    later = START.date() + timedelta(days=3)
    for _ in range(2):
        found = todo_changes.change_todo(office.at(START), made.id, TodoChange(due=later), None, Member(id=None, name=""))
    assert found.due == later
    assert [event.kind for event in found.events if event.kind == "due"] == ["due"]


def test_what_was_opened_again_without_all_of_its_findings_goes_on(office: Office, member: Member) -> None:
    """Confirmed by a look, one of its findings taken by another to-do before the next run found both again: it has the other one, and can be
    worked on and judged like any."""
    office.audit(START, shop(2))
    first = make(office, 0)
    linked = todo_lists.get_todo(office.work, first).linked
    judge_look(office.work, first, {bytes.fromhex(k.fingerprint): PlaceOutcome.CLEARED for k in linked}, member)
    second = make(office, 0, check="", fingerprints=[linked[0].fingerprint], title="One of them")
    office.audit(START + WEEK, shop(2))
    assert todo_lists.get_todo(office.work, first).state == "open"
    set_done(office, first, member, 1)
    office.audit(START + 2 * WEEK, shop(2))
    assert [todo_lists.get_todo(office.work, todo).state for todo in (first, second)] == ["open", "open"]
    office.audit(START + 3 * WEEK, shop(0))
    assert [todo_lists.get_todo(office.work, todo).state for todo in (first, second)] == ["confirmed", "confirmed"]
