"""A new client in one form, and the first look at its site."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from hodcarrier.wire.base import Label, Wire, Words
from hodcarrier.wire.clients import ClientOut
from hodcarrier.wire.plans import PlanValues
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteOut


class FirstLookBody(Wire):
    """A site to look at before anything is set up for it."""

    address: str = Field(max_length=2000, examples=["https://tidewrack.example/"])
    plan: PlanValues = Field(default_factory=dict, examples=[{}])


class SeenFact(Wire):
    """Something that was seen, in words."""

    name: str
    value: str


class ProposedSetting(Wire):
    """A setting of a plan that suits the site, and why."""

    name: str
    label: str
    value: Any
    shown: str
    reason: str


class FirstLookOut(Wire):
    """What a first look at a site told, and what suits it. ``minutes`` is about how long an audit will take."""

    address: str
    host: str
    pages: int
    facts: list[SeenFact]
    proposals: list[ProposedSetting]
    schedule: ScheduleBody
    schedule_reason: str
    minutes: float
    notices: list[str]


class NewGuest(Wire):
    """Somebody of the client, who is invited by mail to read reports."""

    name: Words = Field(min_length=1, max_length=200, examples=["Rosa Penhallow"])
    email: str = Field(max_length=320, examples=["rosa@tidewrack.example"])


class NewClientBody(Wire):
    """A new client with all that it begins with. ``competitors`` are URLs; with any there is a benchmark against them. A preset gives settings,
    schedule and to-dos; what is given here wins."""

    name: Words = Field(min_length=1, max_length=200, examples=["Tidewrack Chandlery"])
    address: str = Field(max_length=2000, examples=["https://tidewrack.example/"])
    plan: PlanValues = Field(default_factory=dict, examples=[{"pages_max": 20_000}])
    preset_id: int | None = None
    schedule: ScheduleBody | None = None
    competitors: list[str] = Field(default_factory=list, max_length=10, examples=[["https://harbourline.example/"]])
    owner_id: int | None = None
    tags: list[Label] = Field(default_factory=list, max_length=20)
    guests: list[NewGuest] = Field(default_factory=list, max_length=20)
    start_run: bool = True


class NewClientOut(Wire):
    """A client as it was set up: with its own site, how many to-dos it begins with, its benchmark, and the run that was started."""

    client: ClientOut
    site: SiteOut
    todos: int
    benchmark_id: int | None
    run_id: str | None
