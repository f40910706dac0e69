"""To-dos that come back, tables of to-dos, attachments, saved views."""

from __future__ import annotations

import base64
import csv
import io
from datetime import date, timedelta

import pytest

from hodcarrier.core.attachments import clean_name, media_of
from hodcarrier.core.errors import Conflict, HodcarrierError, InvalidInput, InvalidSchedule, NotAllowed, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import Priority, TodoState, ViewPlace
from hodcarrier.register.models import Member
from hodcarrier.usecases import clients, recurring_todos, todo_changes, todo_files, todo_lists, todo_tables, views
from hodcarrier.usecases.recurring_todos import make_due
from hodcarrier.usecases.todo_lists import TodoFilter
from hodcarrier.wire.clients import ClientChange
from hodcarrier.wire.todo_things import FILE_BYTES_MAX, RecurringBody, TodoFileBody, TodoTable
from hodcarrier.wire.todos import TodoChange, TodoOut
from hodcarrier.wire.views import ViewBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person

DAY = timedelta(days=1)
PNG = base64.b64decode("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mNkYAAAAAYAAjCB0C8AAAAASUVORK5CYII=")


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke", Role.ANALYST)


def titles(office: Office) -> list[tuple[str, TodoState, date | None]]:
    return [(t.title, t.state, t.due) for t in todo_lists.list_todos(office.work, TodoFilter(sort="created")).items]


# -- recurring -----------------------------------------------------------------------------------------------------


def recur(office: Office, imke: Member, rule: str = "weekly:TU", **more: object) -> int:
    body = RecurringBody.model_validate({"site_id": office.site.id, "title": "Look", "rule": rule, "days": 3, **more})
    return recurring_todos.add_recurring(office.work, body, imke).id


def after(office: Office, days: int) -> list[int]:
    return make_due(office.at(START + days * DAY))


def test_one_is_made_on_each_of_its_days_while_the_last_one_is_done(office: Office, imke: Member) -> None:
    """START is a Tuesday."""
    recur(office, imke, assignee=imke.id, labels=["monthly look"], priority="high")
    (first,) = after(office, 0)
    made = todo_lists.get_todo(office.work, first)
    assert (made.title, made.due, made.assignee, made.labels, made.priority) == (
        "Look", date(2026, 11, 6), "Imke", ["monthly look"], Priority.HIGH,
    )  # fmt: skip
    assert made.events[0].text == "Made because it comes back every Tuesday."
    assert after(office, 0) == after(office, 6) == [], "it is there already"
    assert after(office, 7) == [], "the last one is still open"
    todo_changes.change_todo(office.work, first, TodoChange(state=TodoState.DONE), None, imke)
    assert after(office, 13) == [] and len(after(office, 14)) == 1


def test_days_that_were_missed_are_made_up_for_once(office: Office, imke: Member) -> None:
    recur(office, imke, "daily")
    assert len(after(office, 5)) == 1 and after(office, 5) == []
    (row,) = recurring_todos.list_recurring(office.work)
    assert row.next_on == (START + 6 * DAY).date() and row.last_todo == 1


def test_holidays_push_the_due_date(office: Office, imke: Member) -> None:
    clients.change_client(office.work, office.site.client_id, ClientChange(holidays=[date(2026, 11, 5)]), imke)
    recur(office, imke)
    after(office, 0)
    assert titles(office) == [("Look", TodoState.OPEN, date(2026, 11, 9))]


def test_nothing_comes_back_for_an_archived_client(office: Office, imke: Member) -> None:
    recur(office, imke)
    clients.change_client(office.work, office.site.client_id, ClientChange(archived=True), imke)
    assert after(office, 0) == [] and recurring_todos.list_recurring(office.work) == []
    assert len(recurring_todos.list_recurring(office.work, office.site.client_id)) == 1


def test_what_comes_back_no_more_leaves_what_was_made(office: Office, imke: Member) -> None:
    number = recur(office, imke)
    after(office, 0)
    recurring_todos.remove_recurring(office.work, number, imke)
    assert after(office, 30) == [] and len(titles(office)) == 1
    with pytest.raises(NotFound):
        recurring_todos.remove_recurring(office.work, number, imke)


def test_somebody_who_has_left_is_given_nothing(office: Office, imke: Member) -> None:
    oona = person(office, "Oona", Role.FIXER)
    recur(office, imke, assignee=oona.id)
    with office.work.session() as session:
        session.get_one(Member, oona.id).active = False
    (number,) = after(office, 0)
    assert todo_lists.get_todo(office.work, number).assignee == ""


