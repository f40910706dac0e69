"""The runs of some days."""

from __future__ import annotations

from datetime import date, datetime

from hodcarrier.core.states import RunState
from hodcarrier.wire.base import Wire


class WeekRun(Wire):
    """A run that began (``run_id``), or one that is planned. ``minutes`` is how long it took, of a planned one how long the last one did."""

    site_id: int
    host: str
    client_name: str
    at: datetime
    run_id: str | None = None
    state: RunState | None = None
    reason: str = ""
    health: float | None = None
    scheduled: bool = False
    paused: bool = False
    retry: bool = False
    benchmark: bool = False
    minutes: float | None = None


class BlackoutDay(Wire):
    """A day on which no audit of a client's sites starts by itself."""

    day: date
    client_name: str


class WeekOut(Wire):
    """Runs of some days, the earliest first; days are those of UTC."""

    start: date
    days: int
    now: datetime
    runs: list[WeekRun]
    blackout: list[BlackoutDay]
