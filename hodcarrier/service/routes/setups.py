"""How sites are set up: presets, changes to several sites, the week of runs."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query

from hodcarrier.service.deps import Version, Work, version_of
from hodcarrier.service.guard import Asker, serves
from hodcarrier.usecases import many_sites, presets, week
from hodcarrier.wire.presets import PresetBody, PresetChange, PresetOut, SiteDraft, SitesChange, SitesChanged, SitesPick
from hodcarrier.wire.week import WeekOut

router = APIRouter()


@serves(router, "list_presets")
def list_presets(work: Work) -> list[PresetOut]:
    return presets.list_presets(work)


@serves(router, "add_preset")
def add_preset(body: PresetBody, work: Work, member: Asker) -> PresetOut:
    return presets.add_preset(work, body, member)


@serves(router, "change_preset")
def change_preset(preset_id: int, body: PresetChange, work: Work, member: Asker, version: Version = None) -> PresetOut:
    return presets.change_preset(work, preset_id, body, version_of(version), member)


@serves(router, "remove_preset")
def remove_preset(preset_id: int, work: Work, member: Asker) -> None:
    presets.remove_preset(work, preset_id, member)


@serves(router, "plan_site_changes")
def plan_site_changes(body: SitesPick, work: Work) -> list[SiteDraft]:
    return many_sites.plan_site_changes(work, body)


@serves(router, "change_sites")
def change_sites(body: SitesChange, work: Work, member: Asker) -> SitesChanged:
    return many_sites.change_sites(work, body, member)


@serves(router, "get_week")
def get_week(
    work: Work, start: Annotated[date | None, Query(alias="from")] = None, days: int = 7, client: int | None = None
) -> WeekOut:
    return week.get_week(work, start, days, client)
