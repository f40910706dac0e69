"""Runs."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from hodcarrier.core.plan import Plan
from hodcarrier.core.progress import Progress
from hodcarrier.core.states import Appearance, FileState, RunPurpose, RunState
from hodcarrier.core.summary import RunChanges, RunSummary
from hodcarrier.wire.base import Wire
from hodcarrier.wire.plans import PlanValues


class ExamineBody(Wire):
    """How a run is re-examined: with the settings of its site, or with others. ``profile`` names another profile, an empty one none; ``values`` are
    settings of a plan that apply to checks."""

    profile: str | None = Field(default=None, max_length=100)
    values: PlanValues = Field(default_factory=dict, examples=[{"thresholds": {"words_min": 120}}])


class RunBrief(Wire):
    """A run in a list. ``partial``: it ended at a limit or was stopped, so that pages beyond it are unverified. ``file``: without
    its file a run has figures alone. ``scheduled``: it began by itself. ``appearance``: the user agent of a run beside the audits."""

    id: str
    site_id: int
    site_host: str
    state: RunState
    purpose: RunPurpose
    appearance: Appearance | None = None
    reason: str = ""
    requested_at: datetime
    started_at: datetime | None = None
    finished_at: datetime | None = None
    health: float | None = None
    pages: int | None = None
    findings: int | None = None
    partial: bool = False
    end_words: str = ""
    file: FileState = FileState.KEPT
    source_id: str | None = None
    scheduled: bool = False
    retry_of: str | None = None


class RunOut(RunBrief):
    """A run with its summary (when done), its changes since the run before, or its progress.

    ``health_change`` is since the base run; null when there is none, or the two examined too few of the same pages to compare.
    """

    client_name: str
    base_id: str | None = None
    base_at: datetime | None = None
    source_at: datetime | None = None
    health_change: float | None = None
    summary: RunSummary | None = None
    changes: RunChanges | None = None
    progress: Progress | None = None
    plan: Plan | None = None
