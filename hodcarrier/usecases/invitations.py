"""Passwords are chosen by those who have them: invitations, and resets of a password that was forgotten, by a link in a mail."""

from __future__ import annotations

import secrets
from datetime import timedelta

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.register.models import Member, PasswordLink
from hodcarrier.report.mail import MailItem, MailPart, draw_mail
from hodcarrier.usecases import outbox
from hodcarrier.usecases.members import end_sessions, get_member, make_member
from hodcarrier.usecases.passwords import hash_password, hash_secret
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.members import InvitationBody, MemberOut, NewPasswordBody

INVITED_FOR = timedelta(days=14)
RESET_FOR = timedelta(hours=2)


def invite_member(work: Workspace, body: InvitationBody, author: Member) -> MemberOut:
    """Add a member who chooses a password by a link in a mail. Raises what :func:`~hodcarrier.usecases.members.add_member` raises."""
    with work.session() as session:
        member_id = invite(work, session, body.name, body.email, body.role, body.client_id, author).id
    return get_member(work, member_id)


def invite(work: Workspace, session: Session, name: str, email: str, role: Role, client_id: int | None, author: Member) -> Member:
    """Add a member and send the link, in a transaction of the caller."""
    member = make_member(session, work, name, email, role, client_id, password_hash="")
    log(session, work.now(), author.id, "member invited", member.email)
    _invite(work, session, member, author.name)
    return member


def invite_again(work: Workspace, member_id: int, author: Member) -> MemberOut:
    """Send another invitation; the former one opens nothing any more. Raises :class:`Conflict` for somebody who has chosen a password."""
    with work.session() as session:
        member = fetch(session, Member, member_id, "member")
        if member.password_hash or not member.active:
            raise Conflict(
                f"{member.name} has a password already." if member.active else f"{member.name} is switched off.",
                "They can reset it where they sign in." if member.active else "Switch the member on first.",
            )
        log(session, work.now(), author.id, "member invited again", member.email)
        _invite(work, session, member, author.name)
    return get_member(work, member_id)


def _invite(work: Workspace, session: Session, member: Member, author: str) -> None:
    link = _make_link(work, session, member, invites=True)
    _write(
        work,
        session,
        member,
        "You are invited to Hodcarrier",
        f"{author} invites you to Hodcarrier, as {member.role}.",
        MailItem(
            "Choose your password",
            link,
            [f"You sign in with {member.email}. The link is good for {INVITED_FOR.days} days, once."],
        ),
    )


def ask_reset(work: Workspace, email: str) -> None:
    """Send whoever has this address a link to a new password. Nobody is told whether there is such a member."""
    with work.session() as session:
        member = session.scalar(select(Member).where(Member.email == email.strip().lower(), Member.active))
        if member is None:
            return
        invites = not member.password_hash
        link = _make_link(work, session, member, invites=invites)
        hours = int((INVITED_FOR if invites else RESET_FOR).total_seconds() // 3600)
        item = MailItem(
            "Choose a new password", link, [f"The link is good for {hours} hours, once. If it was not you who asked, do nothing."]
        )
        _write(work, session, member, "Your password for Hodcarrier", "Somebody asked for a new password for you.", item)


def _make_link(work: Workspace, session: Session, member: Member, *, invites: bool) -> str:
    secret = secrets.token_urlsafe(32)
    session.execute(delete(PasswordLink).where(PasswordLink.member_id == member.id))
    expires = work.now() + (INVITED_FOR if invites else RESET_FOR)
    session.add(PasswordLink(secret_hash=hash_secret(secret), member_id=member.id, invites=invites, expires_at=expires))
    # Behind the number sign: a secret there is sent to no server and stands in no log.
    return f"{work.address.rstrip('/')}/new-password#{secret}"


def _write(work: Workspace, session: Session, member: Member, subject: str, opening: str, item: MailItem) -> None:
    mail = draw_mail(
        subject, opening, [MailPart("Your link", [item])], "This mail was sent because of your account at Hodcarrier.", ""
    )
    outbox.post_one(session, work.now(), None, member.email, mail.subject, mail.text, mail.html)


def set_password(work: Workspace, body: NewPasswordBody) -> MemberOut:
    """Set the password of whoever has a link. It ends all their sessions and tokens, and the link itself. Raises :class:`NotFound` for a link that there is
    not, or that was used or has ended, and :class:`~hodcarrier.core.errors.InvalidInput` for a password that will not do."""
    with work.reading() as session:
        member = _member_of(session, work, body.secret)
        about = (member.name, member.email)
    hashed = hash_password(body.password, *about)
    with work.session() as session:
        member = _member_of(session, work, body.secret)
        member.password_hash = hashed
        session.execute(delete(PasswordLink).where(PasswordLink.member_id == member.id))
        end_sessions(session, work, member.id)
        log(session, work.now(), member.id, "password set by a link", member.email)
        member_id = member.id
    return get_member(work, member_id)


def _member_of(session: Session, work: Workspace, secret: str) -> Member:
    member = session.scalar(
        select(Member)
        .join(PasswordLink, PasswordLink.member_id == Member.id)
        .where(PasswordLink.secret_hash == hash_secret(secret), PasswordLink.expires_at > work.now(), Member.active)
    )
    if member is None:
        raise NotFound("This link was used already, or has ended.", "Ask for a new one where you sign in.")
    return member
