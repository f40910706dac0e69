"""Reports for people without an account, who hold a link: the page, its PDF, and before them the question for a passphrase where there is one.

Who has given the passphrase holds a cookie for an hour, signed by this process, for that link alone.
"""

from __future__ import annotations

import hashlib
import hmac
import secrets
from datetime import datetime, timedelta
from urllib.parse import parse_qs

from fastapi import FastAPI, Request, Response
from fastapi.responses import RedirectResponse
from starlette.concurrency import run_in_threadpool

from hodcarrier.core.errors import NotFound, TooMany
from hodcarrier.report.asking import draw_question
from hodcarrier.report.document import draw_html, draw_pdf
from hodcarrier.service.routes.reports import READ_ONLY
from hodcarrier.service.shared import HEADERS, ended
from hodcarrier.usecases import report_links, reports
from hodcarrier.usecases.throttle import Throttle
from hodcarrier.usecases.workspace import Workspace

OPEN_FOR = timedelta(hours=1)
_COOKIE = "report"


class Door:
    """Who has given the passphrase of which link, as long as this process lives."""

    def __init__(self, work: Workspace) -> None:
        self.work = work
        self.guesses = Throttle()
        self._key = secrets.token_bytes(32)

    def pass_for(self, secret: str, now: datetime) -> str:
        """What the cookie of a link holds: until when, and the proof of it."""
        until = str(int((now + OPEN_FOR).timestamp()))
        return f"{until}.{self._proof(secret, until)}"

    def lets_in(self, request: Request, secret: str) -> bool:
        """Whether somebody has given the passphrase lately."""
        until, _, proof = request.cookies.get(_COOKIE, "").partition(".")
        if not until.isdecimal() or not hmac.compare_digest(proof, self._proof(secret, until)):
            return False
        return int(until) > self.work.now().timestamp()

    def _proof(self, secret: str, until: str) -> str:
        return hmac.new(self._key, f"{secret} {until}".encode(), hashlib.sha256).hexdigest()


def serve(app: FastAPI, work: Workspace) -> None:
    """Let the application answer to share links of reports."""
    door = Door(work)

    @app.get("/shared/reports/{secret}", include_in_schema=False)
    def read(secret: str, request: Request) -> Response:
        return _answer(work, door, request, secret)

    @app.get("/shared/reports/{secret}/report.pdf", include_in_schema=False)
    def read_pdf(secret: str, request: Request) -> Response:
        return _answer(work, door, request, secret, as_pdf=True)

    @app.post("/shared/reports/{secret}", include_in_schema=False)
    async def answer(secret: str, request: Request) -> Response:
        fields = parse_qs((await request.body()).decode("utf-8", "replace"), max_num_fields=10)
        return await run_in_threadpool(_let_in, work, door, request, secret, fields.get("passphrase", [""])[0])


def _answer(work: Workspace, door: Door, request: Request, secret: str, *, as_pdf: bool = False) -> Response:
    try:
        opening = report_links.look_at_link(work, secret)
        if opening.asks and not door.lets_in(request, secret):
            return _page(draw_question(opening.title, opening.language, refused=False))
        report, drawn = reports.draw_report(work, opening.report_id, for_client=True)
        if not as_pdf:
            report_links.note_seen(work, secret)
            return _page(draw_html(drawn, pdf_address=f"{request.url.path}/report.pdf"))
    except NotFound as error:
        return ended(error)
    name = f"{report.site_host}-{report.to_day}.pdf"
    headers = {**HEADERS, "Content-Disposition": f'inline; filename="{name}"'}
    return Response(draw_pdf(drawn), media_type="application/pdf", headers=headers)


def _let_in(work: Workspace, door: Door, request: Request, secret: str, passphrase: str) -> Response:
    address = request.client.host if request.client else ""
    try:
        opening = report_links.look_at_link(work, secret)
        door.guesses.check(opening.key, address, work.now())
        right = report_links.fits(work, secret, passphrase)
    except NotFound as error:
        return ended(error)
    except TooMany as error:
        headers = {**HEADERS, "Retry-After": str(error.wait_s)}
        return Response(
            f"Too many passphrases were wrong. Wait {error.wait_s} s and try again.\n",
            429,
            media_type="text/plain",
            headers=headers,
        )
    door.guesses.note(opening.key, address, right, work.now())
    if not right:
        return _page(draw_question(opening.title, opening.language, refused=True), 403)
    answer = RedirectResponse(request.url.path, 303, headers=HEADERS)
    answer.set_cookie(
        _COOKIE,
        door.pass_for(secret, work.now()),
        max_age=int(OPEN_FOR.total_seconds()),
        path=request.url.path,
        secure=request.url.scheme == "https",
        httponly=True,
        samesite="strict",
    )
    return answer


def _page(html: str, status: int = 200) -> Response:
    policy = READ_ONLY["Content-Security-Policy"] + "; form-action 'self'"
    return Response(html, status, media_type="text/html", headers={**HEADERS, "Content-Security-Policy": policy})
