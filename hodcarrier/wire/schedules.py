"""Schedules."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from hodcarrier.wire.base import Wire


class ScheduleBody(Wire):
    """When a site is audited, and who is told."""

    rule: str = Field(examples=["weekly:TU"], description="daily, weekly:TU, monthly:1 or an RRULE (RFC 5545)")
    at: str = Field(default="02:00", examples=["02:00"])
    zone: str = Field(default="UTC", examples=["Europe/London"])
    mail_to: list[str] = Field(default_factory=list, examples=[["imke@cobble-lantern.example"]])


class ScheduleOut(ScheduleBody):
    """A schedule as it is kept. ``retry_at``: a run that failed is tried again, once."""

    next_due_at: datetime | None
    paused_at: datetime | None = None
    retry_at: datetime | None = None
    words: str
