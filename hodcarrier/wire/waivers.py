"""Waivers."""

from __future__ import annotations

from datetime import date

from pydantic import Field

from hodcarrier.wire.base import Wire, Words


class WaiverBody(Wire):
    """A new waiver. A check is named; a pattern or a fingerprint narrows it."""

    check: str
    reason: Words = Field(min_length=3, examples=["Kept short on purpose"])
    pattern: str = ""
    fingerprint: str = ""
    end: date | None = None


class WaiverOut(Wire):
    """A waiver."""

    id: int
    site_id: int
    check: str
    summary: str
    pattern: str
    fingerprint: str
    reason: str
    author: str
    start: date
    end: date | None
    in_force: bool
