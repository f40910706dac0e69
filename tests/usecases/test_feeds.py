"""Calendar feeds: what a program reads, checked with a parser of RFC 5545, and who may."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from icalendar import Calendar

from hodcarrier.core.errors import NotAllowed, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.register.models import Member
from hodcarrier.report.calendar import todo_calendar
from hodcarrier.usecases import feeds, members, todo_changes, todos
from hodcarrier.wire.members import FeedBody, MemberChange
from hodcarrier.wire.todos import TodoBody, TodoChange
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person

DUE = START.date() + timedelta(days=9)


@pytest.fixture
def casper(office: Office) -> Member:
    return person(office, "Casper Dunmore")


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


def make(office: Office, title: str, **more: object) -> int:
    body = TodoBody.model_validate({"site_id": office.site.id, "title": title, "due": DUE, **more})
    return todos.add_todo(office.at(START), body, None).id


def secret_of(url: str | None) -> str:
    assert url is not None
    return url.rsplit("/", 1)[1].removesuffix(".ics")


def read(office: Office, secret: str) -> Calendar:
    name, found = feeds.read_feed(office.at(START), secret)
    return Calendar.from_ical(todo_calendar(name, found, office.work.address, START))


def test_a_member_reads_what_they_do_and_watch(office: Office, casper: Member, imke: Member) -> None:
    own = make(office, "Write, “quoted”; and\nlong " + "word " * 40, assignee=casper.id, labels=["Relaunch"], priority="urgent")
    watched = make(office, "Watched", assignee=imke.id, watchers=[casper.id])
    make(office, "Another's", assignee=imke.id)
    made = feeds.add_feed(office.work, FeedBody(), casper)
    found = read(office, secret_of(made.url))
    assert found["VERSION"] == "2.0" and found["PRODID"] and str(found["NAME"]) == "To-dos of Casper Dunmore"
    events = {str(event["UID"]): event for event in found.walk("VEVENT")}
    assert set(events) == {f"todo-{own}@hodcarrier", f"todo-{watched}@hodcarrier"}
    event = events[f"todo-{own}@hodcarrier"]
    assert str(event["SUMMARY"]).startswith("Write, “quoted”; and") and str(event["SUMMARY"]).endswith("(shop.example)")
    assert (event["DTSTART"].dt, event["DTEND"].dt, event["DTSTAMP"].dt) == (DUE, DUE + timedelta(days=1), START)
    assert (event["TRANSP"], event["PRIORITY"], event["SEQUENCE"]) == ("TRANSPARENT", 1, 1)
    assert str(event["URL"]) == f"https://desk.example/todos/{own}"
    assert event["CATEGORIES"].cats[-1] == "Relaunch" and "Assignee: Casper Dunmore" in str(event["DESCRIPTION"])


def test_lines_are_folded_and_end_as_the_standard_says(office: Office, casper: Member) -> None:
    make(office, "é" * 200, assignee=casper.id)
    made = feeds.add_feed(office.work, FeedBody(), casper)
    name, found = feeds.read_feed(office.work, secret_of(made.url))
    content = todo_calendar(name, found, "", START)
    lines = content.split(b"\r\n")
    assert content.endswith(b"END:VCALENDAR\r\n") and b"\n" not in b"".join(lines)
    assert max(map(len, lines)) <= 75


def test_a_client_s_feed_holds_all_of_its_to_dos_that_are_not_closed(office: Office, casper: Member, imke: Member) -> None:
    number, dropped = make(office, "Nobody's"), make(office, "Dropped")
    change = TodoChange.model_validate({"state": "dropped", "drop_reason": "Not needed"})
    todo_changes.change_todo(office.at(START), dropped, change, None, imke)
    undated = make(office, "Undated")
    todo_changes.change_todo(office.at(START), undated, TodoChange.model_validate({"due": None}), None, imke)
    made = feeds.add_feed(office.work, FeedBody(client_id=office.site.client_id), imke)
    found = read(office, secret_of(made.url))
    assert [str(event["UID"]) for event in found.walk("VEVENT")] == [f"todo-{number}@hodcarrier"]
    assert str(found["NAME"]).startswith("To-dos: ")


def test_a_feed_that_moves_says_so(office: Office, casper: Member) -> None:
    number = make(office, "Call", assignee=casper.id)
    made = feeds.add_feed(office.work, FeedBody(), casper)
    later = date(2026, 12, 24)
    todo_changes.change_todo(office.at(START), number, TodoChange(due=later), None, casper)
    (event,) = read(office, secret_of(made.url)).walk("VEVENT")
    assert event["DTSTART"].dt == later and event["SEQUENCE"] == 2


def test_who_may_read_and_remove(office: Office, casper: Member, imke: Member) -> None:
    made = feeds.add_feed(office.work, FeedBody(), casper)
    assert made.url is not None and made.read_at is None
    assert [(feed.id, feed.url) for feed in feeds.list_feeds(office.work, casper)] == [(made.id, None)]
    assert feeds.list_feeds(office.work, imke) == []
    for wrong in ("", "guessed", secret_of(made.url)[:-1]):
        with pytest.raises(NotFound, match="no such calendar"):
            feeds.read_feed(office.work, wrong)
    feeds.read_feed(office.at(START), secret_of(made.url))
    assert feeds.list_feeds(office.work, casper)[0].read_at == START
    with pytest.raises(NotAllowed):
        feeds.remove_feed(office.work, made.id, imke)
    members.change_member(office.work, casper.id, MemberChange(active=False), imke)
    with pytest.raises(NotFound):
        feeds.read_feed(office.work, secret_of(made.url))
    members.change_member(office.work, casper.id, MemberChange(active=True), imke)
    feeds.remove_feed(office.work, made.id, casper)
    with pytest.raises(NotFound):
        feeds.read_feed(office.work, secret_of(made.url))
