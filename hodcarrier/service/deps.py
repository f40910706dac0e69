"""What routes share: the workspace, who asks, the version that is changed."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import Depends, Header, Request

from hodcarrier.core.errors import InvalidInput, SignInNeeded
from hodcarrier.register.models import Member
from hodcarrier.usecases import members
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.base import Problem

COOKIE = "hodcarrier_session"
PROBLEMS: dict[int | str, dict[str, Any]] = {code: {"model": Problem} for code in (401, 403, 404, 409, 422)}


def workspace(request: Request) -> Workspace:
    """The workspace of the application."""
    found: Workspace = request.app.state.work
    return found


Work = Annotated[Workspace, Depends(workspace)]


def anybody(request: Request, work: Work) -> Member:
    """Who asks: by bearer token or by the console's session. Raises :class:`SignInNeeded`."""
    kind, _, secret = request.headers.get("authorization", "").partition(" ")
    if kind.lower() == "bearer" and secret:
        return members.member_of_token(work, secret.strip())
    cookie = request.cookies.get(COOKIE)
    if not cookie:
        raise SignInNeeded("You are signed out.", "Sign in, or send a bearer token.")
    return members.member_of_session(work, cookie)


def staff(member: Annotated[Member, Depends(anybody)]) -> Member:
    """A member of the agency; guests are turned away."""
    members.allow(member, "owner", "lead", "analyst", "writer", "developer", "account")
    return member


Anybody = Annotated[Member, Depends(anybody)]
Staff = Annotated[Member, Depends(staff)]
Version = Annotated[str | None, Header(alias="If-Match", description="the version that was loaded")]


def version_of(text: str | None) -> int | None:
    """The version in an ``If-Match`` header (RFC 9110, 13.1.1). Raises :class:`InvalidInput` when it is none."""
    if text is None:
        return None
    try:
        return int(text.strip('" '))
    except ValueError:
        raise InvalidInput(f"If-Match “{text}” is not a version.", "Send the version that was loaded.", "If-Match") from None
