"""Figures over time."""

from __future__ import annotations

from datetime import datetime

from hodcarrier.core.judge.trend import TrendState
from hodcarrier.core.states import RunState
from hodcarrier.wire.base import Wire
from hodcarrier.wire.remarks import RemarkOut


class TrendPoint(Wire):
    """One run's figure over ``pages`` pages.

    ``changed``: the plan differs from the run before; ``catalogue_changed``: checks or their rules do. ``comparable``: it examined
    about as many pages as the latest run, so that it counts for the verdict. ``note`` says all this in words.
    """

    run_id: str
    at: datetime
    value: float | None
    pages: int | None = None
    state: RunState
    partial: bool = False
    changed: bool = False
    catalogue_changed: bool = False
    comparable: bool = True
    note: str = ""


class TrendOut(Wire):
    """A figure over the runs of a site."""

    figure: str
    label: str
    high_is_good: bool
    points: list[TrendPoint]
    remarks: list[RemarkOut]
    state: TrendState
    slope_per_month: float | None
    change: float | None
    words: str
