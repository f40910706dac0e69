"""Runs and how far they have come."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, String, Text, and_, or_, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.plan import Plan
from hodcarrier.core.states import FileState, RunPurpose, RunState
from hodcarrier.core.summary import RunChanges, RunSummary
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.sites import Site


class Run(Base):
    """One audit. ``summary`` is there when it was examined; page-level results are in its run file.

    ``sequence`` is the order in which runs were asked for, which the clock does not change. A run that is crawled or examined is claimed by
    ``worker_id`` until ``lease_until``; a lease that lapses is taken over.
    """

    __tablename__ = "run"
    __table_args__ = (
        Index("run_site", "site_id", "purpose", "state", "sequence"),
        Index("run_sequence", "sequence", unique=True),
        Index("run_active", "site_id", "purpose", unique=True, sqlite_where=text("state IN ('queued', 'crawling', 'examining')")),
    )
    id: Mapped[str] = mapped_column(String(20), primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    sequence: Mapped[int] = mapped_column(default=text("(SELECT coalesce(max(sequence), 0) + 1 FROM run)"))
    state: Mapped[RunState]
    purpose: Mapped[RunPurpose]
    round_id: Mapped[int | None] = mapped_column(ForeignKey("benchmark_round.id", ondelete="CASCADE"))
    plan: Mapped[Plan]
    reason: Mapped[str] = mapped_column(Text, default="")
    requested_at: Mapped[datetime]
    started_at: Mapped[datetime | None]
    finished_at: Mapped[datetime | None]
    clock_offset_s: Mapped[float] = mapped_column(default=0.0)
    base_id: Mapped[str | None] = mapped_column(String(20))
    health: Mapped[float | None]
    summary: Mapped[RunSummary | None]
    changes: Mapped[RunChanges | None]
    worker_id: Mapped[str | None] = mapped_column(String(120))
    lease_until: Mapped[datetime | None]
    attempts: Mapped[int] = mapped_column(default=0)
    stop_requested_at: Mapped[datetime | None]
    file: Mapped[FileState] = mapped_column(default=FileState.KEPT)
    site: Mapped[Site] = relationship()


# Which runs have results: those that are done, and those that a person stopped after something was fetched.
EXAMINED = and_(Run.state.in_((RunState.DONE, RunState.STOPPED)), Run.summary.is_not(None))
EXAMINED_OR_FAILED = or_(EXAMINED, Run.state == RunState.FAILED)


class RunProgress(Base):
    """How far a run has come, as its worker told it last."""

    __tablename__ = "run_progress"
    run_id: Mapped[str] = mapped_column(ForeignKey("run.id", ondelete="CASCADE"), primary_key=True)
    at: Mapped[datetime]
    figures: Mapped[dict[str, Any]]
