"""Calls about reports, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.brands import BrandBody, BrandOut
from hodcarrier.wire.portals import PortalOut
from hodcarrier.wire.reports import (
    ReportApproval,
    ReportBody,
    ReportChange,
    ReportFull,
    ReportLinkBody,
    ReportLinkChange,
    ReportLinkOut,
    ReportOffer,
    ReportOut,
    ReportScheduleBody,
    ReportScheduleChange,
    ReportScheduleOut,
    ReportSending,
    ReportTemplateBody,
    ReportTemplateOut,
    ReportTrial,
)


class Reports(SyncCalls):
    """Calls about reports."""

    def get_report_offer(self) -> ReportOffer:
        """What reports can be made of: sections, and languages."""
        found: ReportOffer = self._call("get_report_offer", {})
        return found

    def list_report_templates(self) -> list[ReportTemplateOut]:
        """Templates of reports, those that ship first."""
        found: list[ReportTemplateOut] = self._call("list_report_templates", {})
        return found

    def add_report_template(self, body: ReportTemplateBody) -> ReportTemplateOut:
        """Add a template."""
        found: ReportTemplateOut = self._call("add_report_template", {}, body=body)
        return found

    def replace_report_template(
        self, template_id: int, body: ReportTemplateBody, version: int | None = None
    ) -> ReportTemplateOut:
        """Change a template of the agency; reports that were begun from it stay as they are."""
        found: ReportTemplateOut = self._call("replace_report_template", {"template_id": template_id}, version=version, body=body)
        return found

    def remove_report_template(self, template_id: int) -> None:
        """Remove a template of the agency."""
        self._call("remove_report_template", {"template_id": template_id})

    def try_report_template(self, body: ReportTrial) -> bytes:
        """What a report of last month would be with some sections, as a web page; nothing is kept."""
        found: bytes = self._call("try_report_template", {}, body=body)
        return found

    def list_reports(self, site_id: int | None = None) -> list[ReportOut]:
        """Reports, the latest first; guests see what was approved of those of their client."""
        found: list[ReportOut] = self._call("list_reports", {}, query={"site_id": site_id})
        return found

    def add_report(self, body: ReportBody) -> ReportFull:
        """Make a report over a span of days, as a draft."""
        found: ReportFull = self._call("add_report", {}, body=body)
        return found

    def get_report(self, report_id: int) -> ReportFull:
        """A report with its sections, versions and share links."""
        found: ReportFull = self._call("get_report", {"report_id": report_id})
        return found

    def change_report(self, report_id: int, body: ReportChange, version: int | None = None) -> ReportFull:
        """Change a report. One that was approved becomes a draft again; clients go on seeing what was approved."""
        found: ReportFull = self._call("change_report", {"report_id": report_id}, version=version, body=body)
        return found

    def preview_report(self, report_id: int, body: ReportChange) -> bytes:
        """A report as a web page, as it would be after changes, which are not kept."""
        found: bytes = self._call("preview_report", {"report_id": report_id}, body=body)
        return found

    def refresh_report(self, report_id: int) -> ReportFull:
        """Gather the figures of a report again."""
        found: ReportFull = self._call("refresh_report", {"report_id": report_id})
        return found

    def restore_report(self, report_id: int, number: int) -> ReportFull:
        """Go back to an earlier version, as a new one."""
        found: ReportFull = self._call("restore_report", {"report_id": report_id, "number": number})
        return found

    def approve_report(self, report_id: int, body: ReportApproval, version: int | None = None) -> ReportFull:
        """Approve a report as it stands: from now on this is what clients see."""
        found: ReportFull = self._call("approve_report", {"report_id": report_id}, version=version, body=body)
        return found

    def send_report(self, report_id: int, body: ReportSending) -> ReportFull:
        """Send what was approved by mail, each recipient with a link of their own and the PDF."""
        found: ReportFull = self._call("send_report", {"report_id": report_id}, body=body)
        return found

    def remove_report(self, report_id: int) -> None:
        """Remove a report with its versions and share links."""
        self._call("remove_report", {"report_id": report_id})

    def get_report_page(self, report_id: int, version: int | None = None) -> bytes:
        """A report as a web page; guests get what was approved."""
        found: bytes = self._call("get_report_page", {"report_id": report_id}, query={"version": version})
        return found

    def get_report_pdf(self, report_id: int, version: int | None = None) -> bytes:
        """A report as a tagged PDF."""
        found: bytes = self._call("get_report_pdf", {"report_id": report_id}, query={"version": version})
        return found

    def get_report_docx(self, report_id: int, version: int | None = None) -> bytes:
        """A report for word processors."""
        found: bytes = self._call("get_report_docx", {"report_id": report_id}, query={"version": version})
        return found

    def get_report_xlsx(self, report_id: int, version: int | None = None) -> bytes:
        """The tables of a report as a workbook."""
        found: bytes = self._call("get_report_xlsx", {"report_id": report_id}, query={"version": version})
        return found

    def list_report_links(self, report_id: int) -> list[ReportLinkOut]:
        """Whom a report was shared with, the latest first."""
        found: list[ReportLinkOut] = self._call("list_report_links", {"report_id": report_id})
        return found

    def add_report_link(self, report_id: int, body: ReportLinkBody) -> ReportLinkOut:
        """Share what was approved with somebody by a link, which is told once."""
        found: ReportLinkOut = self._call("add_report_link", {"report_id": report_id}, body=body)
        return found

    def prolong_report_link(self, report_id: int, link_id: int, body: ReportLinkChange) -> ReportLinkOut:
        """Let a share link be good for so many days from now; also one that has expired."""
        found: ReportLinkOut = self._call("prolong_report_link", {"report_id": report_id, "link_id": link_id}, body=body)
        return found

    def revoke_report_link(self, report_id: int, link_id: int) -> None:
        """End a share link."""
        self._call("revoke_report_link", {"report_id": report_id, "link_id": link_id})

    def list_report_schedules(self, client_id: int | None = None) -> list[ReportScheduleOut]:
        """When reports are made by themselves; those of archived clients when the client is named."""
        found: list[ReportScheduleOut] = self._call("list_report_schedules", {}, query={"client_id": client_id})
        return found

    def add_report_schedule(self, body: ReportScheduleBody) -> ReportScheduleOut:
        """Let reports of a site be made by themselves."""
        found: ReportScheduleOut = self._call("add_report_schedule", {}, body=body)
        return found

    def change_report_schedule(self, schedule_id: int, body: ReportScheduleChange) -> ReportScheduleOut:
        """Change a schedule of reports, pause it, or let it go on."""
        found: ReportScheduleOut = self._call("change_report_schedule", {"schedule_id": schedule_id}, body=body)
        return found

    def remove_report_schedule(self, schedule_id: int) -> None:
        """Remove a schedule of reports."""
        self._call("remove_report_schedule", {"schedule_id": schedule_id})

    def get_brand(self) -> BrandOut:
        """How the agency's reports look."""
        found: BrandOut = self._call("get_brand", {})
        return found

    def set_brand(self, body: BrandBody) -> BrandOut:
        """Change how the agency's reports look."""
        found: BrandOut = self._call("set_brand", {}, body=body)
        return found

    def get_logo(self) -> bytes:
        """The logo of the agency."""
        found: bytes = self._call("get_logo", {})
        return found

    def get_client_brand(self, client_id: int) -> BrandOut:
        """How reports for a client look."""
        found: BrandOut = self._call("get_client_brand", {"client_id": client_id})
        return found

    def set_client_brand(self, client_id: int, body: BrandBody) -> BrandOut:
        """Change a client's colour and logo."""
        found: BrandOut = self._call("set_client_brand", {"client_id": client_id}, body=body)
        return found

    def get_client_logo(self, client_id: int) -> bytes:
        """The logo of a client."""
        found: bytes = self._call("get_client_logo", {"client_id": client_id})
        return found

    def get_portal(self, client_id: int) -> PortalOut:
        """A client's own place: reports, health, to-dos that wait for an answer, what was done."""
        found: PortalOut = self._call("get_portal", {"client_id": client_id})
        return found


