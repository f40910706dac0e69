"""Waivers."""

from __future__ import annotations

from datetime import date

from pydantic import Field

from hodcarrier.wire.base import Wire, Words
from hodcarrier.wire.results import TodoRef


class WaiverScope(Wire):
    """What a waiver is about: a check on the whole site; a pattern or a fingerprint narrows it."""

    check: str
    pattern: str = ""
    fingerprint: str = ""


class WaiverBody(WaiverScope):
    """A new waiver."""

    reason: Words = Field(min_length=3, examples=["Kept short on purpose"])
    end: date | None = None


class WaiversBody(Wire):
    """New waivers, made together or not at all."""

    waivers: list[WaiverBody] = Field(min_length=1, max_length=1000)


class WaiverPreviewBody(Wire):
    """Waivers that are not made yet."""

    waivers: list[WaiverScope] = Field(min_length=1, max_length=1000)


class WaiverChange(Wire):
    """Changes to a waiver; what is left out stays."""

    reason: Words | None = Field(default=None, min_length=3)
    end: date | None = None


class WaiverIds(Wire):
    """Waivers by their ids."""

    ids: list[int] = Field(min_length=1, max_length=1000)


class WaiverEffect(Wire):
    """What waivers would do to the latest run: the open findings they cover, on how many URLs, and health with and without them."""

    run_id: str | None
    findings: int
    subjects: int
    health_before: float | None = None
    health_after: float | None = None
    todos: list[TodoRef] = []
    sentence: str


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
    ends_soon: bool
    covers: int | None = None
    note: str = ""
