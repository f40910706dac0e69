"""Presets, and changes to several sites at once."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from hodcarrier.core.states import Priority
from hodcarrier.wire.base import Label, Wire, Words
from hodcarrier.wire.plans import PlanValues
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.todos import Hours

WorkingDays = Annotated[int, Field(ge=0, le=1000)]
SITES_MAX = 500


class SpreadSchedule(ScheduleBody):
    """A schedule for several sites. ``until``: their starts are spread evenly between ``at`` and then; empty: all start at once."""

    until: str = Field(default="", examples=["05:00"])


class PresetTodo(Wire):
    """A to-do that a new client's site begins with. ``days`` is when it is due, in working days from the beginning; null: by its severity."""

    title: Words = Field(min_length=1, max_length=300, examples=["Get access to the server's log files"])
    note: str = Field(default="", max_length=20_000)
    days: WorkingDays | None = None
    priority: Priority = Priority.NORMAL
    estimate_hours: Hours | None = None
    labels: list[Label] = Field(default_factory=list, max_length=20)


class PresetFields(Wire):
    """What a preset is. ``settings`` are those of a plan that it sets; what belongs to one site alone, such as start URLs, is not among them."""

    name: Words = Field(min_length=1, max_length=100, examples=["Small shop"])
    note: str = Field(default="", max_length=2000)
    settings: PlanValues = Field(default_factory=dict, examples=[{"pages_max": 2000, "rate_per_s": 2}])
    schedule: SpreadSchedule | None = None
    todos: list[PresetTodo] = Field(default_factory=list, max_length=50)


class PresetBody(PresetFields):
    """A new preset. ``from_site``: settings and schedule are those of this site, as far as they are not given here."""

    from_site: int | None = None


class PresetChange(Wire):
    """Changes to a preset; what is left out stays, and so do sites that were set up with it. ``from_site``: its settings are those of this site."""

    from_site: int | None = None

    name: Words | None = Field(default=None, min_length=1, max_length=100)
    note: str | None = Field(default=None, max_length=2000)
    settings: PlanValues | None = None
    schedule: SpreadSchedule | None = None
    todos: list[PresetTodo] | None = Field(default=None, max_length=50)


class PresetOut(PresetFields):
    """A preset; ``version`` goes back in ``If-Match`` when it is changed."""

    id: int
    version: int
    changed_at: datetime


class SitesPick(Wire):
    """What is to be changed of several sites: settings and schedule of a preset or given here (which win), tags, whether schedules are paused."""

    site_ids: list[int] = Field(min_length=1, max_length=SITES_MAX)
    preset_id: int | None = None
    values: PlanValues = Field(default_factory=dict, examples=[{"rate_per_s": 2}])
    schedule: SpreadSchedule | None = None
    no_schedule: bool = False
    paused: bool | None = None
    add_tags: list[Label] = Field(default_factory=list, max_length=20, examples=[["retail"]])
    remove_tags: list[Label] = Field(default_factory=list, max_length=20)


class SiteChange(Wire):
    """A change to one site; what is left out stays. ``no_schedule`` takes its schedule away."""

    site_id: int
    plan_version: int | None = None
    values: PlanValues = Field(default_factory=dict)
    schedule: ScheduleBody | None = None
    no_schedule: bool = False
    paused: bool | None = None
    tags: list[Label] | None = Field(default=None, max_length=40)


class SiteDifference(Wire):
    """What a change makes of one thing."""

    name: str
    before: str
    after: str


class SiteDraft(Wire):
    """What a change would make of one site; ``differences`` are empty where it is so already."""

    change: SiteChange
    host: str
    client_name: str
    differences: list[SiteDifference]
    next_due_at: datetime | None


class SitesChange(Wire):
    """Changes to several sites, all of them or none."""

    changes: list[SiteChange] = Field(min_length=1, max_length=SITES_MAX)


class SitesChanged(Wire):
    """How many sites were changed, and the changes that undo it."""

    changed: int
    undo: list[SiteChange]
