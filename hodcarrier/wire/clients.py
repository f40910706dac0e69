"""Clients, with their sites in brief."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field

from hodcarrier.core.states import Severity, SiteKind
from hodcarrier.wire.base import Label, Wire, Words

Days = Annotated[int, Field(ge=0, le=1000)]


class ClientBody(Wire):
    """A new client."""

    name: Words = Field(min_length=1, max_length=200, examples=["Tidewrack Chandlery"])


class ClientChange(Wire):
    """Changes to a client; what is left out stays. ``holidays`` are days that are no working days for it, ``targets`` working days until to-dos are
    due, by severity; a severity that is left out has the agency's own. On ``blackout_days`` no audit starts by itself. While it is ``archived`` nothing of
    it is audited, and its sites and to-dos are on no list. ``member_ids`` limits it to these members, beside owners and leads; none: it is open to all."""

    name: Words | None = Field(default=None, min_length=1, max_length=200)
    holidays: list[date] | None = Field(default=None, max_length=1000, examples=[["2026-12-25"]])
    targets: dict[Severity, Days] | None = Field(default=None, examples=[{"critical": 1, "high": 5}])
    blackout_days: list[date] | None = Field(default=None, max_length=1000, examples=[["2026-11-27"]])
    tags: list[Label] | None = Field(default=None, max_length=20, examples=[["retail"]])
    brand_names: list[Label] | None = Field(default=None, max_length=50, examples=[["tidewrack", "tide wrack"]])
    note: str | None = Field(default=None, max_length=20_000)
    colour: str | None = Field(default=None, pattern="^(#[0-9a-fA-F]{6})?$", examples=["#0d5c5f"])
    language: Words | None = Field(default=None, min_length=2, max_length=10, examples=["en"])
    owner_id: int | None = None
    archived: bool | None = None
    approves: bool | None = None
    member_ids: list[int] | None = Field(default=None, max_length=500)


class ClientOut(Wire):
    """A client with its sites."""

    id: int
    name: str
    created_at: datetime
    archived_at: datetime | None = None
    owner_id: int | None = None
    owner: str = ""
    tags: list[str] = []
    brand_names: list[str] = []
    note: str = ""
    colour: str = ""
    language: str = "en"
    holidays: list[date] = []
    blackout_days: list[date] = []
    targets: dict[Severity, int] = {}
    member_ids: list[int] = []
    approves: bool = False
    sites: list[SiteBrief] = []


class SiteBrief(Wire):
    """A site in a list."""

    id: int
    host: str
    kind: SiteKind
    health: float | None = None
    tags: list[str] = []
