"""Sites and the notes on them: schedules, remarks, waivers, metrics, trends."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query

from hodcarrier.core.states import Every, SiteKind
from hodcarrier.service.deps import Configured, Work
from hodcarrier.service.guard import Asker, serves
from hodcarrier.service.surroundings import check_surroundings
from hodcarrier.usecases import metrics, outside_trends, remarks, schedules, sites, trends, waivers, waiving
from hodcarrier.wire.metrics import MetricRow
from hodcarrier.wire.remarks import RemarkBody, RemarkOut
from hodcarrier.wire.schedules import ScheduleBody, ScheduleOut
from hodcarrier.wire.sites import SiteBody, SiteOut
from hodcarrier.wire.trends import TrendFigure, TrendOut
from hodcarrier.wire.waivers import WaiverBody, WaiverChange, WaiverEffect, WaiverIds, WaiverOut, WaiverPreviewBody, WaiversBody

router = APIRouter()


@serves(router, "list_sites")
def list_sites(
    work: Work, kind: SiteKind | None = None, client: int | None = None, tag: str = "", owner: int | None = None, text: str = ""
) -> list[SiteOut]:
    return sites.list_sites(work, kind, client, tag=tag, owner_id=owner, text=text)


@serves(router, "add_site")
def add_site(body: SiteBody, work: Work, member: Asker, settings: Configured) -> SiteOut:
    check_surroundings(settings, member, body.plan)
    return sites.add_site(work, body, member)


@serves(router, "get_site")
def get_site(site_id: int, work: Work) -> SiteOut:
    return sites.get_site(work, site_id)


@serves(router, "remove_site")
def remove_site(site_id: int, work: Work, member: Asker) -> None:
    sites.remove_site(work, site_id, member)


@serves(router, "get_schedule")
def get_schedule(site_id: int, work: Work) -> ScheduleOut:
    return schedules.get_schedule(work, site_id)


@serves(router, "set_schedule")
def set_schedule(site_id: int, body: ScheduleBody, work: Work, member: Asker) -> ScheduleOut:
    return schedules.set_schedule(work, site_id, body, member)


@serves(router, "pause_schedule")
def pause_schedule(site_id: int, work: Work, member: Asker) -> ScheduleOut:
    return schedules.pause_schedule(work, site_id, member, paused=True)


@serves(router, "resume_schedule")
def resume_schedule(site_id: int, work: Work, member: Asker) -> ScheduleOut:
    return schedules.pause_schedule(work, site_id, member, paused=False)


@serves(router, "remove_schedule")
def remove_schedule(site_id: int, work: Work, member: Asker) -> None:
    schedules.remove_schedule(work, site_id, member)


@serves(router, "list_remarks")
def list_remarks(site_id: int, work: Work) -> list[RemarkOut]:
    return remarks.list_remarks(work, site_id)


@serves(router, "add_remark")
def add_remark(site_id: int, body: RemarkBody, work: Work, member: Asker) -> RemarkOut:
    return remarks.add_remark(work, site_id, body, member)


@serves(router, "remove_remark")
def remove_remark(remark_id: int, work: Work) -> None:
    remarks.remove_remark(work, remark_id)


@serves(router, "list_waivers")
def list_waivers(site_id: int, work: Work) -> list[WaiverOut]:
    return waivers.list_waivers(work, site_id)


@serves(router, "add_waiver")
def add_waiver(site_id: int, body: WaiverBody, work: Work, member: Asker) -> WaiverOut:
    return waivers.add_waiver(work, site_id, body, member)


@serves(router, "add_waivers")
def add_waivers(site_id: int, body: WaiversBody, work: Work, member: Asker) -> list[WaiverOut]:
    return waivers.add_waivers(work, site_id, body.waivers, member)


@serves(router, "preview_waivers")
def preview_waivers(site_id: int, body: WaiverPreviewBody, work: Work) -> WaiverEffect:
    return waiving.preview_waivers(work, site_id, body)


@serves(router, "change_waiver")
def change_waiver(waiver_id: int, body: WaiverChange, work: Work, member: Asker) -> WaiverOut:
    return waivers.change_waiver(work, waiver_id, body, member)


@serves(router, "remove_waivers")
def remove_waivers(body: WaiverIds, work: Work, member: Asker) -> None:
    waivers.remove_waivers(work, body.ids, member)


@serves(router, "remove_waiver")
def remove_waiver(waiver_id: int, work: Work, member: Asker) -> None:
    waivers.remove_waivers(work, [waiver_id], member)


@serves(router, "list_metrics")
def list_metrics(site_id: int, work: Work) -> list[MetricRow]:
    return metrics.list_metrics(work, site_id)


@serves(router, "get_trend")
def get_trend(
    site_id: int,
    work: Work,
    figure: str = "health",
    start: Annotated[date | None, Query(alias="from")] = None,
    end: Annotated[date | None, Query(alias="to")] = None,
    every: Every = Every.RUN,
) -> TrendOut:
    return trends.get_trend(work, site_id, figure, start, end, every)


@serves(router, "list_trend_figures")
def list_trend_figures(site_id: int, work: Work) -> list[TrendFigure]:
    return list(outside_trends.outside_figures(work, site_id))
