"""Members, signing in, tokens."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from zoneinfo import available_timezones

from sqlalchemy import delete, func, select, update
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound, SignInNeeded
from hodcarrier.core.mailing import mail_times, next_morning
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import UNFINISHED_TODO, TodoEventKind, TokenScope
from hodcarrier.core.words import fill
from hodcarrier.register.models import Client, Member, SignIn, Todo, Token
from hodcarrier.usecases import second_step
from hodcarrier.usecases.passwords import NOBODY, check_password, hash_password, hash_secret, is_password
from hodcarrier.usecases.todo_mails import tell_assigned
from hodcarrier.usecases.todo_story import note, worker_for
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.members import MemberBody, MemberChange, MemberOut, PreferencesChange, TokenBody, TokenOut

SESSION_DAYS = 14
# A session notes no oftener than this that it is used: every request would be a change of the register.
SEEN_EVERY = timedelta(hours=1)


def add_member(work: Workspace, body: MemberBody, author: Member | None = None) -> MemberOut:
    """Add a member. Raises :class:`Conflict` when the e-mail address is taken."""
    email = checked_email(body.email)
    hashed = hash_password(body.password, body.name, email)
    with work.session() as session:
        member = make_member(session, work, body.name, email, body.role, body.client_id, hashed)
        log(session, work.now(), author.id if author else None, "member added", email)
        return _shown(session, work, member)


def checked_email(text: str) -> str:
    """An e-mail address as it is kept. Raises :class:`InvalidInput` for what is none."""
    email = text.strip().lower()
    if "@" not in email.strip("@"):
        raise InvalidInput(f"“{text}” is not an e-mail address.", "Give one such as imke@agency.example.", "email")
    return email


def make_member(
    session: Session, work: Workspace, name: str, email: str, role: Role, client_id: int | None, password_hash: str
) -> Member:
    """Add a member in the caller's transaction. Raises :class:`Conflict` when name or e-mail address is taken."""
    email = checked_email(email)
    _check_client(session, role, client_id)
    member = Member(
        name=name.strip(), email=email, role=role, password_hash=password_hash, client_id=client_id, created_at=work.now()
    )
    if session.scalar(select(Member.id).where(Member.email == email)) is not None:
        raise Conflict(f"{email} is already a member.", "Change that member, or give another address.")
    taken = f"There is already a member called {member.name}, or with the address {email}."
    with unless_taken(session, taken, "Give another form of the name, such as one with a middle initial."):
        session.add(member)
    return member


def change_member(work: Workspace, member_id: int, change: MemberChange, author: Member) -> MemberOut:
    """Change a member. The last active owner keeps the role. A new password, and switching off, end all sessions and tokens."""
    hashed = None if change.password is None else hash_password(change.password, get_member(work, member_id).email)
    with work.session() as session:
        member = fetch(session, Member, member_id, "member")
        stays_owner = change.role in (None, Role.OWNER) and change.active is not False
        if member.role == Role.OWNER and not stays_owner:
            owners = session.scalar(select(func.count()).where(Member.role == Role.OWNER, Member.active))
            if owners == 1:
                raise Conflict("The last owner cannot be changed or switched off.", "Make another member owner first.")
        with unless_taken(session, f"There is already a member called {change.name}.", "Give another form of the name."):
            for name in ("name", "role", "active", "client_id"):
                value = getattr(change, name)
                if value is not None:
                    setattr(member, name, value)
            if member.active:
                _check_client(session, member.role, member.client_id)
        if hashed is not None:
            member.password_hash = hashed
        if hashed is not None or change.active is False:
            end_sessions(session, work, member_id)
        if change.second_on is False:
            second_step.forget_second_step(member)
        if change.active is False:
            _hand_over(session, work, member, change, author)
        log(session, work.now(), author.id, "member changed", member.email)
        return _shown(session, work, member)


def _hand_over(session: Session, work: Workspace, member: Member, change: MemberChange, author: Member) -> None:
    """Give the to-dos of somebody who leaves to somebody else, or to nobody. Raises :class:`Conflict` when there are some and it is not said to whom."""
    todos = session.scalars(select(Todo).where(Todo.assignee_id == member.id, Todo.state.in_(UNFINISHED_TODO))).all()
    if not todos:
        return
    if "hand_to" not in change.model_fields_set:
        number = fill("{n:unfinished to-do}", {"n": len(todos)})
        raise Conflict(f"{member.name} has {number}.", "Say who takes them over, or that nobody does.")
    if change.hand_to == member.id:
        raise InvalidInput(f"{member.name} leaves and cannot take them over.", "Choose somebody else.", "hand_to")
    for todo in todos:
        heir = worker_for(session, todo.site, change.hand_to, "hand_to")
        todo.assignee, todo.version = heir, todo.version + 1
        said = f"Given to {heir.name}, as {member.name} has left." if heir else f"Given to nobody, as {member.name} has left."
        event = note(session, todo, work.now(), author, TodoEventKind.ASSIGNED, said)
        tell_assigned(session, todo, event, author)


