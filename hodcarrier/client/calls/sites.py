"""Calls about sites, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from datetime import date

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import Every, SiteKind, TableForm
from hodcarrier.wire.metrics import MetricRow
from hodcarrier.wire.remarks import RemarkBody, RemarkOut
from hodcarrier.wire.schedules import ScheduleBody, ScheduleOut
from hodcarrier.wire.sites import SiteBody, SiteOut
from hodcarrier.wire.trends import TrendFigure, TrendOut
from hodcarrier.wire.waivers import WaiverBody, WaiverChange, WaiverEffect, WaiverIds, WaiverOut, WaiverPreviewBody, WaiversBody


class Sites(SyncCalls):
    """Calls about sites."""

    def list_sites(
        self, kind: SiteKind | None = None, client: int | None = None, tag: str = "", owner: int | None = None, text: str = ""
    ) -> list[SiteOut]:
        """Sites, own ones and competitors."""
        found: list[SiteOut] = self._call(
            "list_sites", {}, query={"kind": kind, "client": client, "tag": tag, "owner": owner, "text": text}
        )
        return found

    def add_site(self, body: SiteBody) -> SiteOut:
        """Add a site; a start URL is enough."""
        found: SiteOut = self._call("add_site", {}, body=body)
        return found

    def get_site(self, site_id: int) -> SiteOut:
        """One site."""
        found: SiteOut = self._call("get_site", {"site_id": site_id})
        return found

    def remove_site(self, site_id: int) -> None:
        """Remove a site and its records."""
        self._call("remove_site", {"site_id": site_id})

    def get_schedule(self, site_id: int) -> ScheduleOut:
        """When a site is audited."""
        found: ScheduleOut = self._call("get_schedule", {"site_id": site_id})
        return found

    def set_schedule(self, site_id: int, body: ScheduleBody) -> ScheduleOut:
        """Set when a site is audited, and who is told."""
        found: ScheduleOut = self._call("set_schedule", {"site_id": site_id}, body=body)
        return found

    def pause_schedule(self, site_id: int) -> ScheduleOut:
        """Pause a schedule until it is resumed."""
        found: ScheduleOut = self._call("pause_schedule", {"site_id": site_id})
        return found

    def resume_schedule(self, site_id: int) -> ScheduleOut:
        """Resume a schedule; what it missed is not made up for."""
        found: ScheduleOut = self._call("resume_schedule", {"site_id": site_id})
        return found

    def remove_schedule(self, site_id: int) -> None:
        """Stop auditing a site on a schedule."""
        self._call("remove_schedule", {"site_id": site_id})

    def list_remarks(self, site_id: int) -> list[RemarkOut]:
        """Remarks on a site's timeline."""
        found: list[RemarkOut] = self._call("list_remarks", {"site_id": site_id})
        return found

    def add_remark(self, site_id: int, body: RemarkBody) -> RemarkOut:
        """Pin a remark to a day."""
        found: RemarkOut = self._call("add_remark", {"site_id": site_id}, body=body)
        return found

    def remove_remark(self, remark_id: int) -> None:
        """Remove a remark."""
        self._call("remove_remark", {"remark_id": remark_id})

    def list_waivers(self, site_id: int) -> list[WaiverOut]:
        """Waivers of a site, ended ones too."""
        found: list[WaiverOut] = self._call("list_waivers", {"site_id": site_id})
        return found

    def add_waiver(self, site_id: int, body: WaiverBody) -> WaiverOut:
        """Waive a check on a place, a page, a pattern or the site, in the latest run at once."""
        found: WaiverOut = self._call("add_waiver", {"site_id": site_id}, body=body)
        return found

    def add_waivers(self, site_id: int, body: WaiversBody) -> list[WaiverOut]:
        """Make several waivers, all of them or none."""
        found: list[WaiverOut] = self._call("add_waivers", {"site_id": site_id}, body=body)
        return found

    def preview_waivers(self, site_id: int, body: WaiverPreviewBody) -> WaiverEffect:
        """What waivers would cover in the latest run, and what they would do to its health. Nothing is changed."""
        found: WaiverEffect = self._call("preview_waivers", {"site_id": site_id}, body=body)
        return found

    def change_waiver(self, waiver_id: int, body: WaiverChange) -> WaiverOut:
        """Give a waiver another reason or end."""
        found: WaiverOut = self._call("change_waiver", {"waiver_id": waiver_id}, body=body)
        return found

    def remove_waivers(self, body: WaiverIds) -> None:
        """End several waivers, all of them or none."""
        self._call("remove_waivers", {}, body=body)

    def remove_waiver(self, waiver_id: int) -> None:
        """End a waiver."""
        self._call("remove_waiver", {"waiver_id": waiver_id})

    def list_metrics(self, site_id: int) -> list[MetricRow]:
        """Imported figures of a site."""
        found: list[MetricRow] = self._call("list_metrics", {"site_id": site_id})
        return found

    def export_trend(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        figure: str = "health",
        start: date | None = None,
        end: date | None = None,
        every: Every = Every.RUN,
    ) -> bytes:
        """A figure of a site over time as a table, with what explains it."""
        found: bytes = self._call(
            "export_trend",
            {"site_id": site_id},
            query={"form": form, "figure": figure, "start": start, "end": end, "every": every},
        )
        return found

    def list_trend_figures(self, site_id: int) -> list[TrendFigure]:
        """The figures from outside that a site has, to be followed over time."""
        found: list[TrendFigure] = self._call("list_trend_figures", {"site_id": site_id})
        return found

    def get_trend(
        self, site_id: int, figure: str = "health", start: date | None = None, end: date | None = None, every: Every = Every.RUN
    ) -> TrendOut:
        """A figure of a site over its runs, or by week or month."""
        found: TrendOut = self._call(
            "get_trend", {"site_id": site_id}, query={"figure": figure, "start": start, "end": end, "every": every}
        )
        return found


