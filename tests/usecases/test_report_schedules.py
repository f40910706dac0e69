"""Reports that are made by themselves, and how they look."""

from __future__ import annotations

import base64
from datetime import UTC, date, datetime, timedelta

import pytest

from hodcarrier.core.errors import Conflict, InvalidInput, InvalidSchedule, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import ReportState, SiteKind, TodoState, Typeface
from hodcarrier.register.models import Member
from hodcarrier.report.document import draw_html
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import (
    brands,
    clients,
    members,
    portals,
    report_schedules,
    report_sending,
    report_templates,
    reports,
    sites,
    todo_changes,
    todos,
)
from hodcarrier.wire.brands import BrandBody
from hodcarrier.wire.clients import ClientChange
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.reports import (
    ReportApproval,
    ReportScheduleBody,
    ReportScheduleChange,
    ReportScheduleOut,
    ReportSection,
    ReportTemplateBody,
)
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody, TodoChange
from tests.report.test_documents import SVG, png
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person
from tests.usecases.test_reports import AGENCY, ROSA, SHOP, make

DUE = datetime(2026, 12, 1, 8, 0, tzinfo=UTC)


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


def schedule(office: Office, imke: Member, **more: object) -> ReportScheduleOut:
    body = {"site_id": office.site.id, "zone": "Europe/London", "recipients": [ROSA], "owner_id": imke.id, **more}
    return report_schedules.add_report_schedule(office.at(START), ReportScheduleBody.model_validate(body), imke)


def test_a_months_report_is_made_approved_mailed_and_opened(office: Office, imke: Member) -> None:
    office.audit(START, SHOP)
    made = schedule(office, imke)
    assert (made.words, made.next_due_at) == ("on the first working day after each month at 08:00 (Europe/London)", DUE)
    assert report_schedules.make_due_reports(office.at(DUE - timedelta(minutes=1)), AGENCY) == []
    (number,) = report_schedules.make_due_reports(office.at(DUE), AGENCY)
    report = reports.get_report(office.work, number)
    assert (report.from_day, report.to_day, report.state) == (date(2026, 11, 1), date(2026, 11, 30), ReportState.DRAFT)
    assert report.planned is not None and report.planned.recipients == [ROSA]
    assert report_schedules.make_due_reports(office.at(DUE), AGENCY) == [], "once"
    deliver_due(office.at(DUE), office.mail)
    to, subject, text = office.mail.sent[-1]
    assert (to, subject) == ("imke@agency.example", "To approve: Rope & Sail: November 2026")
    assert f"https://desk.example/reports/{number}" in text and "Rosa Penhallow" in text
    sent = report_sending.approve_and_send(office.at(DUE), number, ReportApproval(send=True), 1, imke)
    assert sent.state == ReportState.SENT
    deliver_due(office.at(DUE), office.mail)
    assert office.mail.sent[-1][0] == ROSA.email and len(office.mail.enclosed) == 1
    (still,) = report_schedules.list_report_schedules(office.work)
    assert still.next_due_at == datetime(2027, 1, 1, 8, tzinfo=UTC)


def test_of_the_reports_that_were_missed_the_latest_is_made(office: Office, imke: Member) -> None:
    office.audit(START, SHOP)
    schedule(office, imke)
    late = office.at(datetime(2027, 2, 1, 7, 59, tzinfo=UTC))
    (number,) = report_schedules.make_due_reports(late, AGENCY)
    report = reports.get_report(office.work, number)
    assert (report.from_day, report.to_day) == (date(2026, 12, 1), date(2026, 12, 31)), "January is not due for a minute"
    assert report_schedules.make_due_reports(late, AGENCY) == []


def test_what_cannot_be_made_says_why_and_is_tried_again(office: Office, imke: Member) -> None:
    other = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/"), None)
    schedule(office, imke)
    schedule(office, imke, site_id=other.id)
    office.audit(START, SHOP)
    assert len(report_schedules.make_due_reports(office.at(DUE), AGENCY)) == 1, "one failure stops nothing else"
    troubles = {each.site_host: each.trouble for each in report_schedules.list_report_schedules(office.work)}
    assert troubles["shop.example"] == "" and troubles["other.example"].startswith("other.example had no finished run by")
    again = next(each for each in report_schedules.list_report_schedules(office.work) if each.site_host == "other.example")
    assert again.next_due_at == DUE


def test_a_template_that_was_removed_is_told(office: Office, imke: Member) -> None:
    office.audit(START, SHOP)
    body = ReportTemplateBody(name="Board", sections=[ReportSection.model_validate({"kind": "health"})])
    mine = report_templates.add_report_template(office.work, body, imke)
    schedule(office, imke, template=mine.id)
    report_templates.remove_report_template(office.work, int(mine.id), imke)
    assert report_schedules.make_due_reports(office.at(DUE), AGENCY) == []
    (told,) = report_schedules.list_report_schedules(office.work)
    assert "no report template" in told.trouble and told.template_name == "a template that was removed"


def test_a_schedule_is_changed_paused_and_removed(office: Office, imke: Member) -> None:
    office.audit(START, SHOP)
    made = schedule(office, imke)
    with pytest.raises(Conflict, match="a schedule for this site"):
        schedule(office, imke)
    change = ReportScheduleChange(working_day=3, at="09:30")
    assert report_schedules.change_report_schedule(office.at(START), made.id, change, imke).next_due_at == datetime(
        2026, 11, 4, 9, 30, tzinfo=UTC
    ), "the third working day after October is still to come"
    paused = report_schedules.change_report_schedule(office.at(START), made.id, ReportScheduleChange(paused=True), imke)
    assert paused.next_due_at is None and paused.paused_at == START
    assert report_schedules.make_due_reports(office.at(DUE + timedelta(days=5)), AGENCY) == []
    on = report_schedules.change_report_schedule(
        office.at(DUE + timedelta(days=5)), made.id, ReportScheduleChange(paused=False), imke
    )
    assert on.next_due_at == datetime(2027, 1, 5, 9, 30, tzinfo=UTC), "what was missed while it was paused is not made up for"
    report_schedules.remove_report_schedule(office.work, made.id, imke)
    assert report_schedules.list_report_schedules(office.work) == []


