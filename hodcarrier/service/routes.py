"""The routes: thin. Each reads its request, calls one use case, and gives back a wire model."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Header, Query, Request, Response
from fastapi.responses import FileResponse

from hodcarrier import __version__
from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput, NotFound, SignInNeeded
from hodcarrier.register.models import Member
from hodcarrier.report.document import draw_html, draw_pdf
from hodcarrier.report.tables import FINDING_FIELDS, to_csv, to_json, to_sarif
from hodcarrier.runfile import results
from hodcarrier.usecases import benchmarks, comparisons, desk, members, reports, runs, sites, todos, trends
from hodcarrier.usecases.workspace import Workspace, latest_run_id
from hodcarrier.wire.base import Listed, Problem
from hodcarrier.wire.people import MemberBody, MemberChange, MemberOut, SignInBody, TokenBody, TokenOut
from hodcarrier.wire.results import CauseRow, CheckOnSite, CheckRow, ComparisonOut, FindingRow, PageOut, PageRow
from hodcarrier.wire.sites import (
    ClientBody,
    ClientOut,
    PlanBody,
    PlanOut,
    RunBrief,
    RunOut,
    ScheduleBody,
    ScheduleOut,
    SiteBody,
    SiteOut,
)
from hodcarrier.wire.work import (
    BenchmarkBody,
    BenchmarkBrief,
    BenchmarkOut,
    DeskOut,
    MetricImport,
    MetricRow,
    RemarkBody,
    RemarkOut,
    ReportBody,
    ReportOut,
    TodoBody,
    TodoChange,
    TodoOut,
    TrendOut,
    WaiverBody,
    WaiverOut,
)

COOKIE = "hodcarrier_session"
_PROBLEMS: dict[int | str, dict[str, Any]] = {code: {"model": Problem} for code in (401, 403, 404, 409, 422)}
router = APIRouter(responses=_PROBLEMS)


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


def _version(text: str | None) -> int | None:
    if text is None:
        return None
    try:
        return int(text.strip('" '))
    except ValueError:
        raise InvalidInput(f"If-Match “{text}” is not a version.", "Send the version that was loaded.", "If-Match") from None


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


# -- clients and sites -------------------------------------------------------------------------------------------


@router.get("/clients", tags=["clients"])
def list_clients(work: Work, member: Anybody) -> list[ClientOut]:
    """Clients with their sites."""
    return sites.list_clients(work, member.client_id if member.role == "guest" else None)


@router.post("/clients", status_code=201, tags=["clients"])
def add_client(body: ClientBody, work: Work, member: Staff) -> ClientOut:
    """Add a client."""
    return sites.add_client(work, body, member)


@router.delete("/clients/{client_id}", status_code=204, tags=["clients"])
def remove_client(client_id: int, work: Work, member: Staff) -> None:
    """Remove a client and everything kept for it."""
    members.allow(member, "owner", "lead")
    sites.remove_client(work, client_id, member)


@router.get("/sites", tags=["sites"])
def list_sites(work: Work, _member: Staff, kind: str = "", client: int | None = None) -> list[SiteOut]:
    """Sites, own ones and competitors."""
    return sites.list_sites(work, kind, client)


@router.post("/sites", status_code=201, tags=["sites"])
def add_site(body: SiteBody, work: Work, member: Staff, request: Request) -> SiteOut:
    """Add a site; an address is enough."""
    _check_plan(request, member, body.plan)
    return sites.add_site(work, body, member)


@router.get("/sites/{site_id}", tags=["sites"])
def get_site(site_id: int, work: Work, member: Anybody) -> SiteOut:
    """One site."""
    site = sites.get_site(work, site_id)
    members.allow_client(member, site.client_id)
    return site


@router.delete("/sites/{site_id}", status_code=204, tags=["sites"])
def remove_site(site_id: int, work: Work, member: Staff) -> None:
    """Remove a site and its records."""
    members.allow(member, "owner", "lead")
    sites.remove_site(work, site_id, member)


@router.get("/sites/{site_id}/plan", tags=["sites"])
def get_plan(site_id: int, work: Work, _member: Staff, response: Response) -> PlanOut:
    """A site's plan."""
    plan = sites.get_plan(work, site_id)
    response.headers["ETag"] = f'"{plan.version}"'
    return plan


@router.patch("/sites/{site_id}/plan", tags=["sites"])
def change_plan(site_id: int, body: PlanBody, work: Work, member: Staff, request: Request, version: Version = None) -> PlanOut:
    """Change a plan; future runs use it."""
    _check_plan(request, member, body.values)
    return sites.change_plan(work, site_id, body.values, _version(version), member)


