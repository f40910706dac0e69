"""Members, sessions and tokens."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query, Request, Response

from hodcarrier.core.errors import CodeNeeded, SignInNeeded
from hodcarrier.core.permissions import OWNERS, PERMISSIONS, Extent, Role
from hodcarrier.service.deps import Work, cookie_of, settings_of
from hodcarrier.service.guard import Asker, Granted, require, serves
from hodcarrier.usecases import changes_log, feeds, invitations, members, second_step, sessions
from hodcarrier.usecases.throttle import Throttle
from hodcarrier.wire.base import Listed
from hodcarrier.wire.members import (
    CodeBody,
    CodesOut,
    FeedBody,
    FeedOut,
    InvitationBody,
    LogEntryOut,
    MemberBody,
    MemberChange,
    MemberOut,
    NewPasswordBody,
    PasswordBody,
    PreferencesChange,
    ResetBody,
    SecondStepOut,
    SessionOut,
    SignInBody,
    TokenBody,
    TokenOut,
)

router = APIRouter()


def _with_permissions(member: MemberOut) -> MemberOut:
    may = sorted(name for name, permission in PERMISSIONS.items() if permission.of(member.role) != Extent.NONE)
    return member.model_copy(update={"may": may})


@serves(router, "sign_in")
def sign_in(body: SignInBody, work: Work, request: Request, response: Response) -> MemberOut:
    throttle: Throttle = request.app.state.throttle
    account, address = body.email.strip().lower(), request.client.host if request.client else ""
    throttle.check(account, address, work.now())
    try:
        secret, member = members.sign_in(work, body.email, body.password, _program(request), body.code)
    except CodeNeeded:
        raise  # the password was right, and nothing was guessed yet
    except SignInNeeded:
        throttle.note(account, address, False, work.now())
        raise
    throttle.note(account, address, True, work.now())
    _keep_session(request, response, secret)
    return _with_permissions(member)


def _keep_session(request: Request, response: Response, secret: str) -> None:
    name, secure = cookie_of(settings_of(request))
    days = members.SESSION_DAYS
    response.set_cookie(name, secret, max_age=days * 86400, httponly=True, secure=secure, samesite="lax", path="/")


@serves(router, "ask_reset")
def ask_reset(body: ResetBody, work: Work, request: Request) -> None:
    throttle: Throttle = request.app.state.throttle
    account, address = f"reset {body.email.strip().lower()}", request.client.host if request.client else ""
    throttle.check(account, address, work.now())
    throttle.note(account, address, False, work.now())
    invitations.ask_reset(work, body.email)


@serves(router, "set_password")
def set_password(body: NewPasswordBody, work: Work, request: Request, response: Response) -> MemberOut:
    member = invitations.set_password(work, body)
    _keep_session(request, response, members.begin_session(work, member.id, _program(request)))
    return _with_permissions(member)


@serves(router, "begin_second_step")
def begin_second_step(body: PasswordBody, work: Work, member: Asker) -> SecondStepOut:
    return second_step.begin_second_step(work, member, body.password)


@serves(router, "confirm_second_step")
def confirm_second_step(body: CodeBody, work: Work, member: Asker) -> CodesOut:
    return second_step.confirm_second_step(work, member, body.code)


@serves(router, "end_second_step")
def end_second_step(body: PasswordBody, work: Work, member: Asker) -> None:
    second_step.end_second_step(work, member, body.password)


@serves(router, "list_sessions")
def list_sessions(work: Work, member: Asker, request: Request) -> list[SessionOut]:
    return sessions.list_sessions(work, member, request.cookies.get(cookie_of(settings_of(request))[0], ""))


@serves(router, "end_session")
def end_session(session_id: str, work: Work, member: Asker) -> None:
    sessions.end_session(work, member, session_id)


@serves(router, "list_log")
def list_log(
    work: Work,
    who: int | None = None,
    text: str = "",
    from_day: Annotated[date | None, Query(alias="from")] = None,
    to_day: Annotated[date | None, Query(alias="to")] = None,
    limit: Annotated[int, Query(ge=1, le=1000)] = 200,
    after: Annotated[int, Query(ge=0)] = 0,
) -> Listed[LogEntryOut]:
    return changes_log.list_log(work, who=who, text=text, from_day=from_day, to_day=to_day, limit=limit, after=after)


@serves(router, "invite_member")
def invite_member(body: InvitationBody, work: Work, member: Asker) -> MemberOut:
    if body.role == Role.OWNER:
        require(member, OWNERS, "Adding an owner")
    return invitations.invite_member(work, body, member)


@serves(router, "invite_again")
def invite_again(member_id: int, work: Work, member: Asker) -> MemberOut:
    return invitations.invite_again(work, member_id, member)


def _program(request: Request) -> str:
    return request.headers.get("user-agent", "")


@serves(router, "who_am_i")
def who_am_i(work: Work, member: Asker) -> MemberOut:
    return _with_permissions(members.get_member(work, member.id))


@serves(router, "sign_out")
def sign_out(request: Request, work: Work) -> Response:
    name, secure = cookie_of(settings_of(request))
    members.sign_out(work, request.cookies.get(name, ""))
    response = Response(status_code=204)
    response.delete_cookie(name, path="/", secure=secure, httponly=True, samesite="lax")
    return response


@serves(router, "change_preferences")
def change_preferences(body: PreferencesChange, work: Work, member: Asker, request: Request, response: Response) -> MemberOut:
    changed = members.change_preferences(work, member.id, body)
    if body.password is not None and cookie_of(settings_of(request))[0] in request.cookies:
        _keep_session(request, response, members.begin_session(work, member.id, _program(request)))  # all others have ended
    return _with_permissions(changed)


@serves(router, "list_members")
def list_members(work: Work) -> list[MemberOut]:
    return members.list_members(work)


@serves(router, "add_member")
def add_member(body: MemberBody, work: Work, member: Asker) -> MemberOut:
    if body.role == Role.OWNER:
        require(member, OWNERS, "Adding an owner")
    return members.add_member(work, body, member)


@serves(router, "change_member")
def change_member(member_id: int, body: MemberChange, work: Work, member: Asker) -> MemberOut:
    return members.change_member(work, member_id, body, member)


@serves(router, "list_tokens")
def list_tokens(work: Work, member: Asker) -> list[TokenOut]:
    return members.list_tokens(work, member)


@serves(router, "list_all_tokens")
def list_all_tokens(work: Work) -> list[TokenOut]:
    return members.list_tokens(work, None)


@serves(router, "add_token")
def add_token(body: TokenBody, work: Work, member: Asker) -> TokenOut:
    return members.add_token(work, member, body)


@serves(router, "list_feeds")
def list_feeds(work: Work, member: Asker) -> list[FeedOut]:
    return feeds.list_feeds(work, member)


@serves(router, "add_feed")
def add_feed(body: FeedBody, work: Work, member: Asker) -> FeedOut:
    return feeds.add_feed(work, body, member)


@serves(router, "remove_feed")
def remove_feed(feed_id: int, work: Work, member: Asker) -> None:
    feeds.remove_feed(work, feed_id, member)


@serves(router, "revoke_token")
def revoke_token(token_id: int, work: Work, grant: Granted) -> None:
    members.revoke_token(work, grant.member, token_id, any_member=grant.extent == Extent.ANY_CLIENT)
