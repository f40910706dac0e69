"""The routes: thin. Each reads its request, calls one use case, and gives back a wire model."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import FileResponse, StreamingResponse

from hodcarrier import __version__
from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.report.document import draw_html, draw_pdf
from hodcarrier.report.tables import FINDING_FIELDS, to_csv, to_json, to_sarif
from hodcarrier.runfile import results
from hodcarrier.service.deps import COOKIE, PROBLEMS, Anybody, Staff, Version, Work, version_of
from hodcarrier.usecases import benchmarks, comparisons, desk, members, reports, runs, todos
from hodcarrier.usecases.workspace import Workspace, latest_run_id
from hodcarrier.wire.base import Listed
from hodcarrier.wire.people import MemberBody, MemberChange, MemberOut, SignInBody, TokenBody, TokenOut
from hodcarrier.wire.results import CauseRow, CheckOnSite, CheckRow, ComparisonOut, FindingRow, PageOut, PageRow
from hodcarrier.wire.sites import (
    RunBrief,
    RunOut,
)
from hodcarrier.wire.work import (
    BenchmarkBody,
    BenchmarkBrief,
    BenchmarkOut,
    DeskOut,
    ReportBody,
    ReportOut,
    TodoBody,
    TodoChange,
    TodoOut,
)

router = APIRouter(responses=PROBLEMS)
EVENTS_EVERY_S = 0.5
KEEP_ALIVE_S = 15.0


# -- people ----------------------------------------------------------------------------------------------------


@router.post("/session", tags=["people"])
def sign_in(body: SignInBody, work: Work, response: Response) -> MemberOut:
    """Sign in; the session is kept in a cookie that scripts cannot read."""
    secret, member = members.sign_in(work, body.email, body.password)
    response.set_cookie(COOKIE, secret, max_age=members.SESSION_DAYS * 86400, httponly=True, samesite="lax", path="/")
    return member


@router.get("/session", tags=["people"])
def who_am_i(member: Anybody) -> MemberOut:
    """Who is signed in."""
    return MemberOut.model_validate(member)


@router.delete("/session", status_code=204, tags=["people"])
def sign_out(request: Request, work: Work) -> Response:
    """Sign out."""
    members.sign_out(work, request.cookies.get(COOKIE, ""))
    response = Response(status_code=204)
    response.delete_cookie(COOKIE, path="/")
    return response


@router.get("/members", tags=["people"])
def list_members(work: Work, _member: Staff) -> list[MemberOut]:
    """All members with their load."""
    return members.list_members(work)


@router.post("/members", status_code=201, tags=["people"])
def add_member(body: MemberBody, work: Work, member: Staff) -> MemberOut:
    """Add a member."""
    members.allow(member, "owner", "lead")
    if body.role == "owner":
        members.allow(member, "owner")
    return members.add_member(work, body, member)


@router.patch("/members/{member_id}", tags=["people"])
def change_member(member_id: int, body: MemberChange, work: Work, member: Staff) -> MemberOut:
    """Change a member."""
    members.allow(member, "owner")
    return members.change_member(work, member_id, body, member)


@router.get("/tokens", tags=["people"])
def list_tokens(work: Work, member: Staff) -> list[TokenOut]:
    """One's own tokens."""
    return members.list_tokens(work, member)


@router.post("/tokens", status_code=201, tags=["people"])
def add_token(body: TokenBody, work: Work, member: Staff) -> TokenOut:
    """Make a token; its secret is shown in this answer only."""
    return members.add_token(work, member, body.name)


@router.delete("/tokens/{token_id}", status_code=204, tags=["people"])
def revoke_token(token_id: int, work: Work, member: Staff) -> None:
    """Revoke a token."""
    members.revoke_token(work, member, token_id)


# -- runs --------------------------------------------------------------------------------------------------------