@pytest.mark.parametrize("rule", ["", "sometimes", "FREQ=DAILY;UNTIL=20200101T000000Z", "FREQ=HOURLY"])
def test_a_rule_must_name_days_to_come(office: Office, imke: Member, rule: str) -> None:
    with pytest.raises(InvalidSchedule):
        recur(office, imke, rule)


# -- tables --------------------------------------------------------------------------------------------------------


def take(office: Office, imke: Member, text: str, *, check_only: bool = False) -> list[TodoOut]:
    return todo_tables.import_todos(office.work, TodoTable(csv=text, check_only=check_only), imke).todos


def test_a_row_is_a_to_do(office: Office, imke: Member) -> None:
    table = (
        "\ufeffSite;x,TITLE,Site,due,Assignee,priority,severity,hours,labels,note\r\n"
        'x,"Ask, politely",https://shop.example/,2026-12-01,imke,High,low,"1,5",seo; shop,"Two\nlines"\r\n'
        ",,,,,,,,,\r\n"
        "x,Agree,1,,,,,,,\r\n"
    )
    first, second = take(office, imke, table)
    assert (first.title, first.site_host, first.due, first.assignee) == (
        "Ask, politely",
        "shop.example",
        date(2026, 12, 1),
        "Imke",
    )
    assert (first.priority, first.severity, first.estimate_hours, first.labels) == ("high", "low", 1.5, ["seo", "shop"])
    assert first.note == "Two\nlines" and second.due == date(2026, 12, 15), "the client's target for medium ones"


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("nowhere.example,A,,,,,,", r"Line 3: there is no own site “nowhere\.example”"),
        ("shop.example,,,,,,,", "Line 3: the to-do has no title"),
        ("shop.example,A,Nobody,,,,,", "Line 3: nobody called “Nobody”"),
        ("shop.example,A,,tomorrow,,,,", "Line 3: “tomorrow” is not a day"),
        ("shop.example,A,,2026-11-02,,,,", "is in the past"),
        ("shop.example,A,,,soon,,,", "“soon” is no priority"),
        ("shop.example,A,,,,bad,,", "“bad” is no severity"),
        ("shop.example,A,,,,,-1,", "is no number of hours"),
        ("shop.example,A,,,,,nan,", "is no number of hours"),
        (f"shop.example,A,,,,,,{'x' * 41}", "too many labels, or one is too long"),
        (f"shop.example,{'x' * 301},,,,,,", "more than 300 characters"),
    ],
)
def test_nothing_is_made_when_one_row_is_wrong(office: Office, imke: Member, row: str, words: str) -> None:
    head = "site,title,assignee,due,priority,severity,hours,labels\nshop.example,Fine,,,,,,\n"
    for check_only in (True, False):
        with pytest.raises(InvalidInput, match=words):
            take(office, imke, head + row, check_only=check_only)
    assert titles(office) == []


@pytest.mark.parametrize("text", ["", "title\nA\n", "site,title\n", 'site,title\nshop.example,"A\n' + "x" * 200_000])
def test_what_is_no_table_is_refused(office: Office, imke: Member, text: str) -> None:
    with pytest.raises(InvalidInput):
        take(office, imke, text)


def test_the_beginning_of_a_name_is_enough_when_only_one_has_it(office: Office, imke: Member) -> None:
    person(office, "Oona Featherby", Role.FIXER)
    person(office, "Oonagh Tarn", Role.FIXER)
    assert take(office, imke, "site,title,assignee\nshop.example,A,oona f\n")[0].assignee == "Oona Featherby"
    with pytest.raises(InvalidInput, match="nobody called “oo”"):
        take(office, imke, "site,title,assignee\nshop.example,A,oo\n")


def test_a_table_can_be_tried(office: Office, imke: Member) -> None:
    assert take(office, imke, "site,title\nshop.example,A\n", check_only=True) == [] and titles(office) == []


def test_what_is_given_out_can_be_taken_in_again(office: Office, imke: Member) -> None:
    take(office, imke, "site,title,labels,hours,note\nshop.example,=1+1,a; b,2,x\nshop.example,Plain,,,\n")
    text = todo_tables.export_todos(todo_lists.list_todos(office.work).items)
    rows = list(csv.DictReader(io.StringIO(text)))
    assert [row["title"] for row in rows] == ["'=1+1", "Plain"], "no formula"
    again = take(office, imke, text)
    assert [(t.labels, t.estimate_hours, t.note) for t in again] == [(["a", "b"], 2.0, "x"), ([], None, "")]


# -- attachments ---------------------------------------------------------------------------------------------------