class AsyncSites(AsyncCalls):
    """Calls about sites."""

    async def list_sites(
        self, kind: SiteKind | None = None, client: int | None = None, tag: str = "", owner: int | None = None, text: str = ""
    ) -> list[SiteOut]:
        """Sites, own ones and competitors."""
        found: list[SiteOut] = await self._call(
            "list_sites", {}, query={"kind": kind, "client": client, "tag": tag, "owner": owner, "text": text}
        )
        return found

    async def add_site(self, body: SiteBody) -> SiteOut:
        """Add a site; a start URL is enough."""
        found: SiteOut = await self._call("add_site", {}, body=body)
        return found

    async def get_site(self, site_id: int) -> SiteOut:
        """One site."""
        found: SiteOut = await self._call("get_site", {"site_id": site_id})
        return found

    async def remove_site(self, site_id: int) -> None:
        """Remove a site and its records."""
        await self._call("remove_site", {"site_id": site_id})

    async def get_schedule(self, site_id: int) -> ScheduleOut:
        """When a site is audited."""
        found: ScheduleOut = await self._call("get_schedule", {"site_id": site_id})
        return found

    async def set_schedule(self, site_id: int, body: ScheduleBody) -> ScheduleOut:
        """Set when a site is audited, and who is told."""
        found: ScheduleOut = await self._call("set_schedule", {"site_id": site_id}, body=body)
        return found

    async def pause_schedule(self, site_id: int) -> ScheduleOut:
        """Pause a schedule until it is resumed."""
        found: ScheduleOut = await self._call("pause_schedule", {"site_id": site_id})
        return found

    async def resume_schedule(self, site_id: int) -> ScheduleOut:
        """Resume a schedule; what it missed is not made up for."""
        found: ScheduleOut = await self._call("resume_schedule", {"site_id": site_id})
        return found

    async def remove_schedule(self, site_id: int) -> None:
        """Stop auditing a site on a schedule."""
        await self._call("remove_schedule", {"site_id": site_id})

    async def list_remarks(self, site_id: int) -> list[RemarkOut]:
        """Remarks on a site's timeline."""
        found: list[RemarkOut] = await self._call("list_remarks", {"site_id": site_id})
        return found

    async def add_remark(self, site_id: int, body: RemarkBody) -> RemarkOut:
        """Pin a remark to a day."""
        found: RemarkOut = await self._call("add_remark", {"site_id": site_id}, body=body)
        return found

    async def remove_remark(self, remark_id: int) -> None:
        """Remove a remark."""
        await self._call("remove_remark", {"remark_id": remark_id})

    async def list_waivers(self, site_id: int) -> list[WaiverOut]:
        """Waivers of a site, ended ones too."""
        found: list[WaiverOut] = await self._call("list_waivers", {"site_id": site_id})
        return found

    async def add_waiver(self, site_id: int, body: WaiverBody) -> WaiverOut:
        """Waive a check on a place, a page, a pattern or the site, in the latest run at once."""
        found: WaiverOut = await self._call("add_waiver", {"site_id": site_id}, body=body)
        return found

    async def add_waivers(self, site_id: int, body: WaiversBody) -> list[WaiverOut]:
        """Make several waivers, all of them or none."""
        found: list[WaiverOut] = await self._call("add_waivers", {"site_id": site_id}, body=body)
        return found

    async def preview_waivers(self, site_id: int, body: WaiverPreviewBody) -> WaiverEffect:
        """What waivers would cover in the latest run, and what they would do to its health. Nothing is changed."""
        found: WaiverEffect = await self._call("preview_waivers", {"site_id": site_id}, body=body)
        return found

    async def change_waiver(self, waiver_id: int, body: WaiverChange) -> WaiverOut:
        """Give a waiver another reason or end."""
        found: WaiverOut = await self._call("change_waiver", {"waiver_id": waiver_id}, body=body)
        return found

    async def remove_waivers(self, body: WaiverIds) -> None:
        """End several waivers, all of them or none."""
        await self._call("remove_waivers", {}, body=body)

    async def remove_waiver(self, waiver_id: int) -> None:
        """End a waiver."""
        await self._call("remove_waiver", {"waiver_id": waiver_id})

    async def list_metrics(self, site_id: int) -> list[MetricRow]:
        """Imported figures of a site."""
        found: list[MetricRow] = await self._call("list_metrics", {"site_id": site_id})
        return found

    async def export_trend(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        figure: str = "health",
        start: date | None = None,
        end: date | None = None,
        every: Every = Every.RUN,
    ) -> bytes:
        """A figure of a site over time as a table, with what explains it."""
        found: bytes = await self._call(
            "export_trend",
            {"site_id": site_id},
            query={"form": form, "figure": figure, "start": start, "end": end, "every": every},
        )
        return found

    async def list_trend_figures(self, site_id: int) -> list[TrendFigure]:
        """The figures from outside that a site has, to be followed over time."""
        found: list[TrendFigure] = await self._call("list_trend_figures", {"site_id": site_id})
        return found

    async def get_trend(
        self, site_id: int, figure: str = "health", start: date | None = None, end: date | None = None, every: Every = Every.RUN
    ) -> TrendOut:
        """A figure of a site over its runs, or by week or month."""
        found: TrendOut = await self._call(
            "get_trend", {"site_id": site_id}, query={"figure": figure, "start": start, "end": end, "every": every}
        )
        return found