def _run_id(work: Workspace, run_id: str) -> str:
    """A run's id; ``latest-SITE`` stands for the latest done run of a site."""
    head, _, site = run_id.partition("-")
    if head == "latest" and site.isdigit():
        with work.session() as session:
            return latest_run_id(session, int(site))
    return run_id


@router.get("/runs", tags=["runs"])
def list_runs(
    work: Work, _member: Staff, site: int | None = None, purpose: str = "", limit: Annotated[int, Query(ge=1, le=500)] = 100
) -> list[RunBrief]:
    """Runs, the latest first."""
    return runs.list_runs(work, site, limit, purpose)


@router.post("/sites/{site_id}/runs", status_code=202, tags=["runs"])
def start_run(site_id: int, work: Work, member: Staff) -> RunBrief:
    """Audit a site now."""
    return runs.queue_run(work, site_id, member)


@router.get("/runs/{run_id}", tags=["runs"])
def get_run(run_id: str, work: Work, _member: Staff) -> RunOut:
    """A run with its summary or progress."""
    return runs.get_run(work, _run_id(work, run_id))


@router.get("/runs/{run_id}/events", tags=["runs"], response_class=StreamingResponse)
async def watch_run(run_id: str, work: Work, _member: Staff) -> StreamingResponse:
    """The run as server-sent events: one whenever its state or progress changes, the last when it has ended."""
    await asyncio.to_thread(runs.get_run, work, run_id)
    headers = {"Cache-Control": "no-store", "X-Accel-Buffering": "no"}
    return StreamingResponse(_events(work, run_id), media_type="text/event-stream", headers=headers)


async def _events(work: Workspace, run_id: str) -> AsyncIterator[str]:
    told = ""
    silent_s = 0.0
    while True:
        run = await asyncio.to_thread(runs.get_run, work, run_id)
        said = run.model_dump_json(exclude={"plan", "summary", "changes"})
        if said != told:
            told, silent_s = said, 0.0
            yield f"event: run\ndata: {said}\n\n"
        elif silent_s >= KEEP_ALIVE_S:
            silent_s = 0.0
            yield ": still here\n\n"
        if run.state not in runs.ACTIVE:
            return
        await asyncio.sleep(EVENTS_EVERY_S)
        silent_s += EVENTS_EVERY_S


@router.post("/runs/{run_id}/stop", status_code=202, tags=["runs"])
def stop_run(run_id: str, work: Work, member: Staff, request: Request) -> RunOut:
    """Stop a run; what was fetched is still examined."""
    runs.stop_run(work, run_id, member)
    request.app.state.supervisor.stop_run(run_id)
    return runs.get_run(work, run_id)


@router.post("/runs/{run_id}/resume", status_code=202, tags=["runs"])
def resume_run(run_id: str, work: Work, member: Staff, request: Request) -> RunBrief:
    """Let a run that broke off go on from its last batch."""
    request.app.state.supervisor.attempts.pop(run_id, None)
    return runs.resume_run(work, run_id, member)


@router.get("/runs/{run_id}/checks", tags=["runs"])
def list_checks(run_id: str, work: Work, _member: Staff) -> list[CheckRow]:
    """Checks that failed, in the order of work."""
    return runs.list_checks(work, _run_id(work, run_id))


@router.get("/runs/{run_id}/checks/{check_id}", tags=["runs"])
def get_check(run_id: str, check_id: str, work: Work, _member: Staff) -> CheckOnSite:
    """One check in a run with its causes."""
    return runs.get_check(work, _run_id(work, run_id), check_id)


@router.get("/runs/{run_id}/causes", tags=["runs"])
def list_causes(
    run_id: str, work: Work, _member: Staff, check: str = "", limit: Annotated[int, Query(ge=1, le=1000)] = 200, after: int = 0
) -> list[CauseRow]:
    """Causes, the most valuable first."""
    return runs.list_causes(work, _run_id(work, run_id), check, limit, after)