class AsyncReports(AsyncCalls):
    """Calls about reports."""

    async def get_report_offer(self) -> ReportOffer:
        """What reports can be made of: sections, and languages."""
        found: ReportOffer = await self._call("get_report_offer", {})
        return found

    async def list_report_templates(self) -> list[ReportTemplateOut]:
        """Templates of reports, those that ship first."""
        found: list[ReportTemplateOut] = await self._call("list_report_templates", {})
        return found

    async def add_report_template(self, body: ReportTemplateBody) -> ReportTemplateOut:
        """Add a template."""
        found: ReportTemplateOut = await self._call("add_report_template", {}, body=body)
        return found

    async def replace_report_template(
        self, template_id: int, body: ReportTemplateBody, version: int | None = None
    ) -> ReportTemplateOut:
        """Change a template of the agency; reports that were begun from it stay as they are."""
        found: ReportTemplateOut = await self._call(
            "replace_report_template", {"template_id": template_id}, version=version, body=body
        )
        return found

    async def remove_report_template(self, template_id: int) -> None:
        """Remove a template of the agency."""
        await self._call("remove_report_template", {"template_id": template_id})

    async def try_report_template(self, body: ReportTrial) -> bytes:
        """What a report of last month would be with some sections, as a web page; nothing is kept."""
        found: bytes = await self._call("try_report_template", {}, body=body)
        return found

    async def list_reports(self, site_id: int | None = None) -> list[ReportOut]:
        """Reports, the latest first; guests see what was approved of those of their client."""
        found: list[ReportOut] = await self._call("list_reports", {}, query={"site_id": site_id})
        return found

    async def add_report(self, body: ReportBody) -> ReportFull:
        """Make a report over a span of days, as a draft."""
        found: ReportFull = await self._call("add_report", {}, body=body)
        return found

    async def get_report(self, report_id: int) -> ReportFull:
        """A report with its sections, versions and share links."""
        found: ReportFull = await self._call("get_report", {"report_id": report_id})
        return found

    async def change_report(self, report_id: int, body: ReportChange, version: int | None = None) -> ReportFull:
        """Change a report. One that was approved becomes a draft again; clients go on seeing what was approved."""
        found: ReportFull = await self._call("change_report", {"report_id": report_id}, version=version, body=body)
        return found

    async def preview_report(self, report_id: int, body: ReportChange) -> bytes:
        """A report as a web page, as it would be after changes, which are not kept."""
        found: bytes = await self._call("preview_report", {"report_id": report_id}, body=body)
        return found

    async def refresh_report(self, report_id: int) -> ReportFull:
        """Gather the figures of a report again."""
        found: ReportFull = await self._call("refresh_report", {"report_id": report_id})
        return found

    async def restore_report(self, report_id: int, number: int) -> ReportFull:
        """Go back to an earlier version, as a new one."""
        found: ReportFull = await self._call("restore_report", {"report_id": report_id, "number": number})
        return found

    async def approve_report(self, report_id: int, body: ReportApproval, version: int | None = None) -> ReportFull:
        """Approve a report as it stands: from now on this is what clients see."""
        found: ReportFull = await self._call("approve_report", {"report_id": report_id}, version=version, body=body)
        return found

    async def send_report(self, report_id: int, body: ReportSending) -> ReportFull:
        """Send what was approved by mail, each recipient with a link of their own and the PDF."""
        found: ReportFull = await self._call("send_report", {"report_id": report_id}, body=body)
        return found

    async def remove_report(self, report_id: int) -> None:
        """Remove a report with its versions and share links."""
        await self._call("remove_report", {"report_id": report_id})

    async def get_report_page(self, report_id: int, version: int | None = None) -> bytes:
        """A report as a web page; guests get what was approved."""
        found: bytes = await self._call("get_report_page", {"report_id": report_id}, query={"version": version})
        return found

    async def get_report_pdf(self, report_id: int, version: int | None = None) -> bytes:
        """A report as a tagged PDF."""
        found: bytes = await self._call("get_report_pdf", {"report_id": report_id}, query={"version": version})
        return found

    async def get_report_docx(self, report_id: int, version: int | None = None) -> bytes:
        """A report for word processors."""
        found: bytes = await self._call("get_report_docx", {"report_id": report_id}, query={"version": version})
        return found

    async def get_report_xlsx(self, report_id: int, version: int | None = None) -> bytes:
        """The tables of a report as a workbook."""
        found: bytes = await self._call("get_report_xlsx", {"report_id": report_id}, query={"version": version})
        return found

    async def list_report_links(self, report_id: int) -> list[ReportLinkOut]:
        """Whom a report was shared with, the latest first."""
        found: list[ReportLinkOut] = await self._call("list_report_links", {"report_id": report_id})
        return found

    async def add_report_link(self, report_id: int, body: ReportLinkBody) -> ReportLinkOut:
        """Share what was approved with somebody by a link, which is told once."""
        found: ReportLinkOut = await self._call("add_report_link", {"report_id": report_id}, body=body)
        return found

    async def prolong_report_link(self, report_id: int, link_id: int, body: ReportLinkChange) -> ReportLinkOut:
        """Let a share link be good for so many days from now; also one that has expired."""
        found: ReportLinkOut = await self._call("prolong_report_link", {"report_id": report_id, "link_id": link_id}, body=body)
        return found

    async def revoke_report_link(self, report_id: int, link_id: int) -> None:
        """End a share link."""
        await self._call("revoke_report_link", {"report_id": report_id, "link_id": link_id})

    async def list_report_schedules(self, client_id: int | None = None) -> list[ReportScheduleOut]:
        """When reports are made by themselves; those of archived clients when the client is named."""
        found: list[ReportScheduleOut] = await self._call("list_report_schedules", {}, query={"client_id": client_id})
        return found

    async def add_report_schedule(self, body: ReportScheduleBody) -> ReportScheduleOut:
        """Let reports of a site be made by themselves."""
        found: ReportScheduleOut = await self._call("add_report_schedule", {}, body=body)
        return found

    async def change_report_schedule(self, schedule_id: int, body: ReportScheduleChange) -> ReportScheduleOut:
        """Change a schedule of reports, pause it, or let it go on."""
        found: ReportScheduleOut = await self._call("change_report_schedule", {"schedule_id": schedule_id}, body=body)
        return found

    async def remove_report_schedule(self, schedule_id: int) -> None:
        """Remove a schedule of reports."""
        await self._call("remove_report_schedule", {"schedule_id": schedule_id})

    async def get_brand(self) -> BrandOut:
        """How the agency's reports look."""
        found: BrandOut = await self._call("get_brand", {})
        return found

    async def set_brand(self, body: BrandBody) -> BrandOut:
        """Change how the agency's reports look."""
        found: BrandOut = await self._call("set_brand", {}, body=body)
        return found

    async def get_logo(self) -> bytes:
        """The logo of the agency."""
        found: bytes = await self._call("get_logo", {})
        return found

    async def get_client_brand(self, client_id: int) -> BrandOut:
        """How reports for a client look."""
        found: BrandOut = await self._call("get_client_brand", {"client_id": client_id})
        return found

    async def set_client_brand(self, client_id: int, body: BrandBody) -> BrandOut:
        """Change a client's colour and logo."""
        found: BrandOut = await self._call("set_client_brand", {"client_id": client_id}, body=body)
        return found

    async def get_client_logo(self, client_id: int) -> bytes:
        """The logo of a client."""
        found: bytes = await self._call("get_client_logo", {"client_id": client_id})
        return found

    async def get_portal(self, client_id: int) -> PortalOut:
        """A client's own place: reports, health, to-dos that wait for an answer, what was done."""
        found: PortalOut = await self._call("get_portal", {"client_id": client_id})
        return found
