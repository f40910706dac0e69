"""Guessing is slow, and whoever loses a password loses every way in."""

from __future__ import annotations

from datetime import timedelta

import pytest

from hodcarrier.core.errors import InvalidInput, SignInNeeded, TooMany
from hodcarrier.register.models import Member
from hodcarrier.usecases import members
from hodcarrier.usecases.throttle import FREE_OF_ACCOUNT, FREE_OF_ADDRESS, KEPT_MAX, WAIT_MAX, Throttle
from hodcarrier.wire.members import MemberBody, MemberChange, PreferencesChange, TokenBody
from tests.usecases.conftest import START, Office

OLD, NEW = "gravel heather tinker", "marble oyster walnut"
EMAIL = "oona@agency.example"
SECOND = timedelta(seconds=1)


@pytest.fixture
def oona(office: Office) -> Member:
    made = members.add_member(office.work, MemberBody(name="Oona", email=EMAIL, role="owner", password=OLD))
    with office.work.reading() as session:
        found = session.get_one(Member, made.id)
        session.expunge(found)
        return found


def is_open(office: Office, secret: str, token: str) -> tuple[bool, bool]:
    def works(attempt: object) -> bool:
        try:
            attempt()  # type: ignore[operator]
        except SignInNeeded:
            return False
        return True

    return (
        works(lambda: members.member_of_session(office.work, secret)),
        works(lambda: members.member_of_token(office.work, token)),
    )


def test_a_new_password_ends_all_sessions_and_tokens(office: Office, oona: Member) -> None:
    secret, _ = members.sign_in(office.work, EMAIL, OLD)
    token = members.add_token(office.work, oona, TokenBody(name="laptop")).secret or ""
    assert is_open(office, secret, token) == (True, True)
    members.change_preferences(office.work, oona.id, PreferencesChange(name="Oona F"))
    assert is_open(office, secret, token) == (True, True), "another name ends nothing"
    members.change_preferences(office.work, oona.id, PreferencesChange(password=NEW, current_password=OLD))
    assert is_open(office, secret, token) == (False, False)
    with pytest.raises(SignInNeeded):
        members.sign_in(office.work, EMAIL, OLD)
    members.sign_in(office.work, EMAIL, NEW)


def test_whoever_does_not_know_the_old_password_sets_no_new_one(office: Office, oona: Member) -> None:
    secret, _ = members.sign_in(office.work, EMAIL, OLD)
    for wrong in (None, "", NEW):
        with pytest.raises(InvalidInput, match="current password"):
            members.change_preferences(office.work, oona.id, PreferencesChange(password=NEW, current_password=wrong))
    with pytest.raises(InvalidInput, match="tried first"):
        members.change_preferences(office.work, oona.id, PreferencesChange(password="password123", current_password=OLD))
    assert is_open(office, secret, "")[0]


@pytest.mark.parametrize("change", [MemberChange(password=NEW), MemberChange(active=False)])
def test_a_reset_and_switching_off_end_them_too(office: Office, oona: Member, change: MemberChange) -> None:
    made = members.add_member(office.work, MemberBody(name="Casper", email="c@agency.example", role="fixer", password=OLD))
    with office.work.reading() as session:
        casper = session.get_one(Member, made.id)
    secret, _ = members.sign_in(office.work, "c@agency.example", OLD)
    token = members.add_token(office.work, casper, TokenBody(name="laptop")).secret or ""
    members.change_member(office.work, made.id, change, oona)
    members.change_member(office.work, made.id, MemberChange(active=True), oona)
    assert is_open(office, secret, token) == (False, False)


def test_five_guesses_are_free_and_then_each_is_waited_for() -> None:
    throttle, now = Throttle(), START
    waits = []
    for number in range(20):
        try:
            throttle.check("a", f"host {number}", now)
        except TooMany as too_many:
            waits.append(too_many.wait_s)
            now += timedelta(seconds=too_many.wait_s)
            throttle.check("a", f"host {number}", now)
        throttle.note("a", f"host {number}", False, now)
    assert waits[:6] == [2, 3, 5, 9, 17, 33] and len(waits) == 20 - FREE_OF_ACCOUNT
    assert waits[-1] == WAIT_MAX.total_seconds() + 1
    throttle.check("b", "host 1", now)
    throttle.note("a", "x", True, now)
    throttle.check("a", "x", now)


def test_one_address_may_not_try_everybody() -> None:
    throttle = Throttle()
    for number in range(FREE_OF_ADDRESS):
        throttle.check(f"account {number}", "here", START)
        throttle.note(f"account {number}", "here", False, START)
    with pytest.raises(TooMany):
        throttle.check("somebody else", "here", START)
    throttle.check("somebody else", "there", START)
    throttle.note("somebody else", "here", True, START)
    with pytest.raises(TooMany):
        throttle.check("somebody else", "here", START)


def test_failures_are_forgotten_after_an_hour_and_never_too_many_kept() -> None:
    throttle = Throttle()
    for _ in range(FREE_OF_ACCOUNT - 1):
        throttle.note("a", "x", False, START)
    later = START + timedelta(hours=1) + SECOND
    throttle.note("a", "x", False, later)
    throttle.check("a", "x", later)
    for number in range(KEPT_MAX + 10):
        throttle.note(f"account {number}", f"address {number}", False, START)
    assert len(throttle._failures) <= KEPT_MAX