@router.get("/runs/{run_id}/findings", tags=["runs"])
def list_findings(
    run_id: str,
    work: Work,
    _member: Staff,
    check: str = "",
    cause: int | None = None,
    severity: str = "",
    waived: bool | None = False,
    limit: Annotated[int, Query(ge=1, le=1000)] = 100,
    after: int = 0,
) -> Listed[FindingRow]:
    """Findings with their evidence."""
    return runs.list_findings(
        work, _run_id(work, run_id), check=check, cause=cause, severity=severity, waived=waived, limit=limit, after=after
    )


_PAGE_PARAMETERS = {"sort", "limit", "after", "role"}


@router.get("/runs/{run_id}/pages", tags=["runs"])
def list_pages(
    run_id: str,
    work: Work,
    _member: Staff,
    request: Request,
    sort: str = "url",
    role: str = "page",
    limit: Annotated[int, Query(ge=1, le=1000)] = 100,
    after: Annotated[int, Query(ge=0)] = 0,
) -> Listed[PageRow]:
    """The inventory. Any field filters: ``status=404``, ``words.lt=200``, ``title.has=sale``."""
    if role not in ("page", "file", "external"):
        raise InvalidInput(f"There is no role “{role}”.", "Roles are page, file and external.", "role")
    filters = [
        (name.partition(".")[0], name.partition(".")[2], value)
        for name, value in request.query_params.multi_items()
        if name not in _PAGE_PARAMETERS
    ]
    return runs.list_pages(work, _run_id(work, run_id), filters, sort, limit, after, role)


@router.get("/runs/{run_id}/page", tags=["runs"])
def get_page(run_id: str, url: str, work: Work, _member: Staff) -> PageOut:
    """Everything known of one URL."""
    return runs.get_page(work, _run_id(work, run_id), url)


@router.get("/runs/{run_id}/export/{form}", tags=["runs"], response_class=Response)
def export_findings(run_id: str, form: str, work: Work, _member: Staff) -> Response:
    """All findings as ``csv``, ``json`` or ``sarif``, or the run ``file`` itself."""
    run_id = _run_id(work, run_id)
    if form == "file":
        with work.open_run(run_id):
            return FileResponse(work.run_path(run_id), filename=f"{run_id}.sqlite", media_type="application/vnd.sqlite3")
    with work.open_run(run_id) as opened:
        rows = results.findings(opened, waived=None, limit=None)
    if form == "csv":
        text, kind = to_csv(rows, FINDING_FIELDS), "text/csv"
    elif form == "json":
        text, kind = to_json(rows), "application/json"
    elif form == "sarif":
        text, kind = to_sarif(rows, __version__), "application/sarif+json"
    else:
        raise NotFound(f"There is no export as {form}.", "Take csv, json, sarif or file.")
    return Response(text, media_type=kind, headers={"Content-Disposition": f'attachment; filename="findings-{run_id}.{form}"'})


@router.get("/comparisons", tags=["runs"])
def compare(
    base: str,
    head: str,
    work: Work,
    _member: Staff,
    change: str = "",
    check: str = "",
    limit: Annotated[int, Query(ge=1, le=2000)] = 200,
) -> ComparisonOut:
    """Two runs of one site side by side."""
    return comparisons.compare_runs(work, _run_id(work, base), _run_id(work, head), change, check, limit)


# -- work --------------------------------------------------------------------------------------------------------


@router.get("/todos", tags=["work"])
def list_todos(
    work: Work,
    _member: Staff,
    site: int | None = None,
    client: int | None = None,
    assignee: int | None = None,
    state: str = "",
    overdue: bool = False,
) -> list[TodoOut]:
    """To-dos by due date."""
    return todos.list_todos(work, site_id=site, client_id=client, assignee=assignee, state=state, overdue=overdue)


@router.post("/todos", status_code=201, tags=["work"])
def add_todo(body: TodoBody, work: Work, member: Staff) -> TodoOut:
    """Make a to-do from a check, a cause, findings, or by hand."""
    return todos.add_todo(work, body, member)


