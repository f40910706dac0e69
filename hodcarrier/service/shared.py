"""Pages for people without an account, who hold a link with a secret in it: plain forms, no scripts."""

from __future__ import annotations

from urllib.parse import parse_qs

from fastapi import FastAPI, Request, Response
from starlette.concurrency import run_in_threadpool

from hodcarrier.core.errors import HodcarrierError, NotFound
from hodcarrier.report.sheet import Answering, draw_sheet
from hodcarrier.usecases import todo_links
from hodcarrier.usecases.todo_links import Shared
from hodcarrier.usecases.workspace import Workspace

# With no referrer at all, browsers name no origin either when a form is sent, and it would be taken for one of another site (Fetch, 3.2.5).
HEADERS = {"X-Robots-Tag": "noindex, nofollow", "Cache-Control": "private, no-store", "Referrer-Policy": "same-origin"}
THANKS = {
    "comment": "Thank you: your comment is with the agency.",
    "done": "Thank you: the to-do is marked as done. The next audit checks it.",
    "agree": "Thank you: the agency knows that you agree.",
}


def serve(app: FastAPI, work: Workspace) -> None:
    """Let the application answer to share links."""

    @app.get("/shared/{secret}", include_in_schema=False)
    def read(secret: str) -> Response:
        try:
            return _page(todo_links.open_link(work, secret))
        except NotFound as error:
            return ended(error)

    @app.post("/shared/{secret}", include_in_schema=False)
    async def answer(secret: str, request: Request) -> Response:
        fields = parse_qs((await request.body()).decode("utf-8", "replace"), keep_blank_values=True, max_num_fields=10)
        return await run_in_threadpool(_answer, work, secret, fields)


def _answer(work: Workspace, secret: str, fields: dict[str, list[str]]) -> Response:
    kind, comment = fields.get("answer", ["comment"])[0], fields.get("comment", [""])[0]
    try:
        shared = todo_links.answer_link(work, secret, comment, done=kind == "done", agrees=kind == "agree")
    except NotFound as error:
        return ended(error)
    except HodcarrierError as error:
        return _page(todo_links.open_link(work, secret), trouble=f"{error.message} {error.hint}", draft=comment, status=422)
    return _page(shared, said=THANKS.get(kind, THANKS["comment"]))


def _page(shared: Shared, said: str = "", trouble: str = "", draft: str = "", status: int = 200) -> Response:
    answering = Answering(shared.name, shared.may_finish, shared.asks, said, trouble, draft)
    return Response(draw_sheet(shared.sheet, answering), status, media_type="text/html", headers=HEADERS)


def ended(error: NotFound) -> Response:
    """A link that is not valid any more."""
    return Response(f"{error.message} {error.hint}\n", 404, media_type="text/plain", headers=HEADERS)