def _check_client(session: Session, role: Role, client_id: int | None) -> None:
    """A guest sees one client's things, so there must be one."""
    if role == Role.GUEST and client_id is None:
        raise InvalidInput("A guest belongs to a client.", "Say which client.", "client_id")
    if client_id is not None:
        fetch(session, Client, client_id, "client")


def change_preferences(work: Workspace, member_id: int, change: PreferencesChange) -> MemberOut:
    """Change one's own name, password, date format or mails. A new password needs the old one, and ends all sessions and tokens.

    Raises :class:`InvalidInput` for a zone that there is not.
    """
    if change.mail_zone is not None and change.mail_zone not in available_timezones():
        raise InvalidInput(f"There is no time zone “{change.mail_zone}”.", "Give one as in Europe/London.", "mail_zone")
    hashed = None
    if change.password is not None:
        known = check_password(work, member_id, change.current_password or "", "current_password")
        hashed = hash_password(change.password, known.name, known.email)
    with work.session() as session:
        member = fetch(session, Member, member_id, "member")
        if hashed is not None:
            member.password_hash = hashed
            end_sessions(session, work, member_id)
            log(session, work.now(), member_id, "password changed", member.email)
        with unless_taken(session, f"There is already a member called {change.name}.", "Give another form of the name."):
            for name in ("name", "date_order", "morning", "mail_hour", "mail_zone"):
                value = getattr(change, name)
                if value is not None:
                    setattr(member, name, value)
            member.morning_at = next_morning(work.now(), member.mail_zone, member.mail_hour) if member.morning else None
            if change.mail_times is not None:
                member.mail_times = {**member.mail_times, **{str(kind): str(when) for kind, when in change.mail_times.items()}}
        return _shown(session, work, member)


def list_members(work: Workspace) -> list[MemberOut]:
    """All members, with how many live to-dos each has and how many of those are overdue."""
    with work.reading() as session:
        return _all_shown(session, work, session.scalars(select(Member).order_by(Member.name)).all())


def get_member(work: Workspace, member_id: int) -> MemberOut:
    """One member, as the list of all shows it."""
    with work.reading() as session:
        return _shown(session, work, fetch(session, Member, member_id, "member"))


def _all_shown(session: Session, work: Workspace, found: Sequence[Member]) -> list[MemberOut]:
    """Members with the counts that every surface says of a member, from one query for all of them."""
    rows = session.execute(
        select(Todo.assignee_id, func.count(), func.count().filter(Todo.due < work.now().date()))
        .where(Todo.assignee_id.in_([member.id for member in found]), Todo.state.in_(UNFINISHED_TODO))
        .group_by(Todo.assignee_id)
    )
    counts = {member_id: {"open_todos": live, "overdue_todos": late} for member_id, live, late in rows}
    return [
        MemberOut.model_validate(member).model_copy(
            update={"mail_times": mail_times(member.mail_times), "invited": not member.password_hash, **counts.get(member.id, {})}
        )
        for member in found
    ]


def _shown(session: Session, work: Workspace, member: Member) -> MemberOut:
    return _all_shown(session, work, [member])[0]


def find_member(session: Session, key: str | int) -> Member:
    """A member by id, e-mail address, name or unique beginning of a name. Raises :class:`NotFound` naming who there is."""
    members = session.scalars(select(Member).where(Member.active)).all()
    text = str(key).strip().lower()
    exact = [m for m in members if text in (str(m.id), m.email, m.name.lower())]
    near = exact or [m for m in members if m.name.lower().startswith(text)]
    if len(near) == 1 and text:
        return near[0]
    names = ", ".join(sorted(m.name for m in members if m.role != Role.GUEST))
    raise NotFound(f"Nobody called “{key}” is a member.", f"Members are {names}.")


def sign_in(work: Workspace, email: str, password: str, program: str = "", code: str = "") -> tuple[str, MemberOut]:
    """Begin a session; returns its secret. Raises :class:`SignInNeeded` without saying which of the two was wrong."""
    with work.reading() as session:
        member = session.scalar(select(Member).where(Member.email == email.strip().lower()))
        known = (member.id, member.active, member.password_hash) if member else (0, False, NOBODY)
    # Between two transactions: checking a password takes long on purpose, and nobody else is to wait for it.
    if not (is_password(known[2], password) and known[1]):
        raise SignInNeeded(
            "That e-mail address and password do not belong together.", "Try again, or ask an owner for a new password."
        )
    with work.session() as session:
        second_step.pass_second_step(work, session, fetch(session, Member, known[0], "member"), code)
    secret = begin_session(work, known[0], program)
    return secret, get_member(work, known[0])


