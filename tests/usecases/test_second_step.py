"""Signing in by two steps: codes by time (RFC 6238), each once; recovery codes; and how it is switched on and off."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pyotp
import pytest

from hodcarrier.core.errors import CodeNeeded, Conflict, InvalidInput, SignInNeeded
from hodcarrier.core.permissions import Role
from hodcarrier.register.models import Member
from hodcarrier.usecases import members, second_step
from hodcarrier.wire.members import MemberChange
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person

PASSWORD = "long enough words"
PERIOD = timedelta(seconds=30)


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


def switch_on(office: Office, imke: Member) -> tuple[pyotp.TOTP, list[str]]:
    begun = second_step.begin_second_step(office.at(START), imke, PASSWORD)
    totp = pyotp.parse_uri(begun.uri)
    assert isinstance(totp, pyotp.TOTP) and totp.secret == begun.secret
    assert (totp.issuer, totp.name) == ("Hodcarrier", imke.email) and begun.picture.startswith("data:image/svg+xml")
    return totp, second_step.confirm_second_step(office.at(START), imke, totp.at(START)).codes


def sign_in(office: Office, imke: Member, at: datetime, code: str = "", password: str = PASSWORD) -> None:
    members.sign_in(office.at(at), imke.email, password, code=code)


def test_codes_are_those_of_the_standard() -> None:
    """RFC 6238, appendix B: the secret of twenty bytes, at three moments, six of the eight digits."""
    totp = pyotp.TOTP("GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ")
    moments = {59: "287082", 1_111_111_109: "081804", 20_000_000_000: "353130"}
    assert {at: totp.at(datetime.fromtimestamp(at, UTC)) for at in moments} == moments


def test_the_password_alone_will_not_do(office: Office, imke: Member) -> None:
    totp, _ = switch_on(office, imke)
    later = START + 10 * PERIOD
    with pytest.raises(CodeNeeded):
        sign_in(office, imke, later)
    with pytest.raises(SignInNeeded, match="do not belong together"):
        sign_in(office, imke, later, totp.at(later), "another password")
    with pytest.raises(SignInNeeded, match="not right"):
        sign_in(office, imke, later, "000000" if totp.at(later) != "000000" else "000001")
    sign_in(office, imke, later, totp.at(later))


def test_a_code_counts_once_and_near_its_time(office: Office, imke: Member) -> None:
    totp, _ = switch_on(office, imke)
    with pytest.raises(SignInNeeded, match="used already"):
        sign_in(office, imke, START, totp.at(START))
    later = START + 10 * PERIOD
    sign_in(office, imke, later, totp.at(later - PERIOD))
    sign_in(office, imke, later, f" {totp.at(later)[:3]} {totp.at(later)[3:]}")
    for wrong in (totp.at(later - PERIOD), totp.at(later)):
        with pytest.raises(SignInNeeded):
            sign_in(office, imke, later, wrong)
    with pytest.raises(SignInNeeded):
        sign_in(office, imke, later + 10 * PERIOD, totp.at(later + 8 * PERIOD))


def test_a_recovery_code_opens_once(office: Office, imke: Member) -> None:
    _, codes = switch_on(office, imke)
    assert len(set(codes)) == 10
    sign_in(office, imke, START, codes[3].upper())
    with pytest.raises(SignInNeeded):
        sign_in(office, imke, START, codes[3])
    sign_in(office, imke, START, codes[4])


def test_it_is_on_only_after_a_right_code(office: Office, imke: Member) -> None:
    with pytest.raises(InvalidInput):
        second_step.begin_second_step(office.work, imke, "another password")
    with pytest.raises(Conflict, match="no second step to confirm"):
        second_step.confirm_second_step(office.work, imke, "123456")
    begun = second_step.begin_second_step(office.at(START), imke, PASSWORD)
    right = pyotp.TOTP(begun.secret).at(START)
    with pytest.raises(InvalidInput, match="not right"):
        second_step.confirm_second_step(office.at(START), imke, "000000" if right != "000000" else "000001")
    sign_in(office, imke, START)
    second_step.confirm_second_step(office.at(START), imke, right)
    with pytest.raises(Conflict, match="already"):
        second_step.begin_second_step(office.work, imke, PASSWORD)


def test_it_is_switched_off_with_the_password_or_by_an_owner(office: Office, imke: Member) -> None:
    switch_on(office, imke)
    with pytest.raises(InvalidInput):
        second_step.end_second_step(office.work, imke, "another password")
    second_step.end_second_step(office.work, imke, PASSWORD)
    sign_in(office, imke, START)
    switch_on(office, imke)
    assert members.get_member(office.work, imke.id).second_on
    members.change_member(office.work, imke.id, MemberChange(second_on=False), imke)
    sign_in(office, imke, START)
