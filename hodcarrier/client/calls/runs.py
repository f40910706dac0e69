"""Calls about runs, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from collections.abc import AsyncIterator, Iterator

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import (
    Appearance,
    Change,
    CheckOutcome,
    ComparedList,
    ExportForm,
    ExportOf,
    PartKind,
    RunPurpose,
    Severity,
    TableForm,
    Weight,
    WorklistForm,
)
from hodcarrier.wire.comparisons import ColumnsOut, ComparedPart, ComparisonOut, LookBody, LookOut, PageChange
from hodcarrier.wire.histories import FindingHistory, PageHistory
from hodcarrier.wire.results import CauseRow, CheckOnSite, CheckRow, FindingRow, PageOut
from hodcarrier.wire.runs import ExamineBody, RunBrief, RunOut


class Runs(SyncCalls):
    """Calls about runs."""

    def list_runs(self, site: int | None = None, purpose: RunPurpose | None = None) -> Iterator[RunBrief]:
        """Runs, the latest first."""
        yield from self._parts("list_runs", {}, query={"site": site, "purpose": purpose})

    def start_run(self, site_id: int) -> RunBrief:
        """Audit a site now."""
        found: RunBrief = self._call("start_run", {"site_id": site_id})
        return found

    def fetch_as(self, site_id: int, appearance: Appearance) -> RunBrief:
        """Run a site's plan with another user agent (`own`, `desktop` or `phone`), to compare with its latest audit what is served differently."""
        found: RunBrief = self._call("fetch_as", {"site_id": site_id, "appearance": appearance})
        return found

    def get_run(self, run_id: str) -> RunOut:
        """A run with its summary or progress."""
        found: RunOut = self._call("get_run", {"run_id": run_id})
        return found

    def stop_run(self, run_id: str) -> RunOut:
        """Stop a run; what was fetched is still examined."""
        found: RunOut = self._call("stop_run", {"run_id": run_id})
        return found

    def resume_run(self, run_id: str) -> RunBrief:
        """Resume a run that broke off, from its last batch."""
        found: RunBrief = self._call("resume_run", {"run_id": run_id})
        return found

    def examine_again(self, run_id: str, body: ExamineBody) -> RunBrief:
        """Re-examine a run with other settings or a newer catalogue, without crawling again. The result is a run of its own."""
        found: RunBrief = self._call("examine_again", {"run_id": run_id}, body=body)
        return found

    def list_checks(self, run_id: str, outcome: CheckOutcome | None = None, weight: Weight = Weight.GAIN) -> list[CheckRow]:
        """Checks with an outcome, in the order of work; those that failed, waived or not, when none is named."""
        found: list[CheckRow] = self._call("list_checks", {"run_id": run_id}, query={"outcome": outcome, "weight": weight})
        return found

    def get_check(self, run_id: str, check_id: str) -> CheckOnSite:
        """One check in a run with its causes."""
        found: CheckOnSite = self._call("get_check", {"run_id": run_id, "check_id": check_id})
        return found

    def list_causes(
        self, run_id: str, check: str = "", limit: int = 200, after: int = 0, weight: Weight = Weight.GAIN
    ) -> list[CauseRow]:
        """Causes, the most valuable first."""
        found: list[CauseRow] = self._call(
            "list_causes", {"run_id": run_id}, query={"check": check, "limit": limit, "after": after, "weight": weight}
        )
        return found

    def list_findings(
        self,
        run_id: str,
        check: str = "",
        cause: int | None = None,
        severity: Severity | None = None,
        waived: bool | None = False,
    ) -> Iterator[FindingRow]:
        """Findings with their evidence."""
        yield from self._parts(
            "list_findings", {"run_id": run_id}, query={"check": check, "cause": cause, "severity": severity, "waived": waived}
        )

    def get_finding(self, run_id: str, fingerprint: str) -> FindingRow:
        """One finding with its line in the source, the element as written, and the fix as code where it can be shown."""
        found: FindingRow = self._call("get_finding", {"run_id": run_id, "fingerprint": fingerprint})
        return found

    def get_finding_history(self, site_id: int, fingerprint: str, limit: int = 30) -> FindingHistory:
        """What each run of a site saw of one finding, the latest first."""
        found: FindingHistory = self._call(
            "get_finding_history", {"site_id": site_id, "fingerprint": fingerprint}, query={"limit": limit}
        )
        return found

    def get_page_history(self, site_id: int, url: str, limit: int = 30) -> PageHistory:
        """One page as each run of a site saw it, the latest first, with what changed."""
        found: PageHistory = self._call("get_page_history", {"site_id": site_id}, query={"url": url, "limit": limit})
        return found

    def get_page(self, run_id: str, url: str) -> PageOut:
        """Everything known of one URL."""
        found: PageOut = self._call("get_page", {"run_id": run_id}, query={"url": url})
        return found

    def export_run(
        self, run_id: str, form: ExportForm, what: ExportOf = ExportOf.FINDINGS, check: str = "", severity: Severity | None = None
    ) -> bytes:
        """Findings or causes as `csv`, `json`, `jsonl` or `xlsx`, findings as `sarif`, or the run `file` itself."""
        found: bytes = self._call(
            "export_run", {"run_id": run_id, "form": form}, query={"what": what, "check": check, "severity": severity}
        )
        return found

    def export_worklist(self, run_id: str, form: WorklistForm = WorklistForm.PAGE, checks: str = "", causes: str = "") -> bytes:
        """What to fix, where and how, for a developer: of chosen checks and causes, or of all that fail."""
        found: bytes = self._call("export_worklist", {"run_id": run_id}, query={"form": form, "checks": checks, "causes": causes})
        return found

    def export_comparison(
        self,
        base: str,
        head: str,
        form: TableForm = TableForm.CSV,
        change: Change | None = None,
        check: str = "",
        event: int | None = None,
        part: int | None = None,
    ) -> bytes:
        """The findings of a comparison with their classes, as a table."""
        found: bytes = self._call(
            "export_comparison",
            {},
            query={"base": base, "head": head, "form": form, "change": change, "check": check, "event": event, "part": part},
        )
        return found

    def compare_runs(
        self,
        base: str,
        head: str,
        change: Change | None = None,
        check: str = "",
        event: int | None = None,
        part: int | None = None,
        limit: int = 200,
        after: int = 0,
    ) -> ComparisonOut:
        """Two runs of one site side by side."""
        found: ComparisonOut = self._call(
            "compare_runs",
            {},
            query={
                "base": base,
                "head": head,
                "change": change,
                "check": check,
                "event": event,
                "part": part,
                "limit": limit,
                "after": after,
            },
        )
        return found

    def list_compared_parts(self, base: str, head: str, by: PartKind) -> Iterator[ComparedPart]:
        """The causes, pages, folders or templates of which findings differ between two runs."""
        yield from self._parts("list_compared_parts", {}, query={"base": base, "head": head, "by": by})

    def list_page_changes(self, base: str, head: str, group: int) -> Iterator[PageChange]:
        """The pages, or files, that one edit changed between two runs."""
        yield from self._parts("list_page_changes", {}, query={"base": base, "head": head, "group": group})

    def list_compared_urls(self, base: str, head: str, which: ComparedList) -> Iterator[str]:
        """URLs that came or went between two runs: pages, files, sitemap entries, pages newly blocked."""
        yield from self._parts("list_compared_urls", {}, query={"base": base, "head": head, "which": which})

    def compare_columns(self, runs: str) -> ColumnsOut:
        """Any number of runs of one site side by side: health, areas, severities and checks."""
        found: ColumnsOut = self._call("compare_columns", {}, query={"runs": runs})
        return found

    def look_at_page(self, site_id: int, body: LookBody) -> LookOut:
        """Fetch and examine one page now and compare it with the last run, which stays as it is."""
        found: LookOut = self._call("look_at_page", {"site_id": site_id}, body=body)
        return found