def test_holidays_of_the_client_are_no_working_days(office: Office, imke: Member) -> None:
    clients.change_client(office.work, office.site.client_id, ClientChange(holidays=[date(2026, 12, 1)]), imke)
    assert schedule(office, imke).next_due_at == DUE + timedelta(days=1)


@pytest.mark.parametrize("more", [{"zone": "Atlantis/Harbour"}, {"at": "noon"}])
def test_a_time_that_is_none_is_refused(office: Office, imke: Member, more: dict[str, str]) -> None:
    with pytest.raises(InvalidSchedule):
        schedule(office, imke, **more)


def test_competitors_get_no_reports(office: Office, imke: Member) -> None:
    body = SiteBody(client_id=office.site.client_id, address="https://rival.example/", kind=SiteKind.COMPETITOR)
    rival = sites.add_site(office.work, body, None)
    with pytest.raises(InvalidInput, match="is a competitor"):
        schedule(office, imke, site_id=rival.id)


def base64_of(content: bytes) -> str:
    return base64.b64encode(content).decode()


def test_reports_have_the_marks_of_both(office: Office, imke: Member) -> None:
    office.audit(START, SHOP)
    brand = BrandBody(colour="#ABCDEF", typeface=Typeface.SERIF, footer="Rigging since 2011", logo=base64_of(SVG))
    agency = brands.set_brand(office.work, brand, imke)
    assert (agency.colour, agency.has_logo) == ("#abcdef", True)
    assert agency.remarks and agency.line_colour != "#abcdef", "a pale colour is made darker for lines, and that is said"
    brands.set_client_brand(office.work, office.site.client_id, BrandBody(logo=base64_of(png())), imke)
    made = make(office)
    _, drawn = reports.draw_report(office.work, made.id)
    assert drawn.marks.agency is not None and drawn.marks.agency.media == "image/svg+xml"
    assert drawn.marks.client is not None and drawn.marks.client.media == "image/png"
    assert drawn.foot == "Rigging since 2011" and drawn.family == "serif" and drawn.colour == "#abcdef"
    brands.set_client_brand(office.work, office.site.client_id, BrandBody(colour="#0d5c5f", logo=""), imke)
    assert reports.draw_report(office.work, made.id)[1] == drawn, "a report keeps the marks it was made with"
    assert "data:image/png" in draw_html(drawn)
    with pytest.raises(NotFound, match="no logo"):
        brands.read_logo(office.work, office.site.client_id)
    with pytest.raises(InvalidInput, match="are the agency's"):
        brands.set_client_brand(office.work, office.site.client_id, BrandBody(footer="x"), imke)


def svg(inside: str, attributes: str = "") -> bytes:
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" {attributes}>{inside}</svg>'.encode()
    )


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"GIF89a", "neither an SVG nor a PNG"),
        (b"<svg", "neither an SVG nor a PNG"),
        (b"<html/>", "no SVG"),
        (svg("<script>1</script>"), "a script element"),
        (svg("<foreignObject/>"), "a foreignObject element"),
        (svg("", 'onload="x()"'), "a script \\(onload\\)"),
        (svg('<image xlink:href="http://a.example/x.png"/>'), "refers to another file"),
        (svg('<use href="file:///etc/passwd"/>'), "refers to another file"),
        (b'<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>', "neither an SVG nor a PNG"),
    ],
)
def test_a_logo_that_could_do_harm_is_refused(office: Office, imke: Member, content: bytes, said: str) -> None:
    with pytest.raises(InvalidInput, match=said):
        brands.set_brand(office.work, BrandBody(logo=base64_of(content)), imke)


def test_a_logo_may_refer_to_its_own_parts(office: Office, imke: Member) -> None:
    fine = svg('<path id="a" d="M0 0h1"/><use href="#a"/>')
    assert brands.set_brand(office.work, BrandBody(logo=base64_of(fine)), imke).has_logo


def test_the_portal_has_what_is_theirs_and_nothing_else(office: Office, imke: Member) -> None:
    clients.change_client(office.work, office.site.client_id, ClientChange(approves=True), imke)
    office.audit(START, SHOP)
    office.audit(START + timedelta(days=7), SHOP)
    draft, approved = make(office), make(office, title="For you")
    reports.approve_report(office.work, approved.id, 1, imke)
    todo = todos.add_todo(office.work, TodoBody(site_id=office.site.id, title="Ring them"), imke)
    dropped = todos.add_todo(office.work, TodoBody(site_id=office.site.id, title="Not this"), imke)
    todo_changes.change_todo(office.work, dropped.id, TodoChange(state=TodoState.DROPPED, drop_reason="x"), None, imke)
    guest = MemberBody(
        name="Rosa", email="rosa@rope.example", role=Role.GUEST, password="long enough words", client_id=office.site.client_id
    )
    members.add_member(office.work, guest)
    shown = portals.get_portal(office.at(START + timedelta(days=8)), office.site.client_id, AGENCY)
    assert [r.title for r in shown.reports] == ["For you"] and draft.id not in {r.id for r in shown.reports}
    assert [a.todo_id for a in shown.approvals] == [todo.id]
    assert [w.title for w in shown.hand] == ["Ring them"] and shown.done == []
    (site,) = shown.sites
    assert site.host == "shop.example" and len(site.trend.points) == 2 and site.change == 0.0
