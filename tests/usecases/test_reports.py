"""Reports: made from templates, edited, kept in versions, approved, sent, shared; what clients see of them."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest

from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import DeliveryState, ReportState, SectionKind
from hodcarrier.register.models import Member, Report
from hodcarrier.report.document import draw_html
from hodcarrier.report.values import STORED
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import (
    clients,
    outbox,
    report_links,
    report_sending,
    report_templates,
    reports,
    sites,
    todos,
)
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.clients import ClientBody, ClientChange
from hodcarrier.wire.reports import (
    Recipient,
    ReportApproval,
    ReportBody,
    ReportChange,
    ReportFull,
    ReportLinkBody,
    ReportLinkChange,
    ReportSection,
    ReportSending,
    ReportTemplateBody,
    ReportTrial,
)
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person

AGENCY = "Cobble & Lantern"
NOVEMBER = {"from_day": date(2026, 11, 1), "to_day": date(2026, 11, 30)}
SHOP = [page(doc("<h1>Shop</h1>"))]
NOBODY = Member(id=None, name="")
ROSA = Recipient(name="Rosa Penhallow", email="rosa@rope.example")


def facts_of(work: Workspace, report_id: int, kind: str) -> dict[str, Any]:
    """The facts that a report keeps of its first section of a kind."""
    with work.reading() as session:
        values = STORED.load(session.get_one(Report, report_id).values)
    return next(each.facts for each in values.sections if each.kind == kind)


def make(office: Office, days: int = 0, **more: Any) -> ReportFull:
    body = ReportBody(site_id=office.site.id, **{**NOVEMBER, **more})
    return reports.add_report(office.at(START + timedelta(days=days, hours=1)), body, None, AGENCY)


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


@pytest.fixture
def made(office: Office) -> ReportFull:
    office.audit(START, SHOP)
    return make(office)


def test_a_report_is_a_draft_with_the_sections_of_its_template(office: Office, made: ReportFull) -> None:
    template = next(each for each in report_templates.list_report_templates(office.work) if each.id == "monthly")
    assert (made.state, made.version, made.approved_version) == (ReportState.DRAFT, 1, None)
    assert made.sections == template.sections and made.title == "Rope & Sail: November 2026"
    assert set(made.empty) == {"last", "happened", "search", "visits", "positions", "links", "benchmark", "review"}
    assert [(v.number, v.author, v.what) for v in made.versions] == [(1, "the schedule", "made from Monthly report")]


def test_a_report_lists_its_own_sites_work_alone(office: Office) -> None:
    other = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/"), None)
    office.audit(START, SHOP)
    for site, title in ((office.site, "Ours"), (other, "Theirs")):
        todos.add_todo(office.at(START), TodoBody(site_id=site.id, title=title), None)
    made = make(office)
    assert [item["title"] for item in facts_of(office.work, made.id, "hand")["items"]] == ["Ours"]
    month = facts_of(office.work, made.id, "month")
    assert (month["health_before"], month["compared"]) == (None, False), "one run is compared with none"


def test_without_an_audit_in_its_days_the_last_one_before_is_told_of(office: Office) -> None:
    office.audit(START, SHOP)
    made = make(office, 40, from_day=date(2026, 12, 1), to_day=date(2026, 12, 31))
    assert facts_of(office.work, made.id, "month")["audits"] == 0
    with pytest.raises(NotFound, match="had no finished run by"):
        make(office, from_day=date(2026, 10, 1), to_day=date(2026, 10, 31))


def test_reports_of_one_client_the_latest_first(office: Office) -> None:
    far = clients.add_client(office.work, ClientBody(name="Far"), None).id
    site = sites.add_site(office.work, SiteBody(client_id=far, address="https://far.example/"), None)
    offices = [office, Office(office.work, office.mail, site)]
    for each in offices:
        each.audit(START, SHOP)
    made = [make(each, n).id for n, each in enumerate((*offices, office))]
    assert [r.id for r in reports.list_reports(office.work)] == made[::-1]
    assert [r.id for r in reports.list_reports(office.work, office.site.client_id)] == [made[2], made[0]]
    assert [r.id for r in reports.list_reports(office.work, site_id=site.id)] == [made[1]]


def test_a_report_keeps_the_colour_it_was_made_with(office: Office) -> None:
    office.audit(START, SHOP)
    clients.change_client(office.work, office.site.client_id, ClientChange(colour="#FFE000"), NOBODY)
    made = make(office)
    clients.change_client(office.work, office.site.client_id, ClientChange(colour=""), NOBODY)
    _, drawn = reports.draw_report(office.work, made.id)
    assert (drawn.colour, drawn.on_colour) == ("#ffe000", "#1b2326")
    assert "--accent: #ffe000;" in draw_html(drawn)


def test_the_language_is_the_clients_unless_another_is_asked_for(office: Office) -> None:
    office.audit(START, SHOP)
    clients.change_client(office.work, office.site.client_id, ClientChange(language="de"), NOBODY)
    assert (made := make(office)).title == "Rope & Sail: November 2026" and made.language == "de"
    assert "Kurz gesagt" in draw_html(reports.draw_report(office.work, made.id)[1])
    assert make(office, language="en").language == "en"
    with pytest.raises(InvalidInput, match="not written in"):
        make(office, language="xx")
    with pytest.raises(InvalidInput, match="not written in"):
        clients.change_client(office.work, office.site.client_id, ClientChange(language="xx"), NOBODY)


def test_what_is_edited_is_a_version_and_facts_stay_as_they_were(office: Office, made: ReportFull, imke: Member) -> None:
    office.audit(START + timedelta(days=7), [page(doc("<h1>Shop</h1>", "<title>Rope and more rope for everybody</title>"))])
    health = facts_of(office.work, made.id, "health")
    kept = [each for each in made.sections if each.kind in (SectionKind.HEALTH, SectionKind.NEXT)][::-1]
    kept[1] = kept[1].model_copy(update={"note": "A **good** week.", "title": "How it stands"})
    changed = reports.change_report(office.work, made.id, ReportChange(sections=kept), 1, imke, AGENCY)
    assert [s.kind for s in changed.sections] == ["next", "health"] and changed.version == 2
    assert facts_of(office.work, made.id, "health") == health
    html = draw_html(reports.draw_report(office.work, made.id)[1])
    assert "How it stands" in html and "<strong>good</strong>" in html
    wider = [kept[0], kept[1].model_copy(update={"choices": {"months": 12}})]
    reports.change_report(office.work, made.id, ReportChange(sections=wider), 2, imke, AGENCY)
    assert len(facts_of(office.work, made.id, "health")["line"]) == 2, "what is asked for otherwise is gathered anew"
    with pytest.raises(Conflict, match="Somebody changed"):
        reports.change_report(office.work, made.id, ReportChange(title="Mine"), 2, imke, AGENCY)


def test_an_earlier_version_comes_back_as_a_new_one(office: Office, made: ReportFull, imke: Member) -> None:
    reports.change_report(office.work, made.id, ReportChange(title="Another"), None, imke, AGENCY)
    back = reports.restore_report(office.work, made.id, 1, imke)
    assert (back.title, back.version) == (made.title, 3)
    assert [v.what for v in back.versions] == ["back to version 1", "edited", "made from Monthly report"]
    with pytest.raises(NotFound, match="no version 9"):
        reports.restore_report(office.work, made.id, 9, imke)


def test_sections_are_tried_on_a_site_before_they_are_a_template(office: Office) -> None:
    office.audit(START, SHOP)
    sections = [ReportSection(kind=SectionKind.TEXT, note="Tried."), ReportSection(kind=SectionKind.HEALTH)]
    body = ReportTrial(site_id=office.site.id, sections=sections)
    drawn = reports.try_sections(office.at(datetime(2026, 12, 9, tzinfo=UTC)), body, AGENCY)
    assert drawn.values.title == "Rope & Sail: November 2026" and "Tried." in draw_html(drawn)
    assert reports.list_reports(office.work) == []
    with pytest.raises(NotFound, match="had no finished run by"):
        reports.try_sections(office.at(datetime(2026, 1, 9, tzinfo=UTC)), body, AGENCY)


def test_figures_are_refreshed_when_somebody_asks(office: Office, made: ReportFull, imke: Member) -> None:
    office.audit(START + timedelta(days=7), [*SHOP, page(doc("<h1>A</h1>"), "/a")])
    assert facts_of(office.work, made.id, "month")["audits"] == 1
    reports.refresh_report(office.at(START + timedelta(days=8)), made.id, imke, AGENCY)
    assert facts_of(office.work, made.id, "month")["audits"] == 2


def test_a_preview_keeps_nothing(office: Office, made: ReportFull) -> None:
    sections = [ReportSection(kind=SectionKind.TEXT, note="Only this."), ReportSection(kind=SectionKind.SPEED)]
    drawn = reports.preview_report(office.work, made.id, ReportChange(title="Tried", sections=sections), AGENCY)
    html = draw_html(drawn)
    assert "Only this." in html and "Tried" in html and drawn.sections[0].kind == "text"
    assert reports.get_report(office.work, made.id).version == 1


@pytest.mark.parametrize(
    ("section", "said"),
    [
        (ReportSection(kind=SectionKind.HEALTH, choices={"months": 99}), "months of the line is 99"),
        (ReportSection(kind=SectionKind.COVER, choices={"limit": 1}), "no number called “limit”"),
        (ReportSection(kind=SectionKind.FINDINGS, checks=["rope-frayed"]), "no check “rope-frayed”"),
        (ReportSection(kind=SectionKind.BENCHMARK, measures=["rope"]), "no measure “rope”"),
    ],
)
def test_a_section_takes_what_it_offers_alone(office: Office, made: ReportFull, section: ReportSection, said: str) -> None:
    with pytest.raises(InvalidInput, match=said):
        reports.preview_report(office.work, made.id, ReportChange(sections=[section]), AGENCY)


def test_templates_of_the_agency(office: Office, imke: Member) -> None:
    body = ReportTemplateBody(name="Board", sections=[ReportSection(kind=SectionKind.TEXT), ReportSection(kind=SectionKind.TEXT)])
    mine = report_templates.add_report_template(office.work, body, imke)
    assert [s.key for s in mine.sections] == ["text", "text-2"], "two of a kind are told apart"
    with pytest.raises(Conflict, match="already a template"):
        report_templates.add_report_template(office.work, body.model_copy(update={"name": "BOARD"}), imke)
    changed = report_templates.replace_report_template(office.work, int(mine.id), body.model_copy(update={"note": "x"}), 1, imke)
    assert changed.version == 2
    with pytest.raises(Conflict, match="Somebody changed"):
        report_templates.replace_report_template(office.work, int(mine.id), body, 1, imke)
    office.audit(START, SHOP)
    made = make(office, template=mine.id)
    report_templates.remove_report_template(office.work, int(mine.id), imke)
    assert [s.kind for s in reports.get_report(office.work, made.id).sections] == ["text", "text"]
    with pytest.raises(NotFound, match="no report template"):
        make(office, template=mine.id)


def test_the_next_report_is_compared_with_the_last_that_clients_saw(office: Office, imke: Member) -> None:
    office.audit(START - timedelta(days=20), [page(doc("<h1>A</h1>")), gone("/x")])
    todo = todos.add_todo(office.at(START - timedelta(days=19)), TodoBody(site_id=office.site.id, title="Ring them"), None)
    october = make(office, -2, from_day=date(2026, 10, 1), to_day=date(2026, 10, 31))
    office.audit(START, SHOP)
    assert facts_of(office.work, make(office).id, "last")["to_day"] == "", "a draft was seen by nobody"
    reports.approve_report(office.work, october.id, 1, imke)
    last = facts_of(office.work, make(office).id, "last")
    assert (last["to_day"], last["promised"], last["kept"]) == ("2026-10-31", 1, 0)
    assert last["health"] is not None and last["health_now"] is not None
    assert todo.id


def test_clients_see_what_was_approved_however_far_the_draft_goes_on(office: Office, made: ReportFull, imke: Member) -> None:
    with pytest.raises(NotFound, match="nothing of that kind"):
        reports.draw_report(office.work, made.id, for_client=True)
    assert reports.list_reports(office.work, office.site.client_id, for_client=True) == []
    with pytest.raises(Conflict, match="Somebody changed"):
        reports.approve_report(office.work, made.id, 7, imke)
    assert reports.approve_report(office.work, made.id, 1, imke).approver == "Imke Aldersgate"
    after = reports.change_report(office.work, made.id, ReportChange(title="Unripe"), 1, imke, AGENCY)
    assert after.state == ReportState.DRAFT
    _, drawn = reports.draw_report(office.work, made.id, for_client=True)
    assert drawn.values.title == made.title
    (shown,) = reports.list_reports(office.work, office.site.client_id, for_client=True)
    assert (shown.state, shown.version, shown.approver) == (ReportState.APPROVED, 1, "")
    assert shown.title == made.title, "not even the title of a draft is told"


def test_sending_gives_each_reader_a_link_and_the_pdf(office: Office, made: ReportFull, imke: Member) -> None:
    body = ReportSending(recipients=[ROSA, Recipient(name="Jory", email="jory@rope.example")], cover="Dear both, here it is.")
    with pytest.raises(Conflict, match="is a draft"):
        report_sending.send_report(office.work, made.id, body, imke)
    reports.approve_report(office.work, made.id, 1, imke)
    sent = report_sending.send_report(office.work, made.id, body, imke)
    assert sent.state == ReportState.SENT and [link.name for link in sent.links] == ["Jory", "Rosa Penhallow"]
    assert deliver_due(office.work, office.mail) == 2
    to, subject, text = office.mail.sent[-1]
    assert to == "jory@rope.example" and subject == made.title and text.startswith("Dear both, here it is.")
    assert {name for name, _ in office.mail.enclosed} == {"shop.example-2026-11-30.pdf"}
    assert all(content.startswith(b"%PDF-1.7") for _, content in office.mail.enclosed)
    secrets = {text.split("/shared/reports/")[1].split()[0] for _, _, text in office.mail.sent[-2:]}
    assert len(secrets) == 2, "each has a link of their own"


def test_a_mail_whose_report_is_gone_is_tried_again_and_says_why(office: Office, made: ReportFull, imke: Member) -> None:
    reports.approve_report(office.work, made.id, 1, imke)
    report_sending.send_report(office.work, made.id, ReportSending(recipients=[ROSA]), imke)
    reports.remove_report(office.work, made.id, imke)
    assert deliver_due(office.work, office.mail) == 1 and office.mail.enclosed == []
    (kept,) = outbox.list_deliveries(office.work, DeliveryState.SENT, 1)
    assert kept.recipient == ROSA.email


def test_a_mail_to_a_german_client_is_german(office: Office, imke: Member) -> None:
    office.audit(START, SHOP)
    made = make(office, language="de")
    reports.approve_report(office.work, made.id, 1, imke)
    report_sending.send_report(office.work, made.id, ReportSending(recipients=[ROSA]), imke)
    deliver_due(office.work, office.mail)
    text, html = office.mail.sent[-1][2], office.mail.html[-1]
    assert "hat einen neuen Bericht für Sie" in text and "Dieser Link ist nur für Sie" in text
    assert '<html lang="de">' in html and "Choose your mails" not in html


def test_approving_sends_only_where_a_schedule_says_to_whom(office: Office, made: ReportFull, imke: Member) -> None:
    with pytest.raises(Conflict, match="No schedule says"):
        report_sending.approve_and_send(office.work, made.id, ReportApproval(send=True), 1, imke)
    assert reports.get_report(office.work, made.id).state == ReportState.DRAFT


def test_a_link_opens_until_it_ends(office: Office, made: ReportFull, imke: Member) -> None:
    with pytest.raises(Conflict, match="Nothing of this report is approved"):
        report_links.add_report_link(office.work, made.id, ReportLinkBody(name="Rosa"), imke)
    reports.approve_report(office.work, made.id, 1, imke)
    link = report_links.add_report_link(office.at(START), made.id, ReportLinkBody(name="Rosa", days=2), imke)
    assert link.url is not None
    secret = link.url.rpartition("/")[2]
    work = office.at(START + timedelta(days=1))
    assert report_links.look_at_link(work, secret).report_id == made.id
    report_links.note_seen(work, secret)
    (shown,) = report_links.list_report_links(work, made.id)
    assert (shown.seen, shown.seen_at, shown.url, shown.ended) == (1, work.now(), None, False)
    with pytest.raises(NotFound, match="not valid any more"):
        report_links.look_at_link(office.at(START + timedelta(days=2)), secret)
    later = office.at(START + timedelta(days=3))
    longer = report_links.prolong_report_link(later, made.id, link.id, ReportLinkChange(days=30), imke)
    assert (longer.ended, longer.expires_at) == (False, START + timedelta(days=33))
    assert report_links.look_at_link(later, secret).report_id == made.id, "also one that had expired"
    report_links.revoke_report_link(work, made.id, link.id, imke)
    with pytest.raises(NotFound, match="not valid any more"):
        report_links.look_at_link(work, secret)
    with pytest.raises(Conflict, match="was revoked"):
        report_links.prolong_report_link(later, made.id, link.id, ReportLinkChange(days=30), imke)
    with pytest.raises(NotFound, match="has no link 99"):
        report_links.revoke_report_link(work, made.id, 99, imke)
    with pytest.raises(InvalidInput, match="too short"):
        report_links.add_report_link(work, made.id, ReportLinkBody(name="Rosa", passphrase="short"), imke)
