"""Work on a client that is limited to some members goes to those who can see it."""

from __future__ import annotations

import pytest

from hodcarrier.core.errors import Conflict, InvalidInput
from hodcarrier.core.permissions import Role
from hodcarrier.register.models import Member
from hodcarrier.usecases import clients, members, recurring_todos, todo_changes, todo_lists, todo_tables, todos
from hodcarrier.wire.clients import ClientChange
from hodcarrier.wire.members import MemberChange
from hodcarrier.wire.todo_things import RecurringBody, TodoTable
from hodcarrier.wire.todos import TodoBody, TodoChange
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import by_hand, person

NOT_FOR = "Rufus does not work for"


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke", Role.LEAD)


@pytest.fixture
def hetty(office: Office, imke: Member) -> Member:
    """The one fixer for whom the client is open."""
    member = person(office, "Hetty")
    clients.change_client(office.work, office.site.client_id, ClientChange(member_ids=[member.id]), imke)
    return member


@pytest.fixture
def rufus(office: Office, hetty: Member) -> Member:
    return person(office, "Rufus")


def test_a_to_do_is_given_to_those_who_see_the_client(office: Office, imke: Member, hetty: Member, rufus: Member) -> None:
    todo = by_hand(office, "Write it down", assignee=hetty.id, watchers=[imke.id])
    for field, value in (("assignee", rufus.id), ("watchers", [hetty.id, rufus.id])):
        with pytest.raises(InvalidInput, match=NOT_FOR) as refused:
            todo_changes.change_todo(office.work, todo, TodoChange.model_validate({field: value}), None, imke)
        assert refused.value.field == field
        with pytest.raises(InvalidInput, match=NOT_FOR):
            by_hand(office, "Another", **{field: value})
    kept = todo_lists.get_todo(office.work, todo)
    assert (kept.assignee, [each.id for each in kept.watchers]) == ("Hetty", [imke.id]), "a refused change changes nothing"
    assert todo_changes.change_todo(office.work, todo, TodoChange(assignee=imke.id), None, imke).assignee == "Imke", (
        "leads see all"
    )


def test_tables_and_recurring_ones_ask_the_same(office: Office, imke: Member, rufus: Member) -> None:
    table = f"site,title,assignee\n{office.site.id},Look,Rufus\n"
    with pytest.raises(InvalidInput, match=NOT_FOR):
        todo_tables.import_todos(office.work, TodoTable(csv=table, check_only=True), imke)
    recurring = {"site_id": office.site.id, "title": "Look", "rule": "weekly:TU", "days": 3, "assignee": rufus.id}
    with pytest.raises(InvalidInput, match=NOT_FOR):
        recurring_todos.add_recurring(office.work, RecurringBody.model_validate(recurring), imke)


def test_a_recurring_to_do_of_somebody_shut_out_is_made_for_nobody(office: Office, imke: Member, hetty: Member) -> None:
    body = RecurringBody.model_validate(
        {"site_id": office.site.id, "title": "Look", "rule": "weekly:TU", "days": 3, "assignee": hetty.id}
    )
    recurring_todos.add_recurring(office.work, body, imke)
    clients.change_client(office.work, office.site.client_id, ClientChange(member_ids=[imke.id]), imke)
    (made,) = recurring_todos.make_due(office.at(START))
    assert todo_lists.get_todo(office.work, made).assignee == ""


def test_nobody_is_shut_out_from_their_own_to_dos(office: Office, imke: Member, hetty: Member) -> None:
    todo = by_hand(office, "Write it down", assignee=hetty.id)
    with pytest.raises(Conflict, match="Hetty has 1 unfinished to-do of"):
        clients.change_client(office.work, office.site.client_id, ClientChange(member_ids=[imke.id]), imke)
    todo_changes.change_todo(office.work, todo, TodoChange(assignee=None), None, imke)
    changed = clients.change_client(office.work, office.site.client_id, ClientChange(member_ids=[imke.id]), imke)
    assert changed.member_ids == [imke.id]


def test_who_leaves_hands_over_to_somebody_who_sees_it(office: Office, imke: Member, hetty: Member, rufus: Member) -> None:
    todo = by_hand(office, "Write it down", assignee=hetty.id)
    with pytest.raises(InvalidInput, match=NOT_FOR):
        members.change_member(office.work, hetty.id, MemberChange(active=False, hand_to=rufus.id), imke)
    assert todo_lists.get_todo(office.work, todo).assignee == "Hetty"
    members.change_member(office.work, hetty.id, MemberChange(active=False, hand_to=imke.id), imke)
    assert todo_lists.get_todo(office.work, todo).assignee == "Imke"


def test_a_chosen_check_is_not_given_to_somebody_outside(office: Office, rufus: Member) -> None:
    with pytest.raises(InvalidInput, match=NOT_FOR):
        todos.add_todo(office.work, TodoBody(site_id=office.site.id, title="By hand", assignee=rufus.id), None)
