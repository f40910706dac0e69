"""Reports, and the portal of clients."""

from __future__ import annotations

import io
from urllib.parse import quote

from fastapi import APIRouter
from fastapi.responses import Response

from hodcarrier.report.document import draw_html, draw_pdf
from hodcarrier.report.drawn import Logo
from hodcarrier.report.tables_book import write_tables
from hodcarrier.report.word_file import draw_docx
from hodcarrier.service.deps import Configured, Version, Work, version_of
from hodcarrier.service.guard import Asker, Granted, serves
from hodcarrier.usecases import (
    brands,
    portals,
    report_links,
    report_schedules,
    report_sending,
    report_templates,
    reports,
)
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

router = APIRouter()
HIDDEN = {"X-Robots-Tag": "noindex, nofollow"}
# A report is read, not run: its styles and pictures are inside it.
READ_ONLY = {
    **HIDDEN,
    "Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src data:; frame-ancestors 'self'",
}
WORD = "application/vnd.openxmlformats-officedocument.wordprocessingml.document"
WORKBOOK = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def saved(content: bytes, media: str, name: str) -> Response:
    """A document under a name."""
    kind = "inline" if media == "application/pdf" else "attachment"
    return Response(
        content, media_type=media, headers={**HIDDEN, "Content-Disposition": f"{kind}; filename*=UTF-8''{quote(name)}"}
    )


@serves(router, "get_report_offer")
def get_report_offer() -> ReportOffer:
    return report_templates.report_offer()


@serves(router, "list_report_templates")
def list_report_templates(work: Work) -> list[ReportTemplateOut]:
    return report_templates.list_report_templates(work)


@serves(router, "add_report_template")
def add_report_template(body: ReportTemplateBody, work: Work, member: Asker) -> ReportTemplateOut:
    return report_templates.add_report_template(work, body, member)


@serves(router, "replace_report_template")
def replace_report_template(
    template_id: int, body: ReportTemplateBody, work: Work, member: Asker, version: Version = None
) -> ReportTemplateOut:
    return report_templates.replace_report_template(work, template_id, body, version_of(version), member)


@serves(router, "remove_report_template")
def remove_report_template(template_id: int, work: Work, member: Asker) -> None:
    report_templates.remove_report_template(work, template_id, member)


@serves(router, "try_report_template")
def try_report_template(body: ReportTrial, work: Work, settings: Configured) -> Response:
    return Response(draw_html(reports.try_sections(work, body, settings.agency)), media_type="text/html", headers=READ_ONLY)


@serves(router, "list_reports")
def list_reports(work: Work, grant: Granted, site_id: int | None = None) -> list[ReportOut]:
    return reports.list_reports(work, grant.only_client, for_client=grant.only_client is not None, site_id=site_id)


@serves(router, "add_report")
def add_report(body: ReportBody, work: Work, member: Asker, settings: Configured) -> ReportFull:
    return reports.add_report(work, body, member, settings.agency)


@serves(router, "get_report")
def get_report(report_id: int, work: Work) -> ReportFull:
    return reports.get_report(work, report_id)


@serves(router, "change_report")
def change_report(
    report_id: int, body: ReportChange, work: Work, member: Asker, settings: Configured, version: Version = None
) -> ReportFull:
    return reports.change_report(work, report_id, body, version_of(version), member, settings.agency)


@serves(router, "preview_report")
def preview_report(report_id: int, body: ReportChange, work: Work, settings: Configured) -> Response:
    return Response(
        draw_html(reports.preview_report(work, report_id, body, settings.agency)), media_type="text/html", headers=READ_ONLY
    )


@serves(router, "refresh_report")
def refresh_report(report_id: int, work: Work, member: Asker, settings: Configured) -> ReportFull:
    return reports.refresh_report(work, report_id, member, settings.agency)


@serves(router, "restore_report")
def restore_report(report_id: int, number: int, work: Work, member: Asker) -> ReportFull:
    return reports.restore_report(work, report_id, number, member)


@serves(router, "approve_report")
def approve_report(report_id: int, body: ReportApproval, work: Work, member: Asker, version: Version = None) -> ReportFull:
    return report_sending.approve_and_send(work, report_id, body, version_of(version), member)


@serves(router, "send_report")
def send_report(report_id: int, body: ReportSending, work: Work, member: Asker) -> ReportFull:
    return report_sending.send_report(work, report_id, body, member)


@serves(router, "remove_report")
def remove_report(report_id: int, work: Work, member: Asker) -> None:
    reports.remove_report(work, report_id, member)


