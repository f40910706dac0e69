"""Runs and what they found."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Query, Request

from hodcarrier.audit.look import look
from hodcarrier.core.errors import NotFound, SignInNeeded
from hodcarrier.core.states import (
    ACTIVE_RUN,
    Appearance,
    Change,
    CheckOutcome,
    ComparedList,
    PartKind,
    RunPurpose,
    Severity,
    Weight,
)
from hodcarrier.runfile.compared import Chosen
from hodcarrier.service.deps import Work, actual_run, signed_in
from hodcarrier.service.guard import Asker, EventStream, serves
from hodcarrier.usecases import columns, comparisons, histories, re_examinations, results, runs, user_agents
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.base import Listed
from hodcarrier.wire.comparisons import ColumnsOut, ComparedPart, ComparisonOut, LookBody, LookOut, PageChange
from hodcarrier.wire.histories import FindingHistory, PageHistory
from hodcarrier.wire.results import CauseRow, CheckOnSite, CheckRow, FindingRow, PageOut
from hodcarrier.wire.runs import ExamineBody, RunBrief, RunOut

router = APIRouter()
EVENTS_EVERY_S = 0.5
KEEP_ALIVE_S = 15.0


@serves(router, "list_runs")
def list_runs(
    work: Work,
    site: int | None = None,
    purpose: RunPurpose | None = None,
    limit: Annotated[int, Query(ge=1, le=1000)] = 100,
    after: Annotated[int, Query(ge=0)] = 0,
) -> Listed[RunBrief]:
    return runs.list_runs(work, site, purpose, limit, after)


@serves(router, "start_run")
def start_run(site_id: int, work: Work, member: Asker) -> RunBrief:
    return runs.queue_run(work, site_id, member)


@serves(router, "fetch_as")
def fetch_as(site_id: int, appearance: Appearance, work: Work, member: Asker) -> RunBrief:
    return user_agents.fetch_as(work, site_id, appearance, member)


@serves(router, "get_run")
def get_run(run_id: str, work: Work) -> RunOut:
    return runs.get_run(work, actual_run(work, run_id))


@serves(router, "watch_run")
async def watch_run(run_id: str, work: Work, request: Request) -> EventStream:
    await asyncio.to_thread(runs.get_run, work, run_id)
    return EventStream(_events(work, run_id, request))


async def _events(work: Workspace, run_id: str, request: Request) -> AsyncIterator[str]:
    """What to tell of a run, until it has ended or was removed, or whoever listens was signed out."""
    told = ""
    silent_s = 0.0
    while not request.app.state.counts.ended:
        try:
            await asyncio.to_thread(signed_in, request, work)
            run = await asyncio.to_thread(runs.get_run, work, run_id)
        except (SignInNeeded, NotFound):
            return
        said = run.model_dump_json(exclude={"plan", "summary", "changes"})
        if said != told:
            told, silent_s = said, 0.0
            yield f"event: run\ndata: {said}\n\n"
        elif silent_s >= KEEP_ALIVE_S:
            silent_s = 0.0
            yield ": still here\n\n"
        if run.state not in ACTIVE_RUN:
            return
        await asyncio.sleep(EVENTS_EVERY_S)
        silent_s += EVENTS_EVERY_S


@serves(router, "stop_run")
def stop_run(run_id: str, work: Work, member: Asker) -> RunOut:
    runs.stop_run(work, run_id, member)
    return runs.get_run(work, run_id)


@serves(router, "resume_run")
def resume_run(run_id: str, work: Work, member: Asker) -> RunBrief:
    return runs.resume_run(work, run_id, member)


@serves(router, "examine_again")
def examine_again(run_id: str, body: ExamineBody, work: Work, member: Asker) -> RunBrief:
    return re_examinations.examine_again(work, actual_run(work, run_id), body, member)


@serves(router, "list_checks")
def list_checks(run_id: str, work: Work, outcome: CheckOutcome | None = None, weight: Weight = Weight.GAIN) -> list[CheckRow]:
    return results.list_checks(work, actual_run(work, run_id), outcome, weight)


@serves(router, "get_check")
def get_check(run_id: str, check_id: str, work: Work) -> CheckOnSite:
    return results.get_check(work, actual_run(work, run_id), check_id)


@serves(router, "list_causes")
def list_causes(
    run_id: str,
    work: Work,
    check: str = "",
    limit: Annotated[int, Query(ge=1, le=1000)] = 200,
    after: int = 0,
    weight: Weight = Weight.GAIN,
) -> list[CauseRow]:
    return results.list_causes(work, actual_run(work, run_id), check, limit, after, weight)


@serves(router, "list_findings")
def list_findings(
    run_id: str,
    work: Work,
    check: str = "",
    cause: int | None = None,
    severity: Severity | None = None,
    waived: bool | None = False,
    limit: Annotated[int, Query(ge=1, le=1000)] = 100,
    after: int = 0,
) -> Listed[FindingRow]:
    return results.list_findings(
        work, actual_run(work, run_id), check=check, cause=cause, severity=severity, waived=waived, limit=limit, after=after
    )


@serves(router, "get_finding")
def get_finding(run_id: str, fingerprint: str, work: Work) -> FindingRow:
    return results.get_finding(work, actual_run(work, run_id), fingerprint)


@serves(router, "get_finding_history")
def get_finding_history(
    site_id: int, fingerprint: str, work: Work, limit: Annotated[int, Query(ge=1, le=100)] = 30
) -> FindingHistory:
    return histories.finding_history(work, site_id, fingerprint, limit)


@serves(router, "get_page_history")
def get_page_history(site_id: int, work: Work, url: str, limit: Annotated[int, Query(ge=1, le=100)] = 30) -> PageHistory:
    return histories.page_history(work, site_id, url, limit)


@serves(router, "get_page")
def get_page(run_id: str, url: str, work: Work) -> PageOut:
    return results.get_page(work, actual_run(work, run_id), url)


@serves(router, "compare_runs")
def compare_runs(
    base: str,
    head: str,
    work: Work,
    change: Change | None = None,
    check: str = "",
    event: Annotated[int | None, Query(ge=0)] = None,
    part: Annotated[int | None, Query(ge=1)] = None,
    limit: Annotated[int, Query(ge=1, le=2000)] = 200,
    after: Annotated[int, Query(ge=0)] = 0,
) -> ComparisonOut:
    return comparisons.compare_runs(
        work, actual_run(work, base), actual_run(work, head), Chosen(change, check, event, part), limit, after
    )


@serves(router, "list_compared_parts")
def list_compared_parts(
    base: str,
    head: str,
    by: PartKind,
    work: Work,
    limit: Annotated[int, Query(ge=1, le=2000)] = 200,
    after: Annotated[int, Query(ge=0)] = 0,
) -> Listed[ComparedPart]:
    return comparisons.list_compared_parts(work, actual_run(work, base), actual_run(work, head), by, limit, after)


@serves(router, "list_page_changes")
def list_page_changes(
    base: str,
    head: str,
    group: Annotated[int, Query(ge=1)],
    work: Work,
    limit: Annotated[int, Query(ge=1, le=2000)] = 200,
    after: Annotated[int, Query(ge=0)] = 0,
) -> Listed[PageChange]:
    return comparisons.list_page_changes(work, actual_run(work, base), actual_run(work, head), group, limit, after)


@serves(router, "list_compared_urls")
def list_compared_urls(
    base: str,
    head: str,
    which: ComparedList,
    work: Work,
    limit: Annotated[int, Query(ge=1, le=2000)] = 200,
    after: Annotated[int, Query(ge=0)] = 0,
) -> Listed[str]:
    return comparisons.list_compared_urls(work, actual_run(work, base), actual_run(work, head), which, limit, after)


@serves(router, "compare_columns")
def compare_columns(runs: str, work: Work) -> ColumnsOut:
    return columns.compare_columns(work, [actual_run(work, part.strip()) for part in runs.split(",") if part.strip()])


@serves(router, "look_at_page")
def look_at_page(site_id: int, body: LookBody, work: Work) -> LookOut:
    return look(work, site_id, body.url)
