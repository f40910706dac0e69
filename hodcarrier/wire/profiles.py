"""Profiles: checks, limits and severities that several sites share."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from hodcarrier.core.plan import SeverityChange
from hodcarrier.wire.base import Wire, Words


class ProfileBody(Wire):
    """A new profile. What it does not name is as in the catalogue. ``note`` says what it is for."""

    name: Words = Field(min_length=1, max_length=100, examples=["Shop"])
    note: str = Field(default="", max_length=2000)
    checks_off: list[str] = Field(default_factory=list, max_length=2000)
    thresholds: dict[str, float] = Field(default_factory=dict, max_length=2000)
    severities: dict[str, SeverityChange] = Field(default_factory=dict, max_length=2000)


class ProfileChange(Wire):
    """Changes to a profile; what is left out stays. Lists and tables are replaced as a whole."""

    name: Words | None = Field(default=None, min_length=1, max_length=100)
    note: str | None = Field(default=None, max_length=2000)
    checks_off: list[str] | None = Field(default=None, max_length=2000)
    thresholds: dict[str, float] | None = Field(default=None, max_length=2000)
    severities: dict[str, SeverityChange] | None = Field(default=None, max_length=2000)


class ProfileSite(Wire):
    """A site that uses a profile."""

    id: int
    host: str
    client_name: str


class ProfileOut(Wire):
    """A profile and the sites that use it; ``version`` goes back in ``If-Match`` when it is changed."""

    id: int
    name: str
    note: str
    checks_off: list[str]
    thresholds: dict[str, float]
    severities: dict[str, SeverityChange]
    version: int
    changed_at: datetime
    sites: list[ProfileSite]
