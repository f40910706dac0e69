"""Figures over time."""

from __future__ import annotations

from datetime import datetime

from hodcarrier.core.judge.trend import TrendState
from hodcarrier.core.states import RunState
from hodcarrier.wire.base import Wire
from hodcarrier.wire.remarks import RemarkOut


class TrendPoint(Wire):
    """One run's figure; ``changed`` when the plan or the catalogue changed since the run before."""

    run_id: str
    at: datetime
    value: float | None
    state: RunState
    changed: bool = False


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
