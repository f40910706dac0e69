"""Clients agree to to-dos or ask back, where they want that."""

from __future__ import annotations

import pytest

from hodcarrier.core.errors import Conflict, InvalidInput
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import Approval
from hodcarrier.register.models import Member, TodoMail
from hodcarrier.usecases import approvals, clients, members, todo_lists, todos
from hodcarrier.wire.approvals import AnswerBody
from hodcarrier.wire.clients import ClientBody, ClientChange
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.todos import TodoBody, TodosBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person
from tests.usecases.test_todos import shop


@pytest.fixture
def oona(office: Office) -> Member:
    return person(office, "Oona", Role.FIXER)


@pytest.fixture
def guest(office: Office) -> Member:
    body = MemberBody(
        name="Rosa", email="rosa@rope.example", role=Role.GUEST, password="long enough words", client_id=office.site.client_id
    )
    made = members.add_member(office.work, body)
    with office.work.reading() as session:
        return session.get_one(Member, made.id)


def wants(office: Office, approves: bool) -> None:
    clients.change_client(office.work, office.site.client_id, ClientChange(approves=approves), Member(id=None, name=""))


def add(office: Office, oona: Member, **more: object) -> int:
    body = {"site_id": office.site.id, "title": "Merge the guides", "assignee": oona.id, **more}
    return todos.add_todo(office.work, TodoBody.model_validate(body), None).id


def waiting(office: Office) -> list[str]:
    return [row.title for row in approvals.list_approvals(office.work, office.site.client_id)]


def test_to_dos_wait_only_for_clients_who_want_that(office: Office, oona: Member) -> None:
    add(office, oona, title="Before")
    wants(office, True)
    add(office, oona, title="After")
    assert waiting(office) == ["After"]
    wants(office, False)
    add(office, oona, title="Later")
    assert waiting(office) == ["After"], "what was asked stays asked"


def test_to_dos_from_findings_wait_too_and_say_why(office: Office, oona: Member) -> None:
    office.audit(START, shop(2))
    wants(office, True)
    todos.add_todos(office.work, TodosBody(site_id=office.site.id, check="link-broken"), None)
    (row,) = approvals.list_approvals(office.work)
    assert row.why and row.places == 2 and row.gain is not None and row.gain > 0


def test_a_guest_agrees(office: Office, oona: Member, guest: Member) -> None:
    wants(office, True)
    number = add(office, oona)
    approvals.answer_approval(office.work, number, AnswerBody(agrees=True), guest)
    todo = todo_lists.get_todo(office.work, number)
    assert (todo.approval, todo.events[-1].text, todo.events[-1].who) == (Approval.GIVEN, "Agreed to.", "Rosa")
    assert waiting(office) == []
    with pytest.raises(Conflict, match="does not wait"):
        approvals.answer_approval(office.work, number, AnswerBody(agrees=True), guest)


def test_a_question_is_told_and_the_to_do_waits_on(office: Office, oona: Member, guest: Member) -> None:
    wants(office, True)
    number = add(office, oona)
    approvals.answer_approval(office.work, number, AnswerBody(agrees=False, comment="Why now?"), guest)
    assert waiting(office) == ["Merge the guides"]
    with office.work.reading() as session:
        told = [(mail.member_id, mail.quote) for mail in session.query(TodoMail) if mail.kind == "commented"]
    assert told == [(oona.id, "Why now?")]
    with pytest.raises(InvalidInput, match="different"):
        approvals.answer_approval(office.work, number, AnswerBody(agrees=False), guest)


def test_of_another_client_there_is_nothing(office: Office, oona: Member) -> None:
    wants(office, True)
    add(office, oona)
    other = clients.add_client(office.work, ClientBody(name="Kiln"), None)
    assert approvals.list_approvals(office.work, other.id) == []
