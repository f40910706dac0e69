"""Clients, sites, plans and schedules."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import Field

from hodcarrier.wire.base import Wire


class ClientBody(Wire):
    """A new client."""

    name: str = Field(min_length=1, max_length=200, examples=["Tidewrack Chandlery"])


class ClientOut(Wire):
    """A client with its sites."""

    id: int
    name: str
    created_at: datetime
    sites: list[SiteBrief] = []


class SiteBrief(Wire):
    """A site in a list."""

    id: int
    host: str
    kind: Literal["own", "competitor"]
    health: float | None = None


class SiteBody(Wire):
    """A new site; an address is enough."""

    client_id: int
    address: str = Field(examples=["https://tidewrack.example/"])
    kind: Literal["own", "competitor"] = "own"
    plan: dict[str, Any] = Field(
        default_factory=dict, description="settings that differ from the defaults", examples=[{"pages_max": 2000}]
    )


class ScheduleBody(Wire):
    """When a site is audited, and who is told."""

    rule: str = Field(examples=["weekly:TU"], description="daily, weekly:TU, monthly:1 or an RRULE (RFC 5545)")
    at: str = Field(default="02:00", examples=["02:00"])
    zone: str = Field(default="UTC", examples=["Europe/London"])
    mail_to: list[str] = Field(default_factory=list, examples=[["imke@cobble-lantern.example"]])


class ScheduleOut(ScheduleBody):
    """A schedule as it is kept."""

    next_due_at: datetime | None
    words: str


class ProposedParameter(Wire):
    """A query parameter that looks like a session id in the latest run, and that the plan might drop."""

    name: str
    addresses: int
    example: str


class PlanOut(Wire):
    """A site's plan; ``version`` goes back in ``If-Match`` when it is changed."""

    values: dict[str, Any]
    version: int
    defaults: dict[str, Any]
    proposed_drops: list[ProposedParameter] = []


class PlanBody(Wire):
    """New values for a plan; what is left out stays."""

    values: dict[str, Any] = Field(examples=[{"rate_per_s": 2, "thresholds": {"words_min": 120}}])


class PlanToml(Wire):
    """A plan as TOML."""

    toml: str = Field(examples=["rate_per_s = 2.0\n"])


class PlanCopy(Wire):
    """Which site's plan to take over."""

    from_site: int


class PreviewBody(Wire):
    """Values to try and addresses to try them on; no addresses: pages of the latest run."""

    values: dict[str, Any] = Field(default_factory=dict, examples=[{"exclude": ["/basket*"]}])
    addresses: list[str] = Field(default_factory=list, max_length=500)


class PreviewRow(Wire):
    """What a plan would do with an address."""

    url: str
    fetched: bool
    why: str


class SettingOut(Wire):
    """What a setting of a plan means. ``unit`` is that of a figure; ``locked``: this member may not change it."""

    name: str
    group: str
    group_name: str
    label: str
    text: str
    kind: str
    advanced: bool
    choices: list[str]
    unit: str
    locked: bool


class LookBody(Wire):
    """Which page to look at."""

    url: str = Field(examples=["https://tidewrack.example/contact"])


class AccessBody(Wire):
    """What opens a site that is not public. Sealed when it is kept, and never shown again."""

    username: str = Field(default="", repr=False, max_length=500)
    password: str = Field(default="", repr=False, max_length=2000)
    headers: dict[str, str] = Field(default_factory=dict, repr=False)
    cookies: dict[str, str] = Field(default_factory=dict, repr=False)


class AccessOut(Wire):
    """What kinds of access are kept: the names of headers and cookies, and no value."""

    password: bool = False
    headers: list[str] = []
    cookies: list[str] = []
    changed_at: datetime | None = None


class RunBrief(Wire):
    """A run in a list."""

    id: str
    site_id: int
    state: str
    purpose: str
    reason: str = ""
    requested_at: datetime
    started_at: datetime | None = None
    finished_at: datetime | None = None
    health: float | None = None
    pages: int | None = None
    findings: int | None = None
    end_words: str = ""


class RunOut(RunBrief):
    """A run with its summary (when done), its changes since the run before, or its progress."""

    site_host: str
    client_name: str
    base_id: str | None = None
    base_at: datetime | None = None
    summary: dict[str, Any] | None = None
    changes: dict[str, Any] | None = None
    progress: dict[str, Any] | None = None
    plan: dict[str, Any] = {}


class SiteOut(SiteBrief):
    """A site with its client, schedule and last runs. ``can_go_on``: the last run broke off and may go on from its last batch."""

    client_id: int
    client_name: str
    created_at: datetime
    schedule: ScheduleOut | None = None
    last_run: RunBrief | None = None
    can_go_on: bool = False
    running: RunBrief | None = None
    runs: int = 0
    open_todos: int = 0


ClientOut.model_rebuild()
