"""Runs and how far they have come."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, String, Text, or_, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.plan import Plan
from hodcarrier.core.states import Appearance, FileState, RunPurpose, RunState
from hodcarrier.core.summary import RunChanges, RunSummary, SiteFigures
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.sites import Site


class Run(Base):
    """One audit. ``summary`` is there when it was ``examined``; page-level results are in its run file.

    What lists show of a summary and of its changes are columns of their own (``pages`` to ``comparable``): the whole of both, and the plan,
    are read for details only.

    ``scheduled``: it began by itself; ``retry_of`` is the run before it that had failed. ``source_id`` is the run whose facts a re-examination judges anew. ``sequence`` is the order in which runs were asked for, which the clock does not change. A run that is crawled or examined is claimed by
    ``worker_id`` until ``lease_until``; a lease that lapses is taken over.
    """

    __tablename__ = "run"
    __table_args__ = (
        Index("run_site", "site_id", "purpose", "state", "sequence"),
        Index("run_examined", "site_id", "examined", "sequence"),
        Index("run_state", "state", "sequence"),
        Index("run_finished", "finished_at"),
        Index("run_round", "round_id"),
        Index("run_sequence", "sequence", unique=True),
        Index("run_active", "site_id", "purpose", unique=True, sqlite_where=text("state IN ('queued', 'crawling', 'examining')")),
    )
    id: Mapped[str] = mapped_column(String(20), primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    sequence: Mapped[int] = mapped_column(default=text("(SELECT coalesce(max(sequence), 0) + 1 FROM run)"))
    state: Mapped[RunState]
    purpose: Mapped[RunPurpose]
    appearance: Mapped[Appearance | None]
    round_id: Mapped[int | None] = mapped_column(ForeignKey("benchmark_round.id", ondelete="CASCADE"))
    plan: Mapped[Plan] = mapped_column(deferred=True, deferred_group="detail")
    reason: Mapped[str] = mapped_column(Text, default="")
    requested_at: Mapped[datetime]
    started_at: Mapped[datetime | None]
    finished_at: Mapped[datetime | None]
    clock_offset_s: Mapped[float] = mapped_column(default=0.0)
    base_id: Mapped[str | None] = mapped_column(String(20))
    source_id: Mapped[str | None] = mapped_column(String(20))
    scheduled: Mapped[bool] = mapped_column(default=False)
    retry_of: Mapped[str | None] = mapped_column(String(20))
    health: Mapped[float | None]
    summary: Mapped[RunSummary | None] = mapped_column(deferred=True, deferred_group="detail")
    changes: Mapped[RunChanges | None] = mapped_column(deferred=True, deferred_group="detail")
    site_figures: Mapped[SiteFigures | None] = mapped_column(deferred=True, deferred_group="detail")
    worker_id: Mapped[str | None] = mapped_column(String(120))
    lease_until: Mapped[datetime | None]
    attempts: Mapped[int] = mapped_column(default=0)
    stop_requested_at: Mapped[datetime | None]
    file: Mapped[FileState] = mapped_column(default=FileState.KEPT)
    examined: Mapped[bool] = mapped_column(default=False)
    pages: Mapped[int | None]
    findings: Mapped[int | None]
    critical: Mapped[int | None]
    high: Mapped[int | None]
    partial: Mapped[bool] = mapped_column(default=False)
    end_words: Mapped[str] = mapped_column(Text, default="")
    new: Mapped[int | None]
    returned: Mapped[int | None]
    fixed: Mapped[int | None]
    comparable: Mapped[bool | None]
    site: Mapped[Site] = relationship()

    @property
    def site_host(self) -> str:
        """The host of its site."""
        return self.site.host


class SiteState(Base):
    """What is shown of a site's runs, brought up to date when one of them ends (:mod:`hodcarrier.usecases.site_states`).

    ``runs`` counts those that were examined; ``done_id`` is the latest of them, ``last_id`` the latest that was examined or failed. ``change``
    is by how much the health of ``done_id`` differs from the one before, where they can be compared; ``line`` the health of the last ones, the
    oldest first, nothing for one that failed, and ``line_days`` the days of these runs. ``events`` are those of the comparison of ``done_id`` with the run before it: title, detail, and
    share of the change in health; ``rises`` the checks that have more findings by it, and how many more;
    ``certificate_ends`` until when the certificate holds that it saw.
    """

    __tablename__ = "site_state"
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    runs: Mapped[int] = mapped_column(default=0)
    last_id: Mapped[str | None] = mapped_column(String(20))
    done_id: Mapped[str | None] = mapped_column(String(20))
    change: Mapped[float | None]
    line: Mapped[list[float | None]] = mapped_column(default=list)
    line_days: Mapped[list[str]] = mapped_column(default=list)
    events: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    rises: Mapped[dict[str, int]] = mapped_column(default=dict)
    certificate_ends: Mapped[datetime | None]


# Which runs have results: those that are done, and those that a person stopped after something was fetched.
EXAMINED = Run.examined
EXAMINED_OR_FAILED = or_(EXAMINED, Run.state == RunState.FAILED)


class RunProgress(Base):
    """How far a run has come, as its worker told it last."""

    __tablename__ = "run_progress"
    run_id: Mapped[str] = mapped_column(ForeignKey("run.id", ondelete="CASCADE"), primary_key=True)
    at: Mapped[datetime]
    figures: Mapped[dict[str, Any]]