def begin_session(work: Workspace, member_id: int, program: str = "") -> str:
    """Begin a session of a member in a ``program``; gives its secret."""
    secret = secrets.token_urlsafe(32)
    with work.session() as session:
        session.execute(delete(SignIn).where(SignIn.expires_at < work.now()))
        session.add(
            SignIn(
                secret_hash=hash_secret(secret),
                member_id=member_id,
                expires_at=work.now() + timedelta(days=SESSION_DAYS),
                created_at=work.now(),
                seen_at=work.now(),
                program=program[:300],
            )
        )
    return secret


def end_sessions(session: Session, work: Workspace, member_id: int) -> None:
    """Sign a member out everywhere: sessions and tokens."""
    session.execute(delete(SignIn).where(SignIn.member_id == member_id))
    session.execute(update(Token).where(Token.member_id == member_id, Token.revoked_at.is_(None)).values(revoked_at=work.now()))


def sign_out(work: Workspace, secret: str) -> None:
    """End a session."""
    with work.session() as session:
        found = session.get(SignIn, hash_secret(secret))
        if found is not None:
            session.delete(found)


def member_of_session(work: Workspace, secret: str) -> Member:
    """Who a session belongs to. Raises :class:`SignInNeeded` when it has ended."""
    own = SignIn.secret_hash == hash_secret(secret)
    with work.reading() as session:
        kept = select(Member, SignIn.seen_at).join(SignIn, SignIn.member_id == Member.id)
        found = session.execute(kept.where(own, SignIn.expires_at > work.now())).first()
        if found is None or not found[0].active:
            raise SignInNeeded("You are signed out.", "Sign in again.")
        member, seen = found
        session.expunge(member)
    if seen is None or work.now() - seen > SEEN_EVERY:
        with work.session() as session:
            session.execute(update(SignIn).where(own).values(seen_at=work.now()))
    return member


@dataclass(frozen=True)
class Bearer:
    """Who sends a token, and what it is good for."""

    member: Member
    scope: TokenScope


def member_of_token(work: Workspace, secret: str) -> Bearer:
    """Who a bearer token belongs to. Raises :class:`SignInNeeded` when it is unknown, revoked or has ended."""
    again = "Make a new one with `hodcarrier token add NAME`."
    with work.reading() as session:
        token = session.scalar(select(Token).where(Token.secret_hash == hash_secret(secret)).options(joinedload(Token.member)))
        if token is None or token.revoked_at is not None or not token.member.active:
            raise SignInNeeded("The token is unknown or revoked.", again)
        if token.expires_at is not None and token.expires_at <= work.now():
            raise SignInNeeded(f"The token ended on {token.expires_at:%a %d %b %Y}.", again)
        member = token.member
        session.expunge(member)
        return Bearer(member, token.scope)


def add_token(work: Workspace, member: Member, body: TokenBody) -> TokenOut:
    """Make a token for a member; its secret is in this answer and never again."""
    secret = "hod_" + secrets.token_urlsafe(32)
    with work.session() as session:
        token = Token(
            member_id=member.id,
            name=body.name,
            secret_hash=hash_secret(secret),
            begins=secret[:8],
            scope=body.scope,
            created_at=work.now(),
            expires_at=work.now() + timedelta(days=body.days),
        )
        session.add(token)
        session.flush()
        log(session, work.now(), member.id, "token added", body.name)
        return _token_out(token, secret)


def _token_out(token: Token, secret: str | None = None) -> TokenOut:
    return TokenOut(
        id=token.id,
        name=token.name,
        begins=token.begins,
        scope=token.scope,
        member_name=token.member.name,
        created_at=token.created_at,
        expires_at=token.expires_at,
        revoked_at=token.revoked_at,
        secret=secret,
    )


def list_tokens(work: Workspace, member: Member | None) -> list[TokenOut]:
    """The tokens of a member, or of everybody."""
    with work.reading() as session:
        chosen = select(Token).order_by(Token.id)
        if member is not None:
            chosen = chosen.where(Token.member_id == member.id)
        return [_token_out(token) for token in session.scalars(chosen)]


def revoke_token(work: Workspace, member: Member, token_id: int, *, any_member: bool) -> None:
    """Revoke a token of one's own, or with ``any_member`` that of anybody. One that is revoked already stays so."""
    with work.session() as session:
        token = session.get(Token, token_id)
        if token is None or (token.member_id != member.id and not any_member):
            raise NotFound(f"You have no token {token_id}.", "See `hodcarrier token list`.")
        token.revoked_at = token.revoked_at or work.now()
        log(session, work.now(), member.id, "token revoked", f"{token.name} of {token.member.name}")


def first_owner(work: Workspace, email: str, name: str, password: str) -> str | None:
    """Make the first owner if there is no member yet; returns the password to show once, or ``None``."""
    with work.reading() as session:
        if session.scalar(select(func.count()).select_from(Member)):
            return None
    add_member(work, MemberBody(name=name, email=email, role=Role.OWNER, password=password))
    return password
