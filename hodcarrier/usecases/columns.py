"""Runs of one site side by side, their figures as rows."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from sqlalchemy import select
from sqlalchemy.orm import undefer

from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput, NotFound, RunMismatch
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.states import Area, Severity
from hodcarrier.core.words import fill
from hodcarrier.register.models import Run
from hodcarrier.usecases.trends import figure_label, value_of
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.comparisons import ColumnsOut, FigureRow, RunColumn

COLUMNS_MAX = 24


def compare_columns(work: Workspace, run_ids: Sequence[str]) -> ColumnsOut:
    """The figures of finished runs, the earliest run first. Figures that no run has, and checks without a finding in any, are left out.

    Raises :class:`InvalidInput` for none or too many runs, :class:`NotFound` for one that there is not or that has no results,
    :class:`RunMismatch` when they are of several sites.
    """
    wanted = list(dict.fromkeys(run_ids))
    if not 1 <= len(wanted) <= COLUMNS_MAX:
        raise InvalidInput(
            fill("{n:run} cannot be put side by side.", {"n": len(wanted)}), f"Choose 1 to {COLUMNS_MAX} runs of a site.", "runs"
        )
    with work.reading() as session:
        runs = session.scalars(select(Run).where(Run.id.in_(wanted)).order_by(Run.sequence).options(undefer(Run.summary))).all()
        known = {run.id: run for run in runs}
        for run_id in wanted:
            if run_id not in known:
                raise NotFound(f"There is no run {run_id}.", "List the runs of the site to see its runs.")
            if known[run_id].summary is None:
                raise NotFound(f"Run {run_id} has no results.", "Choose runs that are finished.")
        if len({run.site_id for run in runs}) > 1:
            raise RunMismatch("These runs are of several sites.", "Choose runs of one site.")
        return ColumnsOut(
            runs=[
                RunColumn(id=run.id, at=run.requested_at, partial=run.summary.partial, catalogue=run.summary.catalogue)
                for run in runs
                if run.summary is not None
            ],
            rows=list(_rows(runs)),
        )


def _rows(runs: Sequence[Run]) -> Iterator[FigureRow]:
    for figure in ("health", "pages", "findings", *(f"severity.{name}" for name in Severity), *(f"area.{name}" for name in Area)):
        values = [value_of(figure, run) for run in runs]
        if any(value is not None for value in values):
            yield FigureRow(id=figure, label=figure_label(figure)[0], severity=None, values=values)
    current = catalogue.load().current
    told: dict[str, tuple[Severity, str]] = {}
    for run in runs:
        for check, figures in (run.summary.checks if run.summary else {}).items():
            if figures.findings:
                told[current(check)] = (figures.severity, figures.summary)
    for check, (severity, summary) in sorted(told.items(), key=lambda item: (RANK[item[1][0]], item[1][1])):
        values = [value_of(f"check.{check}", run) for run in runs]
        yield FigureRow(id=f"check.{check}", label=summary, severity=severity, values=values)
