"""The application: routes, errors as problem details, the console's files."""

from __future__ import annotations

import asyncio
import secrets
import sys
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

import structlog
from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse
from fastapi.staticfiles import StaticFiles
from sqlalchemy.exc import OperationalError
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import DEFAULT_EXCLUDED_CONTENT_TYPES, GZipMiddleware

from hodcarrier import __version__
from hodcarrier.audit.place import make_place
from hodcarrier.audit.supervisor import Supervisor
from hodcarrier.core import errors
from hodcarrier.core.permissions import Role
from hodcarrier.report.calendar import todo_calendar
from hodcarrier.service import courier, postman, puller, registries, shared, shared_reports
from hodcarrier.service.bounds import Bounds
from hodcarrier.service.deps import signed_in
from hodcarrier.service.document import Described, describe_messages
from hodcarrier.service.housekeeper import Housekeeper
from hodcarrier.service.mail import LogMailer, SmtpMailer
from hodcarrier.service.metrics import CONTENT_TYPE, Metrics
from hodcarrier.service.outside import Reach, guard_of
from hodcarrier.service.postman import Mailer
from hodcarrier.service.problems import answer_of, problem
from hodcarrier.service.readiness import why_not_ready
from hodcarrier.service.repeating import Repeating
from hodcarrier.service.routes import ROUTERS
from hodcarrier.service.routes.sitemaps import media_type
from hodcarrier.service.settings import Settings
from hodcarrier.usecases import report_schedules
from hodcarrier.usecases.changes import Counts
from hodcarrier.usecases.feeds import read_feed
from hodcarrier.usecases.members import first_owner
from hodcarrier.usecases.sitemaps import read_published
from hodcarrier.usecases.throttle import Throttle
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.refusals import place_of, refusal

CONSOLE = Path(__file__).parent.parent / "console"
log = structlog.get_logger()


def make_workspace(settings: Settings) -> Workspace:
    """Open the register and the folder of run files. Raises :class:`~hodcarrier.core.errors.Unavailable`."""
    return make_place(settings.data, settings.url)


def make_mailer(settings: Settings) -> Mailer:
    """How mails go out."""
    return SmtpMailer(settings.smtp_host, settings.smtp_port, settings.mail_from) if settings.smtp_host else LogMailer()


def make_reach(settings: Settings, work: Workspace) -> Reach:
    """How feeds and registries are reached: where sites are beside the service, so are they."""
    near = work.surroundings
    return Reach(guard_of(settings.allow_private), near.get("host_map", {}), near.get("ca_file", ""))


def make_app(settings: Settings, work: Workspace) -> FastAPI:
    """The application over a workspace."""
    supervisor = Supervisor(work, settings.data, settings.workers, settings.worker_memory_mb)
    mailer, guards = make_mailer(settings), guard_of(settings.allow_private)
    reach = make_reach(settings, work)
    rounds = [
        Repeating("postman", postman.EVERY_S, lambda ended: postman.go_round(work, mailer, ended)),
        Repeating("courier", courier.EVERY_S, lambda _ended: courier.deliver_due(work, guards)),
        Repeating("puller", puller.EVERY_S, lambda _ended: puller.pull_due(work, reach)),
        Repeating("reporter", 30.0, lambda _ended: report_schedules.make_due_reports(work, settings.agency)),
        Repeating("registries", registries.EVERY_S, lambda _ended: registries.ask_due(work, reach, settings.registry)),
    ]
    housekeeper = Housekeeper(work, settings)

    @asynccontextmanager
    async def lifespan(_app: FastAPI) -> AsyncIterator[None]:
        password = settings.owner_password or secrets.token_urlsafe(12)
        shown = first_owner(work, settings.owner_email, settings.owner_name, password)
        if shown and not settings.owner_password:
            sys.stderr.write(f"First owner: {settings.owner_email}, password {shown} (shown only now)\n")
        supervisor.start()
        for each in rounds:
            each.start()
        housekeeper.start()
        yield
        await asyncio.to_thread(housekeeper.end)
        await supervisor.end()
        for each in rounds:
            await asyncio.to_thread(each.end)

    app = Described(
        title="Hodcarrier",
        version=__version__,
        lifespan=lifespan,
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
    )
    app.state.settings, app.state.work, app.state.supervisor, app.state.building = settings, work, supervisor, ""
    app.state.housekeeper, app.state.counts = housekeeper, Counts(work)
    describe_messages(app)
    metrics = Metrics(work, supervisor)
    app.state.throttle = Throttle()
    app.add_middleware(Bounds)
    for router in ROUTERS:
        app.include_router(router, prefix="/api/v1")
    app.add_exception_handler(errors.HodcarrierError, _on_error)
    app.add_exception_handler(RequestValidationError, _on_invalid)
    app.add_exception_handler(OverflowError, _on_overflow)
    app.add_exception_handler(OperationalError, _on_register)
    app.add_exception_handler(HTTPException, _on_http)
    app.add_exception_handler(Exception, _on_crash)

    # Run files and documents are compressed in themselves.
    compressed = (*DEFAULT_EXCLUDED_CONTENT_TYPES, "application/vnd.sqlite3", "application/pdf")
    app.add_middleware(GZipMiddleware, minimum_size=1_000, compresslevel=5, exclude_content_types=compressed)

    @app.middleware("http")
    async def guard(request: Request, call_next):  # type: ignore[no-untyped-def]
        """Refuse requests from other sites that would act with the session, and say how pages may be used."""
        origin = request.headers.get("origin")
        foreign = origin is not None and origin.split("://", 1)[-1] != request.headers.get("host")
        if foreign and request.method not in ("GET", "HEAD", "OPTIONS"):
            return problem(
                403, "foreign-origin", "Not allowed", "The request comes from another site.", "Use the console itself."
            )
        began = time.perf_counter()
        response = await call_next(request)
        if request.url.path.startswith("/api/"):
            metrics.note_request(request.method, response.status_code, time.perf_counter() - began)
        response.headers["X-Content-Type-Options"] = "nosniff"
        if request.url.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        response.headers.setdefault("Referrer-Policy", "same-origin")
        response.headers.setdefault(
            "Content-Security-Policy",
            "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; font-src 'self' data:; frame-ancestors 'self'",
        )
        return response

    @app.get("/healthz", include_in_schema=False)
    def healthz() -> dict[str, str]:
        """Whether the process answers."""
        return {"status": "ok", "version": __version__}

    @app.get("/readyz", include_in_schema=False)
    def readyz() -> Response:
        """Whether requests can be served: the register answers, run files can be written, the supervisor looks after runs."""
        if trouble := why_not_ready(work, supervisor):
            return problem(503, "not-ready", "Not ready", trouble, "See the log of the service.")
        return JSONResponse({"status": "ready", "version": __version__})

    @app.get("/metrics", include_in_schema=False)
    def figures(request: Request) -> Response:
        """Figures of the service, for members of the agency: a monitor sends a token that is good for reading."""
        member = signed_in(request, work)
        if member.role == Role.GUEST:
            raise errors.NotAllowed("Figures of the service are for the agency.", "Ask an owner.")
        return Response(metrics.text(), media_type=CONTENT_TYPE, headers={"Cache-Control": "no-store"})

    @app.get("/calendar/{secret}.ics", include_in_schema=False)
    def calendar(secret: str) -> Response:
        """Due dates for a calendar program, which cannot sign in: who has the address may read them."""
        name, todos = read_feed(work, secret)
        headers = {"Cache-Control": "private, no-cache", "X-Robots-Tag": "noindex"}
        content = todo_calendar(name, todos, work.address, work.now())
        return Response(content, media_type="text/calendar; charset=utf-8", headers=headers)

    @app.get("/sitemaps/{secret}/{name}", include_in_schema=False)
    def sitemap(secret: str, name: str) -> Response:
        """A file of a sitemap for the site that publishes it, which cannot sign in: who has the address may read it."""
        found = read_published(work, secret, name)
        return Response(found.body, media_type=media_type(found.name), headers={"Cache-Control": "no-cache"})

    shared_reports.serve(app, work)
    shared.serve(app, work)
    _serve_console(app)
    return app


