"""What routes share: the workspace, who asks, the version that is changed."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Header, Request

from hodcarrier.core.errors import InvalidInput, SignInNeeded
from hodcarrier.register.models import Member, Run
from hodcarrier.service.settings import Settings
from hodcarrier.usecases import members
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run_id, run_id_on

COOKIE = "hodcarrier_session"
# Over https a cookie by this name is taken from the host itself alone, and never over http (RFC 6265bis, 4.1.3.2).
SECURE_COOKIE = "__Host-hodcarrier_session"


def workspace(request: Request) -> Workspace:
    """The workspace of the application."""
    found: Workspace = request.app.state.work
    return found


def settings_of(request: Request) -> Settings:
    """The settings of the application."""
    found: Settings = request.app.state.settings
    return found


def cookie_of(settings: Settings) -> tuple[str, bool]:
    """The name of the session's cookie, and whether it is for https alone."""
    secure = settings.url.startswith("https:")
    return (SECURE_COOKIE if secure else COOKIE), secure


def workspace_seen(request: Request) -> Workspace:
    """The workspace as whoever asks sees it: without the clients that are limited to others."""
    found: Workspace = getattr(request.state, "seen", None) or workspace(request)
    return found


Work = Annotated[Workspace, Depends(workspace_seen)]
Configured = Annotated[Settings, Depends(settings_of)]
Version = Annotated[str | None, Header(alias="If-Match", description="the version that was loaded")]


def signed_in(request: Request, work: Workspace) -> Member:
    """Who asks: by bearer token or by the console's session. Raises :class:`SignInNeeded`."""
    kind, _, secret = request.headers.get("authorization", "").partition(" ")
    if kind.lower() == "bearer" and secret:
        bearer = members.member_of_token(work, secret.strip())
        request.state.scope = bearer.scope
        return bearer.member
    cookie = request.cookies.get(cookie_of(settings_of(request))[0])
    if not cookie:
        raise SignInNeeded("You are signed out.", "Sign in, or send a bearer token.")
    return members.member_of_session(work, cookie)


def version_of(text: str | None) -> int | None:
    """The version in an ``If-Match`` header (RFC 9110, 13.1.1). Raises :class:`InvalidInput` when it is none."""
    if text is None:
        return None
    try:
        return int(text.strip('" '))
    except ValueError:
        raise InvalidInput(f"If-Match “{text}” is not a version.", "Send the version that was loaded.", "If-Match") from None


def actual_run(work: Workspace, run_id: str) -> str:
    """The id of a run that there is; ``latest-SITE`` stands for the latest examined run of a site, ``SITE@DAY`` for the latest that was asked for on
    that day or before (ISO 8601, UTC). Raises :class:`NotFound`."""
    head, _, site = run_id.partition("-")
    number, _, day = run_id.partition("@")
    with work.reading() as session:
        if number.isdecimal() and day:
            return run_id_on(session, int(number), day)
        if head == "latest" and site.isdecimal():
            return latest_run_id(session, int(site))
        return fetch(session, Run, run_id, "run").id
