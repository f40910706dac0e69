"""Run files: what they take, and which of them the rule of retention lets go."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from hodcarrier.wire.base import Wire


class RetentionBody(Wire):
    """A rule of retention, to be carried out now."""

    weeks: int = Field(ge=1, le=5200)


class RunFileOut(Wire):
    """A run's file."""

    run_id: str
    site_host: str
    requested_at: datetime
    size_bytes: int


class RetentionOut(Wire):
    """What a rule of retention comes to: the files there are, and those that it lets go. A run without its file keeps its figures."""

    weeks: int
    kept: int
    kept_bytes: int
    removable: list[RunFileOut]
    removable_bytes: int
