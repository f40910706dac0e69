"""Figures that are imported."""

from __future__ import annotations

from datetime import date

from hodcarrier.wire.base import Wire


class MetricRow(Wire):
    """An imported figure."""

    name: str
    day: date
    value: float
    source: str
