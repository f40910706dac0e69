"""Reports of the demo: brands, a template of the agency's own, schedules, and what has become of last months' reports."""

from __future__ import annotations

import base64
from collections.abc import Callable, Iterator, Mapping
from datetime import datetime, timedelta

from sqlalchemy import select

from hodcarrier.core.permissions import Role
from hodcarrier.core.reports.days import due_after
from hodcarrier.core.schedule import read_time
from hodcarrier.core.states import ReportState, SectionKind, Typeface
from hodcarrier.register.models import Delivery, Member, Site
from hodcarrier.usecases import brands, report_links, report_schedules, report_sending, report_templates, reports
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.brands import BrandBody
from hodcarrier.wire.reports import (
    Recipient,
    ReportApproval,
    ReportChange,
    ReportScheduleBody,
    ReportScheduleOut,
    ReportSection,
    ReportTemplateBody,
)

# One of them waits for whoever is in charge, so that there is something to approve.
WAITS = "tidewrack.example"
COLOURS = {"tidewrack.example": "#1f4e79", "pellow-kiln.example": "#8a4b2a", "ardmoor-seeds.example": "#3f6b2f"}
BOARD = ReportTemplateBody(
    name="For the board",
    note="What trustees read before their meeting.",
    sections=[
        ReportSection(kind=SectionKind.COVER),
        ReportSection(kind=SectionKind.MONTH, choices={"limit": 4}),
        ReportSection(kind=SectionKind.HEALTH, choices={"months": 12}),
        ReportSection(kind=SectionKind.LAST),
        ReportSection(kind=SectionKind.DONE),
        ReportSection(kind=SectionKind.SEARCH, choices={"limit": 5}),
        ReportSection(kind=SectionKind.BENCHMARK, choices={"limit": 6}),
        ReportSection(kind=SectionKind.NEXT, choices={"limit": 4}),
        ReportSection(kind=SectionKind.GLOSSARY),
    ],
)
NOTE = "The dip in late October came with guides that were moved without a redirect. **It is put right**, and we look at every link before a release now."


def _logo(shape: str, words: str) -> str:
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 220 44" width="220" height="44">'
        f'{shape}<text x="54" y="29" font-family="sans-serif" font-size="17" font-weight="600" fill="#1b2326">{words}</text></svg>'
    )
    return base64.b64encode(svg.encode()).decode()


LOGOS = {
    "agency": _logo('<path d="M8 36h32M10 28h12v6H10zM26 28h12v6H26zM18 20h12v6H18zM24 4l7 10H17z" fill="#0d5c5f" stroke="#0d5c5f"/>', "Cobble &amp; Lantern"),
    "tidewrack.example": _logo('<path d="M6 30c6-8 12-8 18 0s12 8 18 0M6 20c6-8 12-8 18 0s12 8 18 0" fill="none" stroke="#1f4e79" stroke-width="4"/>', "Tidewrack"),
    "pellow-kiln.example": _logo('<path d="M14 38V20a10 12 0 0 1 20 0v18z" fill="#8a4b2a"/><path d="M20 38v-8h8v8z" fill="#fff"/>', "Pellow Kiln"),
    "ardmoor-seeds.example": _logo('<ellipse cx="17" cy="24" rx="7" ry="13" fill="#3f6b2f"/><ellipse cx="33" cy="20" rx="6" ry="11" fill="#9bb58a"/>', "Ardmoor Seeds"),
}  # fmt: skip


def make_reports(
    at: Callable[[datetime], Workspace],
    sites: Mapping[str, int],
    people: Mapping[str, Member],
    begun: datetime,
    now: datetime,
    agency: str,
) -> None:
    """Set up how reports look and when they are made, then let the schedules make those that have fallen due since ``begun``: approved, sent and opened, but for one that
    waits."""
    imke, work = people["Imke"], at(begun)
    brand = BrandBody(
        typeface=Typeface.SANS, footer="Cobble & Lantern · audits, figures and what to do about them", logo=LOGOS["agency"]
    )
    brands.set_brand(work, brand, imke)
    board = report_templates.add_report_template(work, BOARD, imke)
    schedules: list[ReportScheduleOut] = []
    for host, site_id in sites.items():
        if host not in COLOURS:
            continue
        with work.reading() as session:
            client = session.get_one(Site, site_id).client
            guest = session.scalars(select(Member).where(Member.client_id == client.id, Member.role == Role.GUEST)).one()
            client_id, name, email = client.id, guest.name, guest.email
        brands.set_client_brand(work, client_id, BrandBody(colour=COLOURS[host], logo=LOGOS[host]), imke)
        body = ReportScheduleBody(
            site_id=site_id,
            template=board.id if host == "ardmoor-seeds.example" else "monthly",
            zone="Europe/London",
            recipients=[Recipient(name=name, email=email)],
            cover="Here is our report on the last month. Do ring us up if anything in it is unclear.",
        )
        # From now on, as the service has its own eye on what is due: the past is played below, and by nobody else.
        schedules.append(report_schedules.add_report_schedule(at(now), body, imke))
    made = sorted((due, each.id) for each in schedules for due in _dues(each, begun, now))
    for due, schedule_id in made:
        number = report_schedules.make_report(at(due + timedelta(minutes=1)), schedule_id, agency)
        assert number is not None
        is_last = due == max(other for other, of in made if of == schedule_id)
        _see_off(at(min(due + timedelta(hours=3), now)), number, imke, agency, is_last)


def _dues(schedule: ReportScheduleOut, begun: datetime, now: datetime) -> Iterator[datetime]:
    """When a schedule had reports to make between two times."""
    due = begun
    while (due := due_after(schedule.span, schedule.working_day, read_time(schedule.at, "at"), schedule.zone, due)) < now:
        yield due


def _see_off(work: Workspace, number: int, member: Member, agency: str, is_last: bool) -> None:
    """Add a note where there is something to say, approve the report, send it, and let its reader open it."""
    report = reports.get_report(work, number)
    if report.site_host == WAITS:
        sections = [
            each.model_copy(update={"note": NOTE}) if each.kind == SectionKind.HEALTH else each for each in report.sections
        ]
        report = reports.change_report(work, number, ReportChange(sections=sections), report.version, member, agency)
        if is_last:
            return
    sent = report_sending.approve_and_send(work, number, ReportApproval(send=True), report.version, member)
    assert sent.state == ReportState.SENT
    with work.reading() as session:
        text = session.scalars(select(Delivery.text).where(Delivery.report_id == number)).one()
    secret = text.split("/shared/reports/", 1)[1].split()[0]
    report_links.note_seen(work, secret)
