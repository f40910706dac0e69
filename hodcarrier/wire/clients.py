"""Clients, with their sites in brief."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from hodcarrier.core.states import SiteKind
from hodcarrier.wire.base import Wire, Words


class ClientBody(Wire):
    """A new client."""

    name: Words = Field(min_length=1, max_length=200, examples=["Tidewrack Chandlery"])


class ClientChange(Wire):
    """Changes to a client; what is left out stays. ``holidays`` are days that are no working days for it."""

    name: Words | None = Field(default=None, min_length=1, max_length=200)
    holidays: list[date] | None = Field(default=None, max_length=1000, examples=[["2026-12-25"]])


class ClientOut(Wire):
    """A client with its sites."""

    id: int
    name: str
    created_at: datetime
    holidays: list[date] = []
    sites: list[SiteBrief] = []


class SiteBrief(Wire):
    """A site in a list."""

    id: int
    host: str
    kind: SiteKind
    health: float | None = None