def attach(office: Office, imke: Member, name: str = "before.png", content: bytes = PNG) -> int:
    body = TodoFileBody(name=name, content=base64.b64encode(content).decode())
    return todo_files.add_file(office.work, 1, body, imke).id


@pytest.fixture
def one(office: Office, imke: Member) -> Member:
    take(office, imke, "site,title\nshop.example,A\n")
    return imke


def test_an_attachment_is_kept_told_and_taken_away(office: Office, one: Member) -> None:
    number = attach(office, one)
    found, content = todo_files.read_file(office.work, 1, number)
    assert (found.name, found.media, found.size, found.author, content) == ("before.png", "image/png", len(PNG), "Imke", PNG)
    todo_files.remove_file(office.work, 1, number, one)
    assert todo_files.list_files(office.work, 1) == []
    story = [event.text for event in todo_lists.get_todo(office.work, 1).events]
    assert story[1:] == ["Attached before.png.", "Removed the attachment before.png."]


def test_an_attachment_belongs_to_its_to_do(office: Office, one: Member) -> None:
    number = attach(office, one)
    take(office, one, "site,title\nshop.example,B\n")
    for call in (
        lambda: todo_files.read_file(office.work, 2, number),
        lambda: todo_files.remove_file(office.work, 2, number, one),
    ):
        with pytest.raises(NotFound):
            call()


def test_attachments_have_bounds(office: Office, one: Member) -> None:
    for content in ("!!!", "", "YQ=", base64.b64encode(b"x" * (FILE_BYTES_MAX + 1)).decode()):
        with pytest.raises((InvalidInput, ValueError)):
            todo_files.add_file(office.work, 1, TodoFileBody(name="x", content=content), one)
    for _ in range(todo_files.FILES_MAX):
        attach(office, one)
    with pytest.raises(Conflict, match="20 attachments"):
        attach(office, one)


@pytest.mark.parametrize(
    ("content", "media"),
    [
        (PNG, "image/png"),
        (b"<script>alert(1)</script>", "text/plain"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'><script/></svg>", "text/plain"),
        (b"plain words", "text/plain"),
        (b"\xff\x00\x01", "application/octet-stream"),
    ],
)
def test_a_file_is_what_its_content_says(content: bytes, media: str) -> None:
    assert media_of(content) == media


@pytest.mark.parametrize(
    ("name", "clean"),
    [
        ("../../etc/passwd", "passwd"),
        ("C:\\x\\a.png", "a.png"),
        ("...", "file"),
        ('a"b\n.png', "a_b_.png"),
        ("Bild äöü.png", "Bild äöü.png"),
    ],
)
def test_a_name_is_no_path(name: str, clean: str) -> None:
    assert clean_name(name) == clean


# -- saved views ---------------------------------------------------------------------------------------------------


def save(office: Office, member: Member, name: str = "Mine", place: ViewPlace = ViewPlace.TODOS, *, shared: bool = False) -> int:
    return views.add_view(office.work, ViewBody(place=place, name=name, query="?who=1", shared=shared), member).id


def test_views_are_ones_own_and_those_that_others_share(office: Office, imke: Member) -> None:
    oona = person(office, "Oona", Role.FIXER)
    save(office, imke, "b")
    save(office, imke, "A", shared=True)
    save(office, oona, "c", ViewPlace.SITES)
    assert [(v.name, v.own, v.query) for v in views.list_views(office.work, None, imke)] == [
        ("A", True, "who=1"),
        ("b", True, "who=1"),
    ]
    assert [(v.name, v.own) for v in views.list_views(office.work, None, oona)] == [("A", False), ("c", True)]
    assert [v.name for v in views.list_views(office.work, ViewPlace.SITES, oona)] == ["c"]


def test_a_name_is_taken_once_on_a_screen(office: Office, imke: Member) -> None:
    save(office, imke, "Mine")
    with pytest.raises(Conflict, match="already"):
        save(office, imke, "MINE")
    save(office, imke, "Mine", ViewPlace.SITES)


@pytest.mark.parametrize(
    ("role", "shared", "may"), [(Role.LEAD, True, True), (Role.LEAD, False, False), (Role.ANALYST, True, False)]
)
def test_whose_view_it_is_removes_it_and_a_lead_what_is_shared(
    office: Office, imke: Member, role: Role, shared: bool, may: bool
) -> None:
    number, other = save(office, imke, shared=shared), person(office, "Other", role)
    if may:
        views.remove_view(office.work, number, other)
    else:
        with pytest.raises(NotAllowed):
            views.remove_view(office.work, number, other)
        views.remove_view(office.work, number, imke)
    with pytest.raises(HodcarrierError):
        views.remove_view(office.work, number, imke)
