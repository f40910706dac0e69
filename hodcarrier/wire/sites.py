"""Sites."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from hodcarrier.core.states import SiteKind
from hodcarrier.wire.base import Wire
from hodcarrier.wire.clients import SiteBrief
from hodcarrier.wire.plans import PlanValues
from hodcarrier.wire.runs import RunBrief
from hodcarrier.wire.schedules import ScheduleOut


class SiteBody(Wire):
    """A new site; an address is enough."""

    client_id: int
    address: str = Field(examples=["https://tidewrack.example/"])
    kind: SiteKind = SiteKind.OWN
    plan: PlanValues = Field(
        default_factory=dict, description="settings that differ from the defaults", examples=[{"pages_max": 2000}]
    )


class SiteOut(SiteBrief):
    """A site with its client, schedule and last runs. ``can_go_on``: the last run broke off and may go on from its last batch."""

    client_id: int
    client_name: str
    client_tags: list[str] = []
    owner_id: int | None = None
    owner: str = ""
    created_at: datetime
    schedule: ScheduleOut | None = None
    last_run: RunBrief | None = None
    can_go_on: bool = False
    running: RunBrief | None = None
    archived: bool = False
    runs: int = 0
    open_todos: int = 0
