"""Clients, with their sites in brief."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field

from hodcarrier.core.states import Severity, SiteKind
from hodcarrier.wire.base import Wire, Words

Days = Annotated[int, Field(ge=0, le=1000)]


class ClientBody(Wire):
    """A new client."""

    name: Words = Field(min_length=1, max_length=200, examples=["Tidewrack Chandlery"])


class ClientChange(Wire):
    """Changes to a client; what is left out stays. ``holidays`` are days that are no working days for it, ``targets`` working days until to-dos are
    due, by severity; a severity that is left out has the agency's own."""

    name: Words | None = Field(default=None, min_length=1, max_length=200)
    holidays: list[date] | None = Field(default=None, max_length=1000, examples=[["2026-12-25"]])
    targets: dict[Severity, Days] | None = Field(default=None, examples=[{"critical": 1, "high": 5}])


class ClientOut(Wire):
    """A client with its sites."""

    id: int
    name: str
    created_at: datetime
    holidays: list[date] = []
    targets: dict[Severity, int] = {}
    sites: list[SiteBrief] = []


class SiteBrief(Wire):
    """A site in a list."""

    id: int
    host: str
    kind: SiteKind
    health: float | None = None
