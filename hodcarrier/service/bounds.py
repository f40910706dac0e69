"""Bounds on what a request may bring, kept before anything of it is read: who is signed out sends no body, and no body is without end,
be it in bytes or in time."""

from __future__ import annotations

import asyncio

from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from hodcarrier.core.errors import HodcarrierError
from hodcarrier.service.deps import signed_in, workspace
from hodcarrier.service.problems import answer_of, problem
from hodcarrier.wire.operations import OPERATIONS

# A plan may hold a list of a hundred thousand addresses; nothing that is sent is larger.
BODY_BYTES_MAX = 32 * 1024 * 1024
# Whoever signs in sends an address and a password, whoever answers by a share link a comment.
PUBLIC_BYTES_MAX = 64 * 1024
# However slowly the body of a request trickles in, it is waited for so long.
BODY_S = 60.0
PUBLIC = frozenset(f"/api/v1{each.path}" for each in OPERATIONS.values() if each.permission.public and each.body)


class Bounds:
    """An ASGI application around another one."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer what is out of bounds; pass on the rest with a count of its bytes."""
        if scope["type"] != "http" or scope["method"] not in ("POST", "PUT", "PATCH"):
            await self.app(scope, receive, send)
            return
        known = scope["path"].startswith("/api/") and scope["path"] not in PUBLIC
        if known:
            request = Request(scope)
            try:
                request.state.member = await asyncio.to_thread(signed_in, request, workspace(request))
            except HodcarrierError as error:
                await answer_of(error)(scope, receive, send)
                return
        most = BODY_BYTES_MAX if known else PUBLIC_BYTES_MAX
        too_large = f"The request is larger than {most // 1024:,} KiB."
        length = Headers(scope=scope).get("content-length", "")
        if length.isdecimal() and int(length[:20]) > most:
            await problem(413, "too-large", "Too large", too_large, "Send it in parts.")(scope, receive, send)
            return
        total, whole = 0, False
        last_moment = asyncio.get_running_loop().time() + BODY_S

        async def counted() -> Message:
            nonlocal total, whole
            if whole:
                return await receive()  # that the connection has ended, whenever it does
            try:
                async with asyncio.timeout_at(last_moment):
                    message = await receive()
            except TimeoutError:
                raise HTTPException(408, f"The request took longer than {BODY_S:g} s to arrive.") from None
            total += len(message.get("body", b""))
            whole = not message.get("more_body", False)
            if total > most:
                raise HTTPException(413, too_large)
            return message

        await self.app(scope, counted, send)
