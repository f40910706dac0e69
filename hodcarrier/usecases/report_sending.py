"""Reports on their way to clients: a mail to each recipient, with a link of their own and the report as a PDF."""

from __future__ import annotations

from hodcarrier.core.errors import Conflict
from hodcarrier.core.states import ReportState
from hodcarrier.register.models import Member, Report
from hodcarrier.report.document import draw_pdf
from hodcarrier.report.language import language
from hodcarrier.report.mail import MailItem, MailPart, draw_mail
from hodcarrier.report.values import STORED
from hodcarrier.usecases import outbox
from hodcarrier.usecases.report_links import new_link
from hodcarrier.usecases.reports import approve_report, draw_report, get_report
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.reports import ReportApproval, ReportFull, ReportSending


def send_report(work: Workspace, report_id: int, body: ReportSending, member: Member) -> ReportFull:
    """Send what was approved. Raises :class:`Conflict` when nothing is, or the draft has gone on since."""
    with work.session() as session:
        row = fetch(session, Report, report_id, "report")
        if row.approved_version is None or row.state == ReportState.DRAFT:
            raise Conflict("This report is a draft.", "Approve it first.")
        values, words = STORED.load(row.values), language(row.language)
        subject = body.subject or row.title
        for each in body.recipients:
            link, url = new_link(session, work, row, member.id, each.name, email=each.email, days=body.days)
            opening = body.cover.strip() or words.say(
                "{agency} has made a new report for you: how {host} stands, and what was done.",
                agency=values.agency,
                host=values.host,
            )
            lines = [words.say("This link is for you alone; it is good until {day}.", day=link.expires_at.date())]
            parts = [MailPart(words.say("Your report"), [MailItem(row.title, url, lines)])]
            why = words.say(
                "You get this because {agency} sends its reports to you. The report is attached as a PDF, too.",
                agency=values.agency,
            )
            mail = draw_mail(subject, opening, parts, why, "", row.language)
            outbox.post_one(session, work.now(), None, each.email, mail.subject, mail.text, mail.html, report_id=row.id)
        row.state, row.sent_at = ReportState.SENT, work.now()
        named = ", ".join(each.email for each in body.recipients)
        log(session, work.now(), member.id, "report sent", f"{row.title}, to {named}")
    return get_report(work, report_id)


def approve_and_send(work: Workspace, report_id: int, body: ReportApproval, version: int | None, member: Member) -> ReportFull:
    """Approve a report, and send it to whom its schedule names. Raises :class:`Conflict` when none does."""
    if not body.send:
        return approve_report(work, report_id, version, member)
    planned = get_report(work, report_id).planned
    if planned is None:
        raise Conflict("No schedule says whom this report goes to.", "Approve it, then send it to somebody by name.")
    approve_report(work, report_id, version, member)
    return send_report(work, report_id, planned, member)


def enclosure(work: Workspace, report_id: int) -> tuple[str, bytes]:
    """The PDF that goes with a mail: its name and what was approved."""
    report, found = draw_report(work, report_id, for_client=True)
    return f"{report.site_host}-{report.to_day}.pdf", draw_pdf(found)