@serves(router, "get_report_page")
def get_report_page(report_id: int, work: Work, grant: Granted, version: int | None = None) -> Response:
    _, drawn = reports.draw_report(work, report_id, version, for_client=grant.only_client is not None)
    return Response(draw_html(drawn), media_type="text/html", headers=READ_ONLY)


@serves(router, "get_report_pdf")
def get_report_pdf(report_id: int, work: Work, grant: Granted, version: int | None = None) -> Response:
    report, drawn = reports.draw_report(work, report_id, version, for_client=grant.only_client is not None)
    return saved(draw_pdf(drawn), "application/pdf", f"{report.site_host}-{report.to_day}.pdf")


@serves(router, "get_report_docx")
def get_report_docx(report_id: int, work: Work, grant: Granted, version: int | None = None) -> Response:
    report, drawn = reports.draw_report(work, report_id, version, for_client=grant.only_client is not None)
    return saved(draw_docx(drawn), WORD, f"{report.site_host}-{report.to_day}.docx")


@serves(router, "get_report_xlsx")
def get_report_xlsx(report_id: int, work: Work, grant: Granted, version: int | None = None) -> Response:
    report, drawn = reports.draw_report(work, report_id, version, for_client=grant.only_client is not None)
    out = io.BytesIO()
    write_tables(out, drawn)
    return saved(out.getvalue(), WORKBOOK, f"{report.site_host}-{report.to_day}.xlsx")


@serves(router, "list_report_links")
def list_report_links(report_id: int, work: Work) -> list[ReportLinkOut]:
    return report_links.list_report_links(work, report_id)


@serves(router, "add_report_link")
def add_report_link(report_id: int, body: ReportLinkBody, work: Work, member: Asker) -> ReportLinkOut:
    return report_links.add_report_link(work, report_id, body, member)


@serves(router, "prolong_report_link")
def prolong_report_link(report_id: int, link_id: int, body: ReportLinkChange, work: Work, member: Asker) -> ReportLinkOut:
    return report_links.prolong_report_link(work, report_id, link_id, body, member)


@serves(router, "revoke_report_link")
def revoke_report_link(report_id: int, link_id: int, work: Work, member: Asker) -> None:
    report_links.revoke_report_link(work, report_id, link_id, member)


@serves(router, "list_report_schedules")
def list_report_schedules(work: Work, client_id: int | None = None) -> list[ReportScheduleOut]:
    return report_schedules.list_report_schedules(work, client_id)


@serves(router, "add_report_schedule")
def add_report_schedule(body: ReportScheduleBody, work: Work, member: Asker) -> ReportScheduleOut:
    return report_schedules.add_report_schedule(work, body, member)


@serves(router, "change_report_schedule")
def change_report_schedule(schedule_id: int, body: ReportScheduleChange, work: Work, member: Asker) -> ReportScheduleOut:
    return report_schedules.change_report_schedule(work, schedule_id, body, member)


@serves(router, "remove_report_schedule")
def remove_report_schedule(schedule_id: int, work: Work, member: Asker) -> None:
    report_schedules.remove_report_schedule(work, schedule_id, member)


@serves(router, "get_brand")
def get_brand(work: Work) -> BrandOut:
    return brands.get_brand(work)


@serves(router, "set_brand")
def set_brand(body: BrandBody, work: Work, member: Asker) -> BrandOut:
    return brands.set_brand(work, body, member)


@serves(router, "get_logo")
def get_logo(work: Work) -> Response:
    return _logo(brands.read_logo(work, None))


@serves(router, "get_client_brand")
def get_client_brand(client_id: int, work: Work) -> BrandOut:
    return brands.get_client_brand(work, client_id)


@serves(router, "set_client_brand")
def set_client_brand(client_id: int, body: BrandBody, work: Work, member: Asker) -> BrandOut:
    return brands.set_client_brand(work, client_id, body, member)


@serves(router, "get_client_logo")
def get_client_logo(client_id: int, work: Work) -> Response:
    return _logo(brands.read_logo(work, client_id))


def _logo(found: Logo) -> Response:
    """A logo: an SVG is opened as a picture, without scripts and without anything from elsewhere."""
    headers = {"Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'; sandbox"}
    return Response(found.content, media_type=found.media, headers=headers)


@serves(router, "get_portal")
def get_portal(client_id: int, work: Work, settings: Configured) -> PortalOut:
    return portals.get_portal(work, client_id, settings.agency)
