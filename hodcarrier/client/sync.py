"""The client for ordinary programs."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Sequence
from datetime import date
from typing import Any, TypeVar

import httpx
from pydantic import BaseModel, TypeAdapter, ValidationError

from hodcarrier.client.errors import RequestFailed, Unreachable
from hodcarrier.wire.base import Listed, Problem
from hodcarrier.wire.people import MemberBody, MemberChange, MemberOut, SignInBody, TokenBody, TokenOut
from hodcarrier.wire.results import CauseRow, CheckOnSite, CheckRow, ComparisonOut, FindingRow, LookOut, PageOut, PageRow
from hodcarrier.wire.sites import (
    AccessBody,
    AccessOut,
    ClientBody,
    ClientOut,
    LookBody,
    PlanBody,
    PlanCopy,
    PlanOut,
    PlanToml,
    PreviewBody,
    PreviewRow,
    RunBrief,
    RunOut,
    ScheduleBody,
    ScheduleOut,
    SettingOut,
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

T = TypeVar("T")
TRIES = 3
ENDED = ("done", "failed", "stopped")


class Hodcarrier:
    """A connection to a service. Use it as a context manager, or call :meth:`close`.

    Every method raises :class:`RequestFailed` with the service's problem document, or :class:`Unreachable`.
    ``run`` arguments take a run id, or ``latest-7`` for the latest run of site 7.
    """

    def __init__(self, url: str, token: str = "", *, transport: httpx.BaseTransport | None = None, timeout: float = 60.0) -> None:
        headers = {"Authorization": f"Bearer {token}"} if token else {}
        self._http = httpx.Client(
            base_url=url.rstrip("/") + "/api/v1", headers=headers, transport=transport, timeout=timeout, trust_env=False
        )
        self.url = url

    def __enter__(self) -> Hodcarrier:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Close the connection."""
        self._http.close()

    # -- one request -------------------------------------------------------------------------------------------

    def request(
        self,
        method: str,
        path: str,
        *,
        params: dict[str, Any] | None = None,
        body: BaseModel | None = None,
        version: int | None = None,
    ) -> httpx.Response:
        """One request; safe ones are tried again when the connection fails."""
        given = {k: v for k, v in (params or {}).items() if v is not None and v != ""}
        headers = {"If-Match": f'"{version}"'} if version is not None else {}
        content = body.model_dump(mode="json", exclude_unset=True) if body is not None else None
        for attempt in range(TRIES if method == "GET" else 1):
            try:
                response = self._http.request(method, path, params=given, json=content, headers=headers)
                break
            except httpx.TransportError as error:
                failed = error
                time.sleep(0.2 * 2**attempt)
        else:
            raise Unreachable(f"No service answers at {self.url} ({failed}).")
        if response.status_code >= 400:
            raise RequestFailed(_problem(response))
        return response

    def _get(self, kind: type[T] | Any, path: str, /, **params: Any) -> T:
        found: T = TypeAdapter(kind).validate_json(self.request("GET", path, params=params).content)
        return found

    def _send(self, kind: type[T], method: str, path: str, body: BaseModel | None = None, version: int | None = None) -> T:
        return TypeAdapter(kind).validate_json(self.request(method, path, body=body, version=version).content)

    def _pages(self, kind: type[T], path: str, /, **params: Any) -> Iterator[T]:
        after: str | None = None
        while True:
            part: Listed[T] = self._get(Listed[kind], path, **{**params, "after": after})  # type: ignore[valid-type]
            yield from part.items
            after = part.after
            if after is None:
                return

    # -- people ------------------------------------------------------------------------------------------------

    def sign_in(self, email: str, password: str) -> MemberOut:
        """Sign in with a password for as long as this connection lives; programs better use a token."""
        return self._send(MemberOut, "POST", "/session", SignInBody(email=email, password=password))

    def who_am_i(self) -> MemberOut:
        """The member the token belongs to."""
        return self._get(MemberOut, "/session")

    def members(self) -> list[MemberOut]:
        """All members with their load."""
        return self._get(list[MemberOut], "/members")

    def add_member(self, body: MemberBody) -> MemberOut:
        """Add a member."""
        return self._send(MemberOut, "POST", "/members", body)

    def change_member(self, member_id: int, change: MemberChange) -> MemberOut:
        """Change a member."""
        return self._send(MemberOut, "PATCH", f"/members/{member_id}", change)

    def tokens(self) -> list[TokenOut]:
        """One's own tokens."""
        return self._get(list[TokenOut], "/tokens")

    def add_token(self, name: str) -> TokenOut:
        """Make a token; its secret is in this answer only."""
        return self._send(TokenOut, "POST", "/tokens", TokenBody(name=name))

    def revoke_token(self, token_id: int) -> None:
        """Revoke a token."""
        self.request("DELETE", f"/tokens/{token_id}")

    # -- clients and sites -------------------------------------------------------------------------------------

    def clients(self) -> list[ClientOut]:
        """Clients with their sites."""
        return self._get(list[ClientOut], "/clients")

    def add_client(self, name: str) -> ClientOut:
        """Add a client."""
        return self._send(ClientOut, "POST", "/clients", ClientBody(name=name))

    def remove_client(self, client_id: int) -> None:
        """Remove a client and everything kept for it."""
        self.request("DELETE", f"/clients/{client_id}")

    def sites(self, kind: str = "", client: int | None = None) -> list[SiteOut]:
        """Sites, own ones and competitors."""
        return self._get(list[SiteOut], "/sites", kind=kind, client=client)

    def find_site(self, key: str | int) -> SiteOut:
        """A site by id, host or the unique beginning of its host. Raises :class:`LookupError` naming what there is."""
        text, found = str(key), self.sites()
        exact = [s for s in found if text in (str(s.id), s.host)]
        near = exact or [s for s in found if s.host.startswith(text)]
        if len(near) == 1:
            return near[0]
        said = ", ".join(s.host for s in (near or found)) or "none yet"
        raise LookupError(f"{'Several sites begin' if near else 'No site begins'} with “{text}”. Sites: {said}.")

    def add_site(self, body: SiteBody) -> SiteOut:
        """Add a site; an address is enough."""
        return self._send(SiteOut, "POST", "/sites", body)

    def site(self, site_id: int) -> SiteOut:
        """One site."""
        return self._get(SiteOut, f"/sites/{site_id}")

    def remove_site(self, site_id: int) -> None:
        """Remove a site."""
        self.request("DELETE", f"/sites/{site_id}")

    def plan(self, site_id: int) -> PlanOut:
        """A site's plan."""
        return self._get(PlanOut, f"/sites/{site_id}/plan")

    def change_plan(self, site_id: int, values: dict[str, Any], version: int | None = None) -> PlanOut:
        """Change a plan; with ``version`` only if nobody else changed it."""
        return self._send(PlanOut, "PATCH", f"/sites/{site_id}/plan", PlanBody(values=values), version)

    def plan_settings(self) -> list[SettingOut]:
        """What every setting of a plan means."""
        return self._get(list[SettingOut], "/plan-settings")

    def preview_plan(self, site_id: int, values: dict[str, Any], addresses: Sequence[str] = ()) -> list[PreviewRow]:
        """Try values of a plan on addresses; without any, on pages of the latest run."""
        body = PreviewBody(values=values, addresses=list(addresses))
        return self._send(list[PreviewRow], "POST", f"/sites/{site_id}/plan/preview", body)

    def plan_toml(self, site_id: int) -> str:
        """A plan as TOML."""
        return self._get(PlanToml, f"/sites/{site_id}/plan/toml").toml

    def replace_plan(self, site_id: int, toml: str) -> PlanOut:
        """Replace a plan by one in TOML."""
        return self._send(PlanOut, "PUT", f"/sites/{site_id}/plan/toml", PlanToml(toml=toml))

    def copy_plan(self, site_id: int, from_site: int) -> PlanOut:
        """Take over another site's plan."""
        return self._send(PlanOut, "POST", f"/sites/{site_id}/plan/copy", PlanCopy(from_site=from_site))

    def access(self, site_id: int) -> AccessOut:
        """What kinds of access a site has; never a secret."""
        return self._get(AccessOut, f"/sites/{site_id}/access")

    def set_access(self, site_id: int, body: AccessBody) -> AccessOut:
        """Keep what opens a site."""
        return self._send(AccessOut, "PUT", f"/sites/{site_id}/access", body)

    def remove_access(self, site_id: int) -> None:
        """Forget what opens a site."""
        self.request("DELETE", f"/sites/{site_id}/access")

    def schedule(self, site_id: int) -> ScheduleOut:
        """When a site is audited."""
        return self._get(ScheduleOut, f"/sites/{site_id}/schedule")

    def set_schedule(self, site_id: int, body: ScheduleBody) -> ScheduleOut:
        """Set when a site is audited."""
        return self._send(ScheduleOut, "PUT", f"/sites/{site_id}/schedule", body)

    def remove_schedule(self, site_id: int) -> None:
        """Audit the site no more by itself."""
        self.request("DELETE", f"/sites/{site_id}/schedule")

    def remarks(self, site_id: int) -> list[RemarkOut]:
        """Remarks on a site's timeline."""
        return self._get(list[RemarkOut], f"/sites/{site_id}/remarks")

    def add_remark(self, site_id: int, day: date, text: str) -> RemarkOut:
        """Pin a remark to a day."""
        return self._send(RemarkOut, "POST", f"/sites/{site_id}/remarks", RemarkBody(day=day, text=text))

    def remove_remark(self, remark_id: int) -> None:
        """Take a remark away."""
        self.request("DELETE", f"/remarks/{remark_id}")

    def waivers(self, site_id: int) -> list[WaiverOut]:
        """Waivers of a site."""
        return self._get(list[WaiverOut], f"/sites/{site_id}/waivers")

    def add_waiver(self, site_id: int, body: WaiverBody) -> WaiverOut:
        """Waive a check."""
        return self._send(WaiverOut, "POST", f"/sites/{site_id}/waivers", body)

    def remove_waiver(self, waiver_id: int) -> None:
        """End a waiver."""
        self.request("DELETE", f"/waivers/{waiver_id}")

    def metrics(self, site_id: int) -> list[MetricRow]:
        """Imported figures."""
        return self._get(list[MetricRow], f"/sites/{site_id}/metrics")

    def import_metrics(self, site_id: int, table: str) -> list[MetricRow]:
        """Import figures from a CSV text."""
        return self._send(list[MetricRow], "POST", f"/sites/{site_id}/metrics", MetricImport(csv=table))

    def trend(self, site_id: int, figure: str = "health", start: date | None = None, end: date | None = None) -> TrendOut:
        """A figure over the runs of a site."""
        return self._get(TrendOut, f"/sites/{site_id}/trend", figure=figure, **{"from": start, "to": end})

    # -- runs --------------------------------------------------------------------------------------------------

    def runs(self, site: int | None = None, purpose: str = "", limit: int = 100) -> list[RunBrief]:
        """Runs, the latest first."""
        return self._get(list[RunBrief], "/runs", site=site, purpose=purpose, limit=limit)

    def start_run(self, site_id: int) -> RunBrief:
        """Audit a site now."""
        return self._send(RunBrief, "POST", f"/sites/{site_id}/runs")

    def run(self, run: str) -> RunOut:
        """A run with its summary or progress."""
        return self._get(RunOut, f"/runs/{run}")

    def stop_run(self, run: str) -> RunOut:
        """Stop a run."""
        return self._send(RunOut, "POST", f"/runs/{run}/stop")

    def resume_run(self, run: str) -> RunBrief:
        """Let a run that broke off go on from its last batch."""
        return self._send(RunBrief, "POST", f"/runs/{run}/resume")

    def watch(self, run: str) -> Iterator[RunOut]:
        """A run as it goes: one value whenever its state or progress changes, the last when it has ended."""
        with self._http.stream("GET", f"/runs/{run}/events", timeout=httpx.Timeout(60, read=60)) as response:
            if response.status_code >= 400:
                response.read()
                raise RequestFailed(_problem(response))
            for line in response.iter_lines():
                if line.startswith("data: "):
                    yield RunOut.model_validate_json(line.removeprefix("data: "))

    def wait(self, run: str, progress: Callable[[RunOut], None] = lambda _run: None, every_s: float = 0.5) -> RunOut:
        """Wait until a run has ended; ``progress`` is called with each change. A connection that breaks is made anew."""
        while True:
            try:
                for found in self.watch(run):
                    progress(found)
            except httpx.TransportError:
                time.sleep(every_s)
            found = self.run(run)
            if found.state in ENDED:
                progress(found)
                return found

    def checks(self, run: str) -> list[CheckRow]:
        """Checks that failed, in the order of work."""
        return self._get(list[CheckRow], f"/runs/{run}/checks")

    def check(self, run: str, check: str) -> CheckOnSite:
        """One check in a run."""
        return self._get(CheckOnSite, f"/runs/{run}/checks/{check}")

    def causes(self, run: str, check: str = "", limit: int = 200) -> list[CauseRow]:
        """Causes, the most valuable first."""
        return self._get(list[CauseRow], f"/runs/{run}/causes", check=check, limit=limit)

    def findings(
        self, run: str, *, check: str = "", severity: str = "", cause: int | None = None, waived: bool | None = False
    ) -> Iterator[FindingRow]:
        """Findings, fetched part by part."""
        return self._pages(
            FindingRow, f"/runs/{run}/findings", check=check, severity=severity, cause=cause, waived=waived, limit=500
        )

    def pages(self, run: str, sort: str = "url", role: str = "page", **filters: Any) -> Iterator[PageRow]:
        """The inventory; filters as in ``pages(run, **{"words.lt": 200})``."""
        return self._pages(PageRow, f"/runs/{run}/pages", sort=sort, role=role, limit=500, **filters)

    def page(self, run: str, url: str) -> PageOut:
        """Everything known of one URL."""
        return self._get(PageOut, f"/runs/{run}/page", url=url)

    def look(self, site_id: int, url: str) -> LookOut:
        """Fetch and examine one page now, against the last run."""
        return self._send(LookOut, "POST", f"/sites/{site_id}/look", LookBody(url=url))

    def export(self, run: str, form: str) -> bytes:
        """Findings as csv, json or sarif, or the run file itself."""
        return self.request("GET", f"/runs/{run}/export/{form}").content

    def compare(self, base: str, head: str, change: str = "", check: str = "", limit: int = 200) -> ComparisonOut:
        """Two runs of one site side by side."""
        return self._get(ComparisonOut, "/comparisons", base=base, head=head, change=change, check=check, limit=limit)

    # -- work --------------------------------------------------------------------------------------------------

    def todos(
        self, site: int | None = None, assignee: int | None = None, state: str = "", overdue: bool = False
    ) -> list[TodoOut]:
        """To-dos by due date."""
        return self._get(list[TodoOut], "/todos", site=site, assignee=assignee, state=state, overdue=overdue or None)

    def todo(self, todo_id: int) -> TodoOut:
        """One to-do with its story."""
        return self._get(TodoOut, f"/todos/{todo_id}")

    def add_todo(self, body: TodoBody) -> TodoOut:
        """Make a to-do."""
        return self._send(TodoOut, "POST", "/todos", body)

    def change_todo(self, todo_id: int, change: TodoChange, version: int | None = None) -> TodoOut:
        """Change a to-do or comment on it."""
        return self._send(TodoOut, "PATCH", f"/todos/{todo_id}", change, version)

    def benchmarks(self) -> list[BenchmarkBrief]:
        """All benchmarks."""
        return self._get(list[BenchmarkBrief], "/benchmarks")

    def benchmark(self, benchmark_id: int) -> BenchmarkOut:
        """The latest round of a benchmark."""
        return self._get(BenchmarkOut, f"/benchmarks/{benchmark_id}")

    def add_benchmark(self, body: BenchmarkBody) -> BenchmarkBrief:
        """Set up a benchmark."""
        return self._send(BenchmarkBrief, "POST", "/benchmarks", body)

    def start_round(self, benchmark_id: int) -> BenchmarkOut:
        """Run all sites of a benchmark now."""
        return self._send(BenchmarkOut, "POST", f"/benchmarks/{benchmark_id}/rounds")

    def reports(self) -> list[ReportOut]:
        """Reports, the latest first."""
        return self._get(list[ReportOut], "/reports")

    def add_report(self, body: ReportBody) -> ReportOut:
        """Make a report."""
        return self._send(ReportOut, "POST", "/reports", body)

    def report_document(self, report_id: int, form: str = "pdf") -> bytes:
        """A report as ``pdf`` or ``html``."""
        return self.request("GET", f"/reports/{report_id}/{form}").content

    def desk(self) -> DeskOut:
        """What needs a person today."""
        return self._get(DeskOut, "/desk")


def _problem(response: httpx.Response) -> Problem:
    try:
        return Problem.model_validate_json(response.content)
    except ValidationError:
        title = f"HTTP {response.status_code}"
        return Problem(type="about:blank", title=title, status=response.status_code, detail=f"{title}: {response.text[:200]}")
