"""Signing in by two steps: beside the password a code from an authenticator, by time (TOTP, RFC 6238), or one of the recovery codes, each good once."""

from __future__ import annotations

import secrets
from datetime import datetime

import pyotp
import segno
from sqlalchemy.orm import Session

from hodcarrier.core.errors import CodeNeeded, Conflict, InvalidInput, SignInNeeded
from hodcarrier.register.models import Member
from hodcarrier.usecases.passwords import check_password, hash_secret
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.members import CodesOut, SecondStepOut

ISSUER = "Hodcarrier"
CODES = 10
# Without letters that are taken for one another.
LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
# Clocks that differ by one period of 30 seconds are forgiven (RFC 6238, 5.2).
WINDOW = 1


def begin_second_step(work: Workspace, member: Member, password: str) -> SecondStepOut:
    """A new secret for an authenticator; it counts once a code of it was confirmed. Raises :class:`InvalidInput` for a wrong password,
    :class:`Conflict` when the second step is on."""
    check_password(work, member.id, password)
    secret = pyotp.random_base32(32)
    with work.session() as session:
        row = fetch(session, Member, member.id, "member")
        if row.second_on:
            raise Conflict("You sign in by two steps already.", "Switch that off first to set up another device.")
        row.second_sealed = work.vault.seal({"secret": secret})
        uri = pyotp.TOTP(secret).provisioning_uri(name=row.email, issuer_name=ISSUER)
    return SecondStepOut(secret=secret, uri=uri, picture=segno.make(uri, error="m").svg_data_uri(scale=4, border=2))


def confirm_second_step(work: Workspace, member: Member, code: str) -> CodesOut:
    """Switch the second step on with a first code. The recovery codes are in this answer and never again. Raises :class:`InvalidInput` for a wrong code."""
    codes = ["-".join("".join(secrets.choice(LETTERS) for _ in range(4)) for _ in range(3)) for _ in range(CODES)]
    with work.session() as session:
        row = fetch(session, Member, member.id, "member")
        if row.second_on or not row.second_sealed:
            raise Conflict("There is no second step to confirm.", "Begin to set it up again.")
        step = _step_of(work, row, code, work.now())
        if step is None:
            raise InvalidInput("That code is not right, or has ended.", "Type the one that your authenticator shows now.", "code")
        row.second_on, row.second_last = True, step
        row.recovery = [hash_secret(each) for each in codes]
        log(session, work.now(), member.id, "two-step sign-in switched on", row.email)
    return CodesOut(codes=codes)


def end_second_step(work: Workspace, member: Member, password: str) -> None:
    """Switch one's own second step off. Raises :class:`InvalidInput` for a wrong password."""
    check_password(work, member.id, password)
    with work.session() as session:
        row = fetch(session, Member, member.id, "member")
        forget_second_step(row)
        log(session, work.now(), member.id, "two-step sign-in switched off", row.email)


def forget_second_step(member: Member) -> None:
    """Let a member sign in by the password alone."""
    member.second_on, member.second_sealed, member.second_last, member.recovery = False, "", 0, []


def pass_second_step(work: Workspace, session: Session, member: Member, code: str) -> None:
    """Let a member pass whose password was right. Raises :class:`CodeNeeded` without a code, :class:`SignInNeeded` for a wrong one. A code counts once."""
    if not member.second_on:
        return
    code = code.strip().lower()
    if not code:
        raise CodeNeeded(
            "Your account signs in by two steps.", "Type the code that your authenticator shows now, or a recovery code."
        )
    step = _step_of(work, member, code, work.now())
    if step is not None and step > member.second_last:
        member.second_last = step
        return
    used = hash_secret(code)
    if used in member.recovery:
        member.recovery = [each for each in member.recovery if each != used]
        log(session, work.now(), member.id, "recovery code used", f"{member.email}, {len(member.recovery)} left")
        return
    raise SignInNeeded("That code is not right, or was used already.", "Wait for the next one, or use a recovery code.")


def _step_of(work: Workspace, member: Member, code: str, now: datetime) -> int | None:
    """The period of 30 seconds that a code is of, near now."""
    totp = pyotp.TOTP(work.vault.open(member.second_sealed)["secret"])
    digits = code.replace(" ", "")
    current = int(now.timestamp()) // totp.interval
    steps = range(current - WINDOW, current + WINDOW + 1)
    return next((step for step in steps if secrets.compare_digest(totp.generate_otp(step).encode(), digits.encode())), None)
