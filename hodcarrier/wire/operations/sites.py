"""Operations on sites and the notes on them: schedules, remarks, waivers, metrics, trends."""

from datetime import date

from hodcarrier.core.states import Every, SiteKind, TableForm
from hodcarrier.wire.metrics import MetricRow
from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.remarks import RemarkBody, RemarkOut
from hodcarrier.wire.schedules import ScheduleBody, ScheduleOut
from hodcarrier.wire.sites import SiteBody, SiteOut
from hodcarrier.wire.trends import TrendFigure, TrendOut
from hodcarrier.wire.waivers import WaiverBody, WaiverChange, WaiverEffect, WaiverIds, WaiverOut, WaiverPreviewBody, WaiversBody

SITE = "/sites/{site_id}"
OPERATIONS = (
    Operation(
        "list_sites",
        "GET",
        "/sites",
        "Sites, own ones and competitors.",
        list[SiteOut],
        query=(
            Parameter("kind", SiteKind | None, None),
            Parameter("client", int | None, None),
            Parameter("tag", str, ""),
            Parameter("owner", int | None, None),
            Parameter("text", str, ""),
        ),
    ),
    Operation("add_site", "POST", "/sites", "Add a site; a start URL is enough.", SiteOut, SiteBody, status=201),
    Operation("get_site", "GET", SITE, "One site.", SiteOut),
    Operation("remove_site", "DELETE", SITE, "Remove a site and its records."),
    Operation("get_schedule", "GET", SITE + "/schedule", "When a site is audited.", ScheduleOut),
    Operation(
        "set_schedule", "PUT", SITE + "/schedule", "Set when a site is audited, and who is told.", ScheduleOut, ScheduleBody
    ),
    Operation("pause_schedule", "POST", SITE + "/schedule/pause", "Pause a schedule until it is resumed.", ScheduleOut),
    Operation(
        "resume_schedule", "POST", SITE + "/schedule/resume", "Resume a schedule; what it missed is not made up for.", ScheduleOut
    ),
    Operation("remove_schedule", "DELETE", SITE + "/schedule", "Stop auditing a site on a schedule."),
    Operation("list_remarks", "GET", SITE + "/remarks", "Remarks on a site's timeline.", list[RemarkOut]),
    Operation("add_remark", "POST", SITE + "/remarks", "Pin a remark to a day.", RemarkOut, RemarkBody, status=201),
    Operation("remove_remark", "DELETE", "/remarks/{remark_id}", "Remove a remark."),
    Operation("list_waivers", "GET", SITE + "/waivers", "Waivers of a site, ended ones too.", list[WaiverOut]),
    Operation(
        "add_waiver",
        "POST",
        SITE + "/waivers",
        "Waive a check on a place, a page, a pattern or the site, in the latest run at once.",
        WaiverOut,
        WaiverBody,
        status=201,
        console_only=True,
    ),
    Operation(
        "add_waivers",
        "POST",
        SITE + "/waivers/all",
        "Make several waivers, all of them or none.",
        list[WaiverOut],
        WaiversBody,
        status=201,
    ),
    Operation(
        "preview_waivers",
        "POST",
        SITE + "/waivers/preview",
        "What waivers would cover in the latest run, and what they would do to its health. Nothing is changed.",
        WaiverEffect,
        WaiverPreviewBody,
    ),
    Operation("change_waiver", "PATCH", "/waivers/{waiver_id}", "Give a waiver another reason or end.", WaiverOut, WaiverChange),
    Operation("remove_waivers", "POST", "/waivers/remove", "End several waivers, all of them or none.", None, WaiverIds),
    Operation("remove_waiver", "DELETE", "/waivers/{waiver_id}", "End a waiver.", console_only=True),
    Operation("list_metrics", "GET", SITE + "/metrics", "Imported figures of a site.", list[MetricRow]),
    Operation(
        "export_trend",
        "GET",
        SITE + "/trend/export",
        "A figure of a site over time as a table, with what explains it.",
        bytes,
        query=(
            Parameter("form", TableForm, TableForm.CSV),
            Parameter("figure", str, "health"),
            Parameter("start", date | None, None, wire="from"),
            Parameter("end", date | None, None, wire="to"),
            Parameter("every", Every, Every.RUN),
        ),
    ),
    Operation(
        "list_trend_figures",
        "GET",
        SITE + "/trend-figures",
        "The figures from outside that a site has, to be followed over time.",
        list[TrendFigure],
    ),
    Operation(
        "get_trend",
        "GET",
        SITE + "/trend",
        "A figure of a site over its runs, or by week or month.",
        TrendOut,
        query=(
            Parameter("figure", str, "health"),
            Parameter("start", date | None, None, wire="from"),
            Parameter("end", date | None, None, wire="to"),
            Parameter("every", Every, Every.RUN),
        ),
    ),
)