class AsyncRuns(AsyncCalls):
    """Calls about runs."""

    async def list_runs(self, site: int | None = None, purpose: RunPurpose | None = None) -> AsyncIterator[RunBrief]:
        """Runs, the latest first."""
        async for item in self._parts("list_runs", {}, query={"site": site, "purpose": purpose}):
            yield item

    async def start_run(self, site_id: int) -> RunBrief:
        """Audit a site now."""
        found: RunBrief = await self._call("start_run", {"site_id": site_id})
        return found

    async def fetch_as(self, site_id: int, appearance: Appearance) -> RunBrief:
        """Run a site's plan with another user agent (`own`, `desktop` or `phone`), to compare with its latest audit what is served differently."""
        found: RunBrief = await self._call("fetch_as", {"site_id": site_id, "appearance": appearance})
        return found

    async def get_run(self, run_id: str) -> RunOut:
        """A run with its summary or progress."""
        found: RunOut = await self._call("get_run", {"run_id": run_id})
        return found

    async def stop_run(self, run_id: str) -> RunOut:
        """Stop a run; what was fetched is still examined."""
        found: RunOut = await self._call("stop_run", {"run_id": run_id})
        return found

    async def resume_run(self, run_id: str) -> RunBrief:
        """Resume a run that broke off, from its last batch."""
        found: RunBrief = await self._call("resume_run", {"run_id": run_id})
        return found

    async def examine_again(self, run_id: str, body: ExamineBody) -> RunBrief:
        """Re-examine a run with other settings or a newer catalogue, without crawling again. The result is a run of its own."""
        found: RunBrief = await self._call("examine_again", {"run_id": run_id}, body=body)
        return found

    async def list_checks(self, run_id: str, outcome: CheckOutcome | None = None, weight: Weight = Weight.GAIN) -> list[CheckRow]:
        """Checks with an outcome, in the order of work; those that failed, waived or not, when none is named."""
        found: list[CheckRow] = await self._call("list_checks", {"run_id": run_id}, query={"outcome": outcome, "weight": weight})
        return found

    async def get_check(self, run_id: str, check_id: str) -> CheckOnSite:
        """One check in a run with its causes."""
        found: CheckOnSite = await self._call("get_check", {"run_id": run_id, "check_id": check_id})
        return found

    async def list_causes(
        self, run_id: str, check: str = "", limit: int = 200, after: int = 0, weight: Weight = Weight.GAIN
    ) -> list[CauseRow]:
        """Causes, the most valuable first."""
        found: list[CauseRow] = await self._call(
            "list_causes", {"run_id": run_id}, query={"check": check, "limit": limit, "after": after, "weight": weight}
        )
        return found

    async def list_findings(
        self,
        run_id: str,
        check: str = "",
        cause: int | None = None,
        severity: Severity | None = None,
        waived: bool | None = False,
    ) -> AsyncIterator[FindingRow]:
        """Findings with their evidence."""
        async for item in self._parts(
            "list_findings", {"run_id": run_id}, query={"check": check, "cause": cause, "severity": severity, "waived": waived}
        ):
            yield item

    async def get_finding(self, run_id: str, fingerprint: str) -> FindingRow:
        """One finding with its line in the source, the element as written, and the fix as code where it can be shown."""
        found: FindingRow = await self._call("get_finding", {"run_id": run_id, "fingerprint": fingerprint})
        return found

    async def get_finding_history(self, site_id: int, fingerprint: str, limit: int = 30) -> FindingHistory:
        """What each run of a site saw of one finding, the latest first."""
        found: FindingHistory = await self._call(
            "get_finding_history", {"site_id": site_id, "fingerprint": fingerprint}, query={"limit": limit}
        )
        return found

    async def get_page_history(self, site_id: int, url: str, limit: int = 30) -> PageHistory:
        """One page as each run of a site saw it, the latest first, with what changed."""
        found: PageHistory = await self._call("get_page_history", {"site_id": site_id}, query={"url": url, "limit": limit})
        return found

    async def get_page(self, run_id: str, url: str) -> PageOut:
        """Everything known of one URL."""
        found: PageOut = await self._call("get_page", {"run_id": run_id}, query={"url": url})
        return found

    async def export_run(
        self, run_id: str, form: ExportForm, what: ExportOf = ExportOf.FINDINGS, check: str = "", severity: Severity | None = None
    ) -> bytes:
        """Findings or causes as `csv`, `json`, `jsonl` or `xlsx`, findings as `sarif`, or the run `file` itself."""
        found: bytes = await self._call(
            "export_run", {"run_id": run_id, "form": form}, query={"what": what, "check": check, "severity": severity}
        )
        return found

    async def export_worklist(
        self, run_id: str, form: WorklistForm = WorklistForm.PAGE, checks: str = "", causes: str = ""
    ) -> bytes:
        """What to fix, where and how, for a developer: of chosen checks and causes, or of all that fail."""
        found: bytes = await self._call(
            "export_worklist", {"run_id": run_id}, query={"form": form, "checks": checks, "causes": causes}
        )
        return found

    async def export_comparison(
        self,
        base: str,
        head: str,
        form: TableForm = TableForm.CSV,
        change: Change | None = None,
        check: str = "",
        event: int | None = None,
        part: int | None = None,
    ) -> bytes:
        """The findings of a comparison with their classes, as a table."""
        found: bytes = await self._call(
            "export_comparison",
            {},
            query={"base": base, "head": head, "form": form, "change": change, "check": check, "event": event, "part": part},
        )
        return found

    async def compare_runs(
        self,
        base: str,
        head: str,
        change: Change | None = None,
        check: str = "",
        event: int | None = None,
        part: int | None = None,
        limit: int = 200,
        after: int = 0,
    ) -> ComparisonOut:
        """Two runs of one site side by side."""
        found: ComparisonOut = await self._call(
            "compare_runs",
            {},
            query={
                "base": base,
                "head": head,
                "change": change,
                "check": check,
                "event": event,
                "part": part,
                "limit": limit,
                "after": after,
            },
        )
        return found

    async def list_compared_parts(self, base: str, head: str, by: PartKind) -> AsyncIterator[ComparedPart]:
        """The causes, pages, folders or templates of which findings differ between two runs."""
        async for item in self._parts("list_compared_parts", {}, query={"base": base, "head": head, "by": by}):
            yield item

    async def list_page_changes(self, base: str, head: str, group: int) -> AsyncIterator[PageChange]:
        """The pages, or files, that one edit changed between two runs."""
        async for item in self._parts("list_page_changes", {}, query={"base": base, "head": head, "group": group}):
            yield item

    async def list_compared_urls(self, base: str, head: str, which: ComparedList) -> AsyncIterator[str]:
        """URLs that came or went between two runs: pages, files, sitemap entries, pages newly blocked."""
        async for item in self._parts("list_compared_urls", {}, query={"base": base, "head": head, "which": which}):
            yield item

    async def compare_columns(self, runs: str) -> ColumnsOut:
        """Any number of runs of one site side by side: health, areas, severities and checks."""
        found: ColumnsOut = await self._call("compare_columns", {}, query={"runs": runs})
        return found

    async def look_at_page(self, site_id: int, body: LookBody) -> LookOut:
        """Fetch and examine one page now and compare it with the last run, which stays as it is."""
        found: LookOut = await self._call("look_at_page", {"site_id": site_id}, body=body)
        return found