def _check_plan(request: Request, member: Member, values: dict[str, Any]) -> None:
    """Private addresses and host mappings reach into our own network: only an owner may set them, or the operator for all."""
    if (
        values.get("allow_private") or values.get("host_map") or values.get("ca_file")
    ) and not request.app.state.settings.allow_private:
        members.allow(member, "owner")


@router.get("/sites/{site_id}/schedule", tags=["sites"])
def get_schedule(site_id: int, work: Work, _member: Staff) -> ScheduleOut:
    """When a site is audited."""
    found = sites.get_site(work, site_id).schedule
    if found is None:
        raise NotFound("This site has no schedule.", "Set one with `hodcarrier schedule edit SITE`.")
    return found


@router.put("/sites/{site_id}/schedule", tags=["sites"])
def set_schedule(site_id: int, body: ScheduleBody, work: Work, member: Staff) -> ScheduleOut:
    """Set when a site is audited, and who is told."""
    return sites.set_schedule(work, site_id, body, member)


@router.delete("/sites/{site_id}/schedule", status_code=204, tags=["sites"])
def remove_schedule(site_id: int, work: Work, member: Staff) -> None:
    """Audit the site no more by itself."""
    sites.remove_schedule(work, site_id, member)


@router.get("/sites/{site_id}/remarks", tags=["sites"])
def list_remarks(site_id: int, work: Work, _member: Staff) -> list[RemarkOut]:
    """Remarks on a site's timeline."""
    return sites.list_remarks(work, site_id)


@router.post("/sites/{site_id}/remarks", status_code=201, tags=["sites"])
def add_remark(site_id: int, body: RemarkBody, work: Work, member: Staff) -> RemarkOut:
    """Pin a remark to a day."""
    return sites.add_remark(work, site_id, body, member)


@router.delete("/remarks/{remark_id}", status_code=204, tags=["sites"])
def remove_remark(remark_id: int, work: Work, _member: Staff) -> None:
    """Take a remark away."""
    sites.remove_remark(work, remark_id)


@router.get("/sites/{site_id}/waivers", tags=["sites"])
def list_waivers(site_id: int, work: Work, _member: Staff) -> list[WaiverOut]:
    """Waivers of a site."""
    return sites.list_waivers(work, site_id)


@router.post("/sites/{site_id}/waivers", status_code=201, tags=["sites"])
def add_waiver(site_id: int, body: WaiverBody, work: Work, member: Staff) -> WaiverOut:
    """Waive a check on a place, a page, a pattern or the site; the next run counts it so."""
    return sites.add_waiver(work, site_id, body, member)


@router.delete("/waivers/{waiver_id}", status_code=204, tags=["sites"])
def remove_waiver(waiver_id: int, work: Work, member: Staff) -> None:
    """End a waiver."""
    sites.remove_waiver(work, waiver_id, member)


@router.get("/sites/{site_id}/metrics", tags=["sites"])
def list_metrics(site_id: int, work: Work, _member: Staff) -> list[MetricRow]:
    """Imported figures of a site."""
    return sites.list_metrics(work, site_id)


@router.post("/sites/{site_id}/metrics", status_code=201, tags=["sites"])
def import_metrics(site_id: int, body: MetricImport, work: Work, member: Staff) -> list[MetricRow]:
    """Import figures from a CSV table: all rows or none."""
    return sites.import_metrics(work, site_id, body.csv, member)


@router.get("/sites/{site_id}/trend", tags=["sites"])
def get_trend(
    site_id: int,
    work: Work,
    member: Anybody,
    figure: str = "health",
    start: Annotated[date | None, Query(alias="from")] = None,
    end: Annotated[date | None, Query(alias="to")] = None,
) -> TrendOut:
    """A figure over the runs of a site."""
    members.allow_client(member, sites.get_site(work, site_id).client_id)
    return trends.get_trend(work, site_id, figure, start, end)


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


@router.post("/runs/{run_id}/stop", status_code=202, tags=["runs"])
def stop_run(run_id: str, work: Work, member: Staff, request: Request) -> RunOut:
    """Stop a run; what was fetched is still examined."""
    runs.stop_run(work, run_id, member)
    request.app.state.supervisor.stop_run(run_id)
    return runs.get_run(work, run_id)


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
    return todos.change_todo(work, todo_id, body, _version(version), member)


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
