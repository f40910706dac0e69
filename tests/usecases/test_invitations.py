"""Invitations, forgotten passwords, sessions, who leaves, and the log of it all."""

from __future__ import annotations

import re
from datetime import timedelta

import pytest

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound, SignInNeeded
from hodcarrier.core.permissions import Role
from hodcarrier.register.models import Member
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import changes_log, invitations, members, sessions, todo_lists
from hodcarrier.wire.members import InvitationBody, MemberChange, NewPasswordBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import by_hand, person

DAY = timedelta(days=1)
HOUR = timedelta(hours=1)
PASSWORD = "three words that differ"


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


def secret_in_mail(office: Office) -> str:
    """The secret of the link in the last mail."""
    deliver_due(office.at(START + DAY), office.mail)
    found = re.search(r"https://desk\.example/new-password#(\S+)", office.mail.sent[-1][2])
    assert found
    return found[1]


def choose(office: Office, secret: str, password: str = PASSWORD, at: timedelta = HOUR) -> None:
    invitations.set_password(office.at(START + at), NewPasswordBody(secret=secret, password=password))


def invite(office: Office, imke: Member, name: str = "Oona Featherby", **more: object) -> int:
    body = InvitationBody.model_validate({"name": name, "email": "oona@agency.example", "role": "fixer", **more})
    return invitations.invite_member(office.at(START), body, imke).id


def test_who_is_invited_chooses_a_password_and_signs_in(office: Office, imke: Member) -> None:
    number = invite(office, imke)
    assert members.get_member(office.work, number).invited
    with pytest.raises(SignInNeeded):
        members.sign_in(office.work, "oona@agency.example", "")
    secret = secret_in_mail(office)
    assert office.mail.sent[-1][:2] == ("oona@agency.example", "You are invited to Hodcarrier")
    choose(office, secret)
    assert members.sign_in(office.work, "OONA@agency.example", PASSWORD)[1].invited is False
    with pytest.raises(NotFound, match="used already"):
        choose(office, secret)
    with pytest.raises(Conflict, match="has a password already"):
        invitations.invite_again(office.work, number, imke)


def test_a_second_invitation_replaces_the_first(office: Office, imke: Member) -> None:
    number = invite(office, imke)
    first = secret_in_mail(office)
    invitations.invite_again(office.at(START + HOUR), number, imke)
    second = secret_in_mail(office)
    with pytest.raises(NotFound):
        choose(office, first)
    with pytest.raises(NotFound):
        choose(office, second, at=15 * DAY)
    choose(office, second, at=14 * DAY)


def test_an_invitation_is_refused_where_a_member_would_be(office: Office, imke: Member) -> None:
    invite(office, imke)
    with pytest.raises(Conflict, match="already a member"):
        invite(office, imke, name="Another")
    with pytest.raises(InvalidInput, match="belongs to a client"):
        invite(office, imke, name="Guest", email="g@agency.example", role="guest")
    with pytest.raises(InvalidInput, match="not an e-mail address"):
        invite(office, imke, name="Nobody", email="nobody")


def test_a_forgotten_password_is_reset_within_hours_and_ends_every_session(office: Office, imke: Member) -> None:
    session, _ = members.sign_in(office.at(START), imke.email, "long enough words")
    invitations.ask_reset(office.at(START), " IMKE@agency.example ")
    secret = secret_in_mail(office)
    with pytest.raises(NotFound):
        choose(office, secret, at=3 * HOUR)
    with pytest.raises(InvalidInput):
        choose(office, secret, "imke aldersgate")
    choose(office, secret)
    with pytest.raises(SignInNeeded):
        members.member_of_session(office.at(START), session)
    with pytest.raises(SignInNeeded):
        members.sign_in(office.work, imke.email, "long enough words")
    members.sign_in(office.work, imke.email, PASSWORD)


def test_nobody_learns_who_is_a_member(office: Office, imke: Member) -> None:
    members.change_member(office.work, imke.id, MemberChange(active=False), imke)
    for address in ("nobody@agency.example", imke.email):
        invitations.ask_reset(office.work, address)
    deliver_due(office.at(START + DAY), office.mail)
    assert office.mail.sent == []


def test_sessions_are_listed_and_ended(office: Office, imke: Member) -> None:
    first, _ = members.sign_in(office.at(START), imke.email, "long enough words", "Browser A")
    second, _ = members.sign_in(office.at(START + HOUR), imke.email, "long enough words", "Browser B")
    members.member_of_session(office.at(START + 3 * HOUR), first)
    found = sessions.list_sessions(office.at(START + 3 * HOUR), imke, second)
    assert [(s.program, s.seen_at, s.current) for s in found] == [
        ("Browser A", START + 3 * HOUR, False),
        ("Browser B", START + HOUR, True),
    ]
    sessions.end_session(office.work, imke, found[0].id)
    with pytest.raises(SignInNeeded):
        members.member_of_session(office.at(START), first)
    members.member_of_session(office.at(START), second)
    other = person(office, "Oona Featherby")
    with pytest.raises(NotFound):
        sessions.end_session(office.work, other, found[1].id)


def test_who_leaves_hands_their_to_dos_over(office: Office, imke: Member) -> None:
    oona, casper = person(office, "Oona Featherby"), person(office, "Casper Dunmore")
    mine, done = by_hand(office, "Mine", assignee=oona.id), by_hand(office, "Of Casper", assignee=casper.id)
    with pytest.raises(Conflict, match="Oona Featherby has 1 unfinished to-do"):
        members.change_member(office.work, oona.id, MemberChange(active=False), imke)
    assert members.get_member(office.work, oona.id).active
    with pytest.raises(InvalidInput, match="cannot take them over"):
        members.change_member(office.work, oona.id, MemberChange(active=False, hand_to=oona.id), imke)
    members.change_member(office.work, oona.id, MemberChange(active=False, hand_to=casper.id), imke)
    found = todo_lists.get_todo(office.work, mine)
    assert (found.assignee, found.events[-1].text) == ("Casper Dunmore", "Given to Casper Dunmore, as Oona Featherby has left.")
    members.change_member(office.work, casper.id, MemberChange(active=False, hand_to=None), imke)
    assert [todo_lists.get_todo(office.work, todo).assignee for todo in (mine, done)] == ["", ""]


def test_the_log_is_searched(office: Office, imke: Member) -> None:
    invite(office, imke)
    person(office, "Casper Dunmore")
    everything = changes_log.list_log(office.work)
    assert [entry.action for entry in everything.items][:2] == ["member added", "member invited"]
    assert [e.who for e in changes_log.list_log(office.work, who=imke.id).items] == ["Imke Aldersgate"]
    assert [e.subject for e in changes_log.list_log(office.work, text="invited oona").items] == ["oona@agency.example"]
    assert changes_log.list_log(office.work, text="%").items == []
    assert changes_log.list_log(office.work, from_day=START.date() + DAY).items == []
    assert changes_log.list_log(office.work, from_day=START.date(), to_day=START.date()).total == everything.total
    first = changes_log.list_log(office.work, limit=2)
    rest = changes_log.list_log(office.work, limit=100, after=int(first.after or 0))
    assert [e.id for e in (*first.items, *rest.items)] == [e.id for e in everything.items] and rest.after is None
