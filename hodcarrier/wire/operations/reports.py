"""Operations on reports, their templates, schedules, share links and looks, and on the portal of clients."""

from hodcarrier.wire.brands import BrandBody, BrandOut
from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.portals import PortalOut
from hodcarrier.wire.reports import (
    ReportApproval,
    ReportBody,
    ReportChange,
    ReportFull,
    ReportLinkBody,
    ReportLinkOut,
    ReportOffer,
    ReportOut,
    ReportScheduleBody,
    ReportScheduleChange,
    ReportScheduleOut,
    ReportSending,
    ReportTemplateBody,
    ReportTemplateOut,
)

TEMPLATES, REPORT, SCHEDULES = "/report-templates", "/reports/{report_id}", "/report-schedules"
VERSION = (Parameter("version", int | None, None),)
OPERATIONS = (
    Operation(
        "get_report_offer", "GET", "/report-sections", "What reports can be made of: sections, and languages.", ReportOffer
    ),
    Operation("list_report_templates", "GET", TEMPLATES, "Templates of reports, those that ship first.", list[ReportTemplateOut]),
    Operation("add_report_template", "POST", TEMPLATES, "Add a template.", ReportTemplateOut, ReportTemplateBody, status=201),
    Operation(
        "replace_report_template",
        "PUT",
        TEMPLATES + "/{template_id}",
        "Change a template of the agency; reports that were begun from it stay as they are.",
        ReportTemplateOut,
        ReportTemplateBody,
        versioned=True,
    ),
    Operation("remove_report_template", "DELETE", TEMPLATES + "/{template_id}", "Remove a template of the agency."),
    Operation(
        "list_reports",
        "GET",
        "/reports",
        "Reports, the latest first; guests see what was approved of those of their client.",
        list[ReportOut],
        query=(Parameter("site_id", int | None, None),),
    ),
    Operation(
        "add_report", "POST", "/reports", "Make a report over a span of days, as a draft.", ReportFull, ReportBody, status=201
    ),
    Operation("get_report", "GET", REPORT, "A report with its sections, versions and share links.", ReportFull),
    Operation(
        "change_report",
        "PATCH",
        REPORT,
        "Change a report. One that was approved becomes a draft again; clients go on seeing what was approved.",
        ReportFull,
        ReportChange,
        versioned=True,
    ),
    Operation(
        "preview_report",
        "POST",
        REPORT + "/preview",
        "A report as a web page, as it would be after changes, which are not kept.",
        bytes,
        ReportChange,
        console_only=True,
    ),
    Operation("refresh_report", "POST", REPORT + "/refresh", "Gather the figures of a report again.", ReportFull),
    Operation(
        "restore_report",
        "POST",
        REPORT + "/versions/{number}/restore",
        "Go back to an earlier version, as a new one.",
        ReportFull,
    ),
    Operation(
        "approve_report",
        "POST",
        REPORT + "/approval",
        "Approve a report as it stands: from now on this is what clients see.",
        ReportFull,
        ReportApproval,
        versioned=True,
    ),
    Operation(
        "send_report",
        "POST",
        REPORT + "/sendings",
        "Send what was approved by mail, each recipient with a link of their own and the PDF.",
        ReportFull,
        ReportSending,
    ),
    Operation("remove_report", "DELETE", REPORT, "Remove a report with its versions and share links."),
    Operation(
        "get_report_page",
        "GET",
        REPORT + "/html",
        "A report as a web page; guests get what was approved.",
        bytes,
        query=VERSION,
    ),
    Operation("get_report_pdf", "GET", REPORT + "/pdf", "A report as a tagged PDF.", bytes, query=VERSION),
    Operation("get_report_docx", "GET", REPORT + "/docx", "A report for word processors.", bytes, query=VERSION),
    Operation("get_report_xlsx", "GET", REPORT + "/xlsx", "The tables of a report as a workbook.", bytes, query=VERSION),
    Operation(
        "list_report_links", "GET", REPORT + "/links", "Whom a report was shared with, the latest first.", list[ReportLinkOut]
    ),
    Operation(
        "add_report_link",
        "POST",
        REPORT + "/links",
        "Share what was approved with somebody by a link, which is told once.",
        ReportLinkOut,
        ReportLinkBody,
        status=201,
    ),
    Operation("revoke_report_link", "DELETE", REPORT + "/links/{link_id}", "End a share link."),
    Operation(
        "list_report_schedules",
        "GET",
        SCHEDULES,
        "When reports are made by themselves; those of archived clients when the client is named.",
        list[ReportScheduleOut],
        query=(Parameter("client_id", int | None, None),),
    ),
    Operation(
        "add_report_schedule",
        "POST",
        SCHEDULES,
        "Let reports of a site be made by themselves.",
        ReportScheduleOut,
        ReportScheduleBody,
        status=201,
    ),
    Operation(
        "change_report_schedule",
        "PATCH",
        SCHEDULES + "/{schedule_id}",
        "Change a schedule of reports, pause it, or let it go on.",
        ReportScheduleOut,
        ReportScheduleChange,
    ),
    Operation("remove_report_schedule", "DELETE", SCHEDULES + "/{schedule_id}", "Remove a schedule of reports."),
    Operation("get_brand", "GET", "/brand", "How the agency's reports look.", BrandOut),
    Operation("set_brand", "PATCH", "/brand", "Change how the agency's reports look.", BrandOut, BrandBody),
    Operation("get_logo", "GET", "/brand/logo", "The logo of the agency.", bytes),
    Operation("get_client_brand", "GET", "/clients/{client_id}/brand", "How reports for a client look.", BrandOut),
    Operation(
        "set_client_brand", "PATCH", "/clients/{client_id}/brand", "Change a client's colour and logo.", BrandOut, BrandBody
    ),
    Operation("get_client_logo", "GET", "/clients/{client_id}/logo", "The logo of a client.", bytes),
    Operation(
        "get_portal",
        "GET",
        "/clients/{client_id}/portal",
        "A client's own place: reports, health, to-dos that wait for an answer, what was done.",
        PortalOut,
    ),
)
