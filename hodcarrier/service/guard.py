"""Routes from operations: each is declared by its operation, and refuses whoever the table of permissions does not name."""

from __future__ import annotations

import json
from collections.abc import AsyncIterator, Callable
from dataclasses import dataclass
from typing import Annotated, Any, TypeVar

from fastapi import APIRouter, Depends, Request
from fastapi.responses import Response, StreamingResponse
from sqlalchemy.orm import Session

from hodcarrier.core.errors import InvalidInput, NotAllowed, NotFound
from hodcarrier.core.permissions import Extent, Permission, Role
from hodcarrier.core.states import TokenScope
from hodcarrier.register.models import Alert, Benchmark, Client, Member, Remark, Report, Run, Site, Todo, WaiverRow
from hodcarrier.service.deps import actual_run, signed_in, workspace
from hodcarrier.usecases.limits import seen_by
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.operations import OPERATIONS, Operation

Handler = TypeVar("Handler", bound=Callable[..., Any])
# How a refusal is documented. Named, not given as a model: of that the framework would make one anew for each refusal of each operation.
PROBLEM: dict[str, Any] = {"content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}}
# The refusals that any operation may give; that of a request with a body that cannot be taken; and that of signing in too often.
PROBLEMS, BODY_PROBLEMS, TOO_MANY = (401, 403, 404, 409, 422, 503), (400, 408, 413), 429


@dataclass(frozen=True)
class Grant:
    """Who asks, and how far the permission reaches."""

    member: Member
    extent: Extent

    @property
    def only_client(self) -> int | None:
        """The one client whose things may be seen (0: none there is); ``None``: any."""
        return self.member.client_id or 0 if self.extent == Extent.OWN_CLIENT else None


@dataclass(frozen=True)
class Belonging:
    """Whom a thing belongs to: a client, and perhaps a member who works on it."""

    client_id: int | None
    member_id: int | None = None


Finder = Callable[[Session, Any], Belonging | None]


def _of_site(session: Session, site_id: int) -> Belonging | None:
    site = session.get(Site, site_id)
    return Belonging(site.client_id) if site else None


def _of_todo(session: Session, todo_id: int) -> Belonging | None:
    todo = session.get(Todo, todo_id)
    return Belonging(todo.site.client_id, todo.assignee_id) if todo else None


def _on_site(kind: type[Run] | type[Remark] | type[WaiverRow] | type[Benchmark] | type[Report] | type[Alert]) -> Finder:
    def find(session: Session, key: Any) -> Belonging | None:
        found: Any = session.get(kind, key)
        return _of_site(session, found.site_id) if found else None

    return find


# Whom the thing that a path names belongs to, by the name of its parameter.
BELONGING: dict[str, Finder] = {
    "client_id": lambda session, key: Belonging(key) if session.get(Client, key) else None,
    "site_id": _of_site,
    "todo_id": _of_todo,
    "run_id": _on_site(Run),
    "remark_id": _on_site(Remark),
    "waiver_id": _on_site(WaiverRow),
    "benchmark_id": _on_site(Benchmark),
    "report_id": _on_site(Report),
    "alert_id": _on_site(Alert),
}


def check_extent(work: Workspace, grant: Grant, operation: Operation, path: dict[str, str]) -> None:
    """Refuse things that are not within the extent. Another client's are not found; a colleague's may not be changed."""
    if grant.extent == Extent.ANY_CLIENT:
        return
    with work.reading() as session:
        for name, kind in operation.path_parameters:
            if name not in BELONGING:
                continue
            try:
                key = kind(actual_run(work, path[name]) if name == "run_id" else path[name])
            except ValueError:
                continue  # the route itself says what is wrong with it
            found = BELONGING[name](session, key)
            if grant.extent == Extent.OWN_CLIENT and (found is None or found.client_id != grant.member.client_id):
                raise NotFound("There is nothing of that kind for you here.", "Ask the agency for the right link.")
            if grant.extent == Extent.OWN_ITEMS and found is not None and found.member_id != grant.member.id:
                raise NotAllowed(
                    f"As {_a(grant.member.role)} you may change your own to-dos only.", "Ask its assignee or a lead."
                )


def require(member: Member, permission: Permission, deed: str) -> Extent:
    """How far a member may go. Raises :class:`NotAllowed` for one who may not at all; ``deed`` is what it is about."""
    extent = permission.of(member.role)
    if extent == Extent.NONE:
        raise NotAllowed(f"{deed} needs {permission.words()}; you are {_a(member.role)}.", "Ask an owner.")
    return extent


def _a(role: Role) -> str:
    return f"an {role}" if role.value[0] in "aeiou" else f"a {role}"


def guard(operation: Operation) -> Callable[[Request], None]:
    """The dependency that lets nobody through to an operation but those who may do it."""

    def check(request: Request) -> None:
        if operation.permission.public:
            return
        work = workspace(request)
        # Of a request with a body it was asked before that was read.
        member = getattr(request.state, "member", None) or signed_in(request, work)
        deed = f"“{operation.name.replace('_', ' ').capitalize()}”"
        if operation.method != "GET" and getattr(request.state, "scope", TokenScope.ALL) == TokenScope.READ:
            raise NotAllowed(f"{deed} needs a token that is good for everything; this one is for reading.", "Use another token.")
        grant = Grant(member, require(member, operation.permission, deed))
        check_extent(work, grant, operation, request.path_params)
        request.state.grant, request.state.seen = grant, seen_by(work, member)

    return check


async def whole_text(request: Request) -> None:
    """Refuse bodies with texts that are no Unicode: they could be neither kept nor shown, and would break lists later.

    JSON is UTF-8 (RFC 8259, 8.1), and half of a surrogate pair, raw or escaped, is no character. Raises :class:`InvalidInput`.
    """
    body = await request.body()
    try:
        if b"\\u" in body:
            json.dumps(json.loads(body), ensure_ascii=False).encode()
        body.decode()
    except UnicodeError:
        raise InvalidInput(
            "The request holds text that is not valid Unicode.", "Send UTF-8, and no half of a surrogate pair."
        ) from None
    except ValueError:
        return  # no JSON at all: the model says so


def granted(request: Request) -> Grant:
    """The grant under which a request is served."""
    found: Grant = request.state.grant
    return found


def member_of(request: Request) -> Member:
    """Who asks."""
    return granted(request).member


Granted = Annotated[Grant, Depends(granted)]
Asker = Annotated[Member, Depends(member_of)]


def problems_of(operation: Operation) -> dict[int | str, dict[str, Any]]:
    """The refusals that the document names for an operation."""
    codes = [*PROBLEMS, *(BODY_PROBLEMS if operation.body else ()), *([TOO_MANY] if operation.throttled else ())]
    return dict.fromkeys(sorted(codes), PROBLEM)


class EventStream(StreamingResponse):
    """Server-sent events as they come (WHATWG HTML, 9.2). Nothing between the service and who listens may keep them back."""

    media_type = "text/event-stream"

    def __init__(self, content: AsyncIterator[str]) -> None:
        super().__init__(content, headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"})


def serves(router: APIRouter, name: str) -> Callable[[Handler], Handler]:
    """Serve an operation by a handler: method, path, result, status and permission are those of the operation."""
    operation = OPERATIONS[name]

    def register(handler: Handler) -> Handler:
        document = operation.result is bytes
        kind = EventStream if operation.events else Response
        options: dict[str, Any] = {"response_class": kind} if document else {"response_model": operation.result}
        events: dict[int | str, dict[str, Any]] = {200: {"model": operation.events}} if operation.events else {}
        router.add_api_route(
            operation.path,
            handler,
            methods=[operation.method],
            name=operation.name,
            operation_id=operation.name,
            description=operation.summary,
            status_code=operation.success,
            tags=[operation.noun],
            dependencies=[Depends(guard(operation)), *([Depends(whole_text)] if operation.body else [])],
            responses={**events, **problems_of(operation)},
            openapi_extra={"x-permission": permission_document(operation.permission)},
            **options,
        )
        return handler

    return register


def permission_document(permission: Permission) -> dict[str, Any]:
    """A permission as the OpenAPI document shows it: the extent of every role, and whether anybody may."""
    return {"public": permission.public, **{role.value: permission.of(role).value for role in Role}}
