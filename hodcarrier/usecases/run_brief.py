"""A run as lists show it."""

from __future__ import annotations

from typing import Any

from hodcarrier.register.models import Run, Site
from hodcarrier.usecases.workspace import AnyRow
from hodcarrier.wire.runs import RunBrief

# What lists show of a run. Rows of these are made many times faster than runs.
BRIEF: tuple[Any, ...] = (
    Run.id,
    Run.site_id,
    Site.host.label("site_host"),
    Run.sequence,
    Run.state,
    Run.purpose,
    Run.appearance,
    Run.reason,
    Run.requested_at,
    Run.started_at,
    Run.finished_at,
    Run.health,
    Run.pages,
    Run.findings,
    Run.critical,
    Run.high,
    Run.new,
    Run.returned,
    Run.fixed,
    Run.partial,
    Run.end_words,
    Run.file,
    Run.source_id,
    Run.scheduled,
    Run.retry_of,
)


def run_brief(run: Run | AnyRow) -> RunBrief:
    """A run in a list: a run, or a row of :data:`BRIEF`."""
    return RunBrief(
        id=run.id,
        site_id=run.site_id,
        site_host=run.site_host,
        state=run.state,
        purpose=run.purpose,
        appearance=run.appearance,
        reason=run.reason,
        requested_at=run.requested_at,
        started_at=run.started_at,
        finished_at=run.finished_at,
        health=run.health,
        pages=run.pages,
        findings=run.findings,
        partial=run.partial,
        end_words=run.end_words,
        file=run.file,
        source_id=run.source_id,
        scheduled=run.scheduled,
        retry_of=run.retry_of,
    )
