"""Many to-dos at once: made and spread over people, changed with the way back, found again, and weighed."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from sqlalchemy import update

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import DueSpan, Priority, Severity, TodoPer, TodoState
from hodcarrier.register.models import Member, Todo
from hodcarrier.usecases import clients, members, todo_changes, todo_lists, todo_load, todos
from hodcarrier.usecases.todo_lists import TodoFilter
from hodcarrier.wire.clients import ClientChange
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.todos import TodoBody, TodoChange, TodoEdit, TodosBody, TodosChange
from tests.usecases.conftest import START, Office
from tests.usecases.test_todos import WEEK, shop

DAY = timedelta(days=1)


def person(office: Office, name: str, role: Role = Role.FIXER) -> Member:
    body = MemberBody(name=name, email=f"{name.split()[0].lower()}@agency.example", role=role, password="long enough words")
    made = members.add_member(office.work, body)
    with office.work.session() as session:
        found = session.get_one(Member, made.id)
        session.expunge(found)
        return found


@pytest.fixture
def people(office: Office) -> list[Member]:
    return [person(office, "Casper Dunmore"), person(office, "Oona Featherby")]


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


def body(office: Office, **more: object) -> TodosBody:
    return TodosBody.model_validate({"site_id": office.site.id, "check": "desc-missing", **more})


def by_hand(office: Office, title: str, **more: object) -> int:
    made = TodoBody.model_validate({"site_id": office.site.id, "title": title, **more})
    return todos.add_todo(office.at(START + DAY), made, None).id


def change(office: Office, member: Member, *edits: dict[str, object], undo: bool = False) -> todo_changes.TodosChanged:
    changes = [TodoEdit.model_validate(edit) for edit in edits]
    return todo_changes.change_todos(office.at(START + 2 * DAY), TodosChange(changes=changes, undo=undo), member)


@pytest.mark.parametrize(("per", "count"), [("page", 3), ("check", 1), ("cause", 1), ("template", 2), ("all", 1)])
def test_what_is_planned_is_what_is_made(office: Office, people: list[Member], per: str, count: int) -> None:
    office.audit(START, shop(2))
    wanted = body(office, per=per, assignees=[member.id for member in people], priority="high", labels=["relaunch"])
    planned = todos.plan_todos(office.at(START + DAY), wanted)
    assert todo_lists.list_todos(office.work).total == 0, "nothing is changed by asking"
    made = todos.add_todos(office.at(START + DAY), wanted, people[0])
    assert len(made) == count
    assert [(t.title, t.places, t.assignee_id, t.due, t.gain) for t in made] == [
        (d.title, d.places, d.assignee_id, d.due, d.gain) for d in planned
    ]
    assert sum(t.places for t in made) == 3 and all((t.priority, t.labels) == (Priority.HIGH, ["relaunch"]) for t in made)
    assert {t.assignee_id for t in made} <= {member.id for member in people}
    if count > 1:
        assert {t.assignee_id for t in made} == {member.id for member in people}, "they are spread"


def test_findings_that_are_in_a_to_do_are_left_out(office: Office, imke: Member) -> None:
    office.audit(START, shop(2))
    first, *others = todos.add_todos(office.at(START + DAY), body(office, per=TodoPer.PAGE), imke)
    dropped = TodoChange(state=TodoState.DROPPED, drop_reason="The page goes")
    todo_changes.change_todo(office.at(START + DAY), first.id, dropped, None, imke)
    (planned,) = todos.plan_todos(office.at(START + DAY), body(office, per=TodoPer.ALL))
    assert (planned.places, planned.left_out, [ref.id for ref in planned.elsewhere]) == (1, 2, [todo.id for todo in others])
    (again,) = todos.add_todos(office.at(START + DAY), body(office, per=TodoPer.PAGE), imke)
    assert again.title == first.title and again.places == 1
    with pytest.raises(Conflict, match=f"in to-do {again.id} already"):
        todos.add_todos(office.at(START + DAY), body(office, per=TodoPer.PAGE), imke)


def test_what_cannot_be_made_says_why(office: Office, people: list[Member]) -> None:
    office.audit(START, shop(2))
    work = office.at(START + DAY)
    for wrong, error, words in (
        ({"check": ""}, InvalidInput, "Nothing is chosen"),
        ({"assignees": [999]}, NotFound, "no member 999"),
        ({"watchers": [999]}, NotFound, "no member 999"),
        ({"due": START.date()}, InvalidInput, "in the past"),
        ({"check": "no-such"}, NotFound, "No check"),
        ({"fingerprints": ["zz"], "check": ""}, InvalidInput, "hexadecimal"),
    ):
        with pytest.raises(error, match=words):
            todos.add_todos(work, body(office, **wrong), None)
    assert todo_lists.list_todos(work).total == 0


def test_gain_is_what_health_rises_by(office: Office) -> None:
    before = office.audit(START, shop(2))
    todo = todos.add_todo(office.at(START + DAY), TodoBody(site_id=office.site.id, check="link-broken"), None)
    assert todo.gain is not None and todo.gain > 0
    with office.work.open_run(before) as run:
        rows = dict(run.rows("SELECT id, gain FROM check_state"))
    assert todo.gain == pytest.approx(rows["link-broken"])
    office.audit(START + WEEK, shop(1))
    later = todo_lists.get_todo(office.work, todo.id)
    assert later.gain is not None and 0 < later.gain < todo.gain, "half of it is cleared"


def test_targets_of_the_client_set_the_due_date(office: Office, imke: Member) -> None:
    office.audit(START, shop(2))
    changed = clients.change_client(office.work, office.site.client_id, ClientChange(targets={Severity.LOW: 1}), imke)
    assert changed.targets == {"critical": 3, "high": 10, "medium": 30, "low": 1}
    work = office.at(START + DAY)
    due = {
        t.severity: t.due
        for check in ("text-thin", "link-broken")
        for t in todos.plan_todos(work, body(office, check=check, per="all"))
    }
    assert due[Severity.HIGH] == date(2026, 11, 18)
    holiday = clients.change_client(office.work, office.site.client_id, ClientChange(targets={}), imke)
    assert holiday.targets["low"] == 90


def test_several_are_changed_and_changed_back(office: Office, people: list[Member], imke: Member) -> None:
    ids = [by_hand(office, f"Call {n}", due=START.date() + 5 * DAY, labels=["Calls"]) for n in range(3)]
    everything = {
        "assignee": people[0].id,
        "due": START.date() + 9 * DAY,
        "priority": "urgent",
        "estimate_hours": 2.5,
        "labels": ["calls", "Relaunch"],
        "watchers": [imke.id],
        "title": "Ring",
        "note": "At once",
        "state": "doing",
    }
    before = [todo_lists.get_todo(office.work, number) for number in ids]
    found = change(office, imke, *({"id": number, **everything} for number in ids))
    for todo in found.todos:
        assert (todo.assignee_id, todo.priority, todo.estimate_hours, todo.state) == (people[0].id, "urgent", 2.5, "doing")
        assert [label.lower() for label in todo.labels] == ["calls", "relaunch"] and [w.id for w in todo.watchers] == [imke.id]
    back = change(office, imke, *(edit.model_dump(exclude_unset=True) for edit in found.undo), undo=True)
    kept = ("title", "note", "assignee_id", "due", "priority", "estimate_hours", "labels", "watchers", "state")
    assert [[getattr(t, name) for name in kept] for t in sorted(back.todos, key=lambda t: t.id)] == [
        [getattr(t, name) for name in kept] for t in before
    ]
    texts = [event.text for event in todo_lists.get_todo(office.work, ids[0]).events]
    assert "Priority urgent." in texts and "Estimate 2.5 h." in texts and "Given to Casper Dunmore." in texts


def test_all_are_changed_or_none(office: Office, imke: Member) -> None:
    first, second = by_hand(office, "Call"), by_hand(office, "Write")
    with pytest.raises(InvalidInput, match=f"To-do {second}, “Write”: Dropping a to-do needs a reason"):
        change(office, imke, {"id": first, "priority": "low"}, {"id": second, "state": "dropped"})
    assert todo_lists.get_todo(office.work, first).priority == Priority.NORMAL
    with pytest.raises(Conflict, match="meantime"):
        change(office, imke, {"id": first, "priority": "low", "version": 99})


def test_an_undo_may_bring_back_a_date_that_is_past(office: Office, imke: Member) -> None:
    number = by_hand(office, "Call", due=START.date() + DAY)
    moved = change(office, imke, {"id": number, "due": START.date() + 30 * DAY})
    edits = [edit.model_dump(exclude_unset=True) for edit in moved.undo]
    with pytest.raises(InvalidInput, match="in the past"):
        change(office, imke, *edits)
    assert change(office, imke, *edits, undo=True).todos[0].due == START.date() + DAY


def test_what_was_dropped_from_doing_comes_back_open(office: Office, imke: Member) -> None:
    number = by_hand(office, "Call")
    change(office, imke, {"id": number, "state": "doing"})
    dropped = change(office, imke, {"id": number, "state": "dropped", "drop_reason": "Not needed"})
    assert dropped.undo[0].state == TodoState.OPEN


def test_they_are_found_by_what_they_have(office: Office) -> None:
    by_hand(office, "Ring the printer", labels=["Print"], priority="high", due=START.date() + 3 * DAY)
    by_hand(office, "Write 50% more", note="for the printer", due=START.date() + 9 * DAY)
    find = lambda **by: [t.title for t in todo_lists.list_todos(office.work, TodoFilter(**by)).items]  # noqa: E731
    assert find(label="print") == ["Ring the printer"] and find(label="prin") == []
    assert find(priority=Priority.HIGH) == ["Ring the printer"]
    assert find(text="PRINTER") == ["Ring the printer", "Write 50% more"] and find(text="printer ring") == ["Ring the printer"]
    assert find(text="50%") == ["Write 50% more"] and find(text="_") == []
    assert find(due_from=START.date() + 4 * DAY) == ["Write 50% more"] and find(due_to=START.date() + 3 * DAY) == [
        "Ring the printer"
    ]
    assert find(severity=Severity.MEDIUM) == ["Ring the printer", "Write 50% more"] and find(severity=Severity.LOW) == []
    assert todo_lists.list_labels(office.work) == ["Print"]


def test_who_has_what_by_when(office: Office, people: list[Member], imke: Member) -> None:
    # START is a Tuesday.
    for days, who, hours in ((2, 0, 2.0), (5, 0, 1.0), (6, 1, None), (13, 1, 4.0), (0, 1, None)):
        by_hand(office, f"In {days}", due=START.date() + (days + 1) * DAY, assignee=people[who].id, estimate_hours=hours)
    by_hand(office, "Nobody's", due=START.date() + 90 * DAY)
    done = by_hand(office, "Done", due=START.date() + 2 * DAY, assignee=people[0].id)
    change(office, imke, {"id": done, "state": "done"})
    found = todo_load.get_load(office.at(START + 2 * DAY))
    rows = {row.name: row for row in found.people}
    assert [row.name for row in found.people] == ["Casper Dunmore", "Imke Aldersgate", "Oona Featherby", ""]
    counts = {
        name: [getattr(row, part).todos for part in ("overdue", "this_week", "next_week", "later", "undated")]
        for name, row in rows.items()
    }
    assert counts == {
        "Casper Dunmore": [0, 1, 1, 0, 0],
        "Imke Aldersgate": [0, 0, 0, 0, 0],
        "Oona Featherby": [1, 0, 1, 1, 0],
        "": [0, 0, 0, 1, 0],
    }
    assert rows["Casper Dunmore"].this_week.hours == 2.0 and rows["Oona Featherby"].next_week.hours == 0.0
    assert (found.overdue, found.oldest_days, found.due_this_week) == (1, 1, 1)


def test_the_week_says_what_audits_did(office: Office, imke: Member) -> None:
    office.audit(START, shop(2))
    number = todos.add_todo(office.at(START + DAY), TodoBody(site_id=office.site.id, check="link-broken"), None).id
    change(office, imke, {"id": number, "state": "done"})
    office.audit(START + WEEK, shop(1))
    assert todo_load.get_load(office.at(START + WEEK + DAY)).reopened_this_week == 1
    office.audit(START + 2 * WEEK, shop(0))
    found = todo_load.get_load(office.at(START + 2 * WEEK + DAY))
    assert (found.reopened_this_week, found.confirmed_this_week) == (0, 1)


def test_spans_of_due_dates_are_weeks_from_monday_to_sunday(office: Office) -> None:
    """START is a Tuesday."""
    today, work = START.date(), office.at(START)
    for offset in (0, 5, 6, 12, 13):
        todos.add_todo(work, TodoBody(site_id=office.site.id, title=str(offset), due=today + offset * DAY), None)
    for title, due in (("-1", today - DAY), ("undated", None)):
        todos.add_todo(work, TodoBody(site_id=office.site.id, title=title), None)
        with work.session() as session:
            session.execute(update(Todo).where(Todo.title == title).values(due=due))
    found = {span: [t.title for t in todo_lists.list_todos(work, TodoFilter(due=span)).items] for span in DueSpan}
    assert found == {
        DueSpan.OVERDUE: ["-1"],
        DueSpan.THIS_WEEK: ["0", "5"],
        DueSpan.NEXT_WEEK: ["6", "12"],
        DueSpan.LATER: ["13"],
        DueSpan.UNDATED: ["undated"],
    }
    nobody = next(row for row in todo_load.get_load(work).people if row.member_id is None)
    assert [getattr(nobody, span.replace("-", "_")).todos for span in DueSpan] == [len(titles) for titles in found.values()]