class Assets(StaticFiles):
    """Files of the console, whose names change with what is in them: a browser need never ask for one again."""

    def file_response(self, *args: Any, **more: Any) -> Response:
        """The file, or that it has not changed."""
        response = super().file_response(*args, **more)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def _serve_console(app: FastAPI) -> None:
    """The built console: its files, and its page for every other path."""
    app.mount("/assets", Assets(directory=CONSOLE / "assets", check_dir=False), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def console(path: str) -> Response:
        if path.startswith("api/"):
            return problem(404, "not-found", "Not found", f"There is no /{path}.", "See /api/v1/openapi.json.")
        if not (CONSOLE / "index.html").is_file():
            return Response("The console has not been built. Run `make console`.\n", 503, media_type="text/plain")
        if path and "/" not in path and (CONSOLE / path).is_file():
            return FileResponse(CONSOLE / path)
        return FileResponse(CONSOLE / "index.html", headers={"Cache-Control": "no-cache"})


async def _on_error(_request: Request, error: Exception) -> Response:
    assert isinstance(error, errors.HodcarrierError)
    return answer_of(error)


async def _on_invalid(_request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    place = "" if first["type"] == "json_invalid" else place_of(first["loc"][1:])
    return problem(422, "invalid-input", "Invalid input", refusal(first, place), "Correct that value.", place)


async def _on_overflow(_request: Request, _error: Exception) -> Response:
    """The register keeps whole numbers of 64 bits; no record has a larger one."""
    return problem(422, "invalid-input", "Invalid input", "A number is too large.", "Give one that is in use.")


async def _on_register(_request: Request, error: Exception) -> Response:
    """The register cannot be written or does not answer: what only reads goes on, and whoever writes is told why it cannot be done now."""
    assert isinstance(error, OperationalError)
    said, cause = str(error.orig), error.__context__
    while cause is not None:  # SQLite gives up the whole transaction of a full disk, and what is asked of it then fails too
        said, cause = f"{said}; {cause}", cause.__context__
    log.error("the register cannot be used", error=said)
    reason = next((words for sign, words in _REGISTER.items() if sign in said), f"The register cannot be used: {error.orig}.")
    return answer_of(
        errors.Unavailable(f"{reason} Nothing was changed.", "Try again when whoever keeps the service has seen to it.")
    )


_REGISTER = {
    "full": "The disk is full, so nothing can be saved.",
    "readonly": "The data folder cannot be written, so nothing can be saved.",
    "locked": "The register is busy.",
}


async def _on_http(_request: Request, error: Exception) -> Response:
    assert isinstance(error, HTTPException)
    said = "The request's body is no JSON that can be read." if error.status_code == 400 else str(error.detail)
    answer = problem(error.status_code, f"http-{error.status_code}", said, said)
    answer.headers.update(error.headers or {})  # such as Allow (RFC 9110, 10.2.1)
    return answer


async def _on_crash(request: Request, error: Exception) -> Response:
    log.error("request failed", path=request.url.path, error=repr(error), exc_info=error)
    return problem(
        500, "internal", "Something broke inside", "The service could not do this.", "Try again; if it stays, send the log to us."
    )
