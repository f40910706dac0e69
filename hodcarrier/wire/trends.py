"""Figures over time."""

from __future__ import annotations

from datetime import date, datetime

from hodcarrier.core.judge.trend import TrendState
from hodcarrier.core.states import Every, RunState
from hodcarrier.wire.base import Wire
from hodcarrier.wire.remarks import RemarkOut


class TrendPoint(Wire):
    """A figure at a run, over ``pages`` pages, or in a week or month (``first`` to ``last``), in which the last run counts (``run_id``; empty for figures from outside).

    ``changed``: the plan differs from the run before; ``catalogue_changed``: checks or their rules do. ``comparable``: it examined
    about as many pages as the latest run, so that it counts for the verdict. ``note`` says all this in words.
    """

    run_id: str = ""
    at: datetime
    first: date | None = None
    last: date | None = None
    value: float | None
    pages: int | None = None
    state: RunState | None = None
    partial: bool = False
    changed: bool = False
    catalogue_changed: bool = False
    comparable: bool = True
    note: str = ""


class TrendOut(Wire):
    """A figure of a site over time. ``high_is_good`` is null where nobody knows; ``between`` says how the last value differs from the first, and what happened in between."""

    figure: str
    label: str
    high_is_good: bool | None
    every: Every = Every.RUN
    points: list[TrendPoint]
    remarks: list[RemarkOut]
    state: TrendState
    slope_per_month: float | None
    change: float | None
    words: str
    between: str = ""


class TrendFigure(Wire):
    """A figure that can be followed over time."""

    figure: str
    label: str