@router.get("/todos/{todo_id}", tags=["work"])
def get_todo(todo_id: int, work: Work, _member: Staff) -> TodoOut:
    """One to-do with its story."""
    return todos.get_todo(work, todo_id)


@router.patch("/todos/{todo_id}", tags=["work"])
def change_todo(todo_id: int, body: TodoChange, work: Work, member: Staff, version: Version = None) -> TodoOut:
    """Change a to-do or comment on it."""
    return todos.change_todo(work, todo_id, body, version_of(version), member)


@router.get("/benchmarks", tags=["work"])
def list_benchmarks(work: Work, _member: Staff) -> list[BenchmarkBrief]:
    """All benchmarks."""
    return benchmarks.list_benchmarks(work)


@router.post("/benchmarks", status_code=201, tags=["work"])
def add_benchmark(body: BenchmarkBody, work: Work, member: Staff) -> BenchmarkBrief:
    """Set up a benchmark."""
    return benchmarks.add_benchmark(work, body, member)


@router.get("/benchmarks/{benchmark_id}", tags=["work"])
def get_benchmark(benchmark_id: int, work: Work, _member: Staff) -> BenchmarkOut:
    """The latest round of a benchmark."""
    return benchmarks.get_benchmark(work, benchmark_id)


@router.post("/benchmarks/{benchmark_id}/rounds", status_code=202, tags=["work"])
def start_round(benchmark_id: int, work: Work, member: Staff) -> BenchmarkOut:
    """Run all sites of a benchmark now."""
    benchmarks.start_round(work, benchmark_id, member)
    return benchmarks.get_benchmark(work, benchmark_id)


@router.get("/reports", tags=["work"])
def list_reports(work: Work, member: Anybody) -> list[ReportOut]:
    """Reports, the latest first."""
    return reports.list_reports(work, member.client_id if member.role == "guest" else None)


@router.post("/reports", status_code=201, tags=["work"])
def add_report(body: ReportBody, work: Work, member: Staff, request: Request) -> ReportOut:
    """Make a report over a span of days."""
    return reports.add_report(work, body, member, request.app.state.settings.agency)


@router.get("/reports/{report_id}", tags=["work"])
def get_report(report_id: int, work: Work, member: Anybody) -> ReportOut:
    """One report."""
    report, _, client = reports.get_report(work, report_id)
    members.allow_client(member, client)
    return report


@router.get("/reports/{report_id}/html", tags=["work"], response_class=Response)
def report_page(report_id: int, work: Work, member: Anybody) -> Response:
    """A report as a web page."""
    _, values, client = reports.get_report(work, report_id)
    members.allow_client(member, client)
    return Response(draw_html(values), media_type="text/html", headers={"X-Robots-Tag": "noindex"})


@router.get("/reports/{report_id}/pdf", tags=["work"], response_class=Response)
def report_pdf(report_id: int, work: Work, member: Anybody) -> Response:
    """A report as a PDF."""
    report, values, client = reports.get_report(work, report_id)
    members.allow_client(member, client)
    name = f"{report.site_host}-{report.to_day}.pdf"
    return Response(draw_pdf(values), media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'})


@router.get("/desk", tags=["work"])
def get_desk(work: Work, member: Staff, request: Request) -> DeskOut:
    """What needs a person today."""
    return desk.get_desk(work, member, request.app.state.building)


@router.get("/catalogue", tags=["catalogue"])
def list_catalogue(_member: Anybody, area: str = "") -> list[dict[str, Any]]:
    """All checks."""
    return [catalogue.describe(e) for e in catalogue.load().values() if area in ("", e.area)]


@router.get("/catalogue/{check_id}", tags=["catalogue"])
def get_catalogue_entry(check_id: str, _member: Anybody) -> dict[str, Any]:
    """One check."""
    return catalogue.describe(catalogue.get(check_id))
