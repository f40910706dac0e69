"""The desk: what needs a person today, across all sites."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta

import pytest
from sqlalchemy import event

from hodcarrier.core.catalogue import Sample, doc, gone, page, text_file
from hodcarrier.core.errors import NotFound, RunMismatch
from hodcarrier.core.states import Change
from hodcarrier.register.models import Member
from hodcarrier.runfile.compared import Chosen
from hodcarrier.usecases import (
    alerts,
    clients,
    comparisons,
    desk,
    finishing,
    members,
    remarks,
    results,
    runs,
    sites,
    todos,
    waivers,
)
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.desk import DeskOut
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.remarks import RemarkBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from hodcarrier.wire.waivers import WaiverBody
from tests.usecases.conftest import START, Office

WEEK = timedelta(weeks=1)
FULL = "<title>A title of some length</title><meta name=description content='What it is'>"


def shop(linked: bool = False) -> list[Sample]:
    return [page(doc("<h1>Shop</h1>" + ('<a href="/gone">old</a>' if linked else ""), FULL)), gone("/gone")]


@pytest.fixture
def imke(office: Office) -> Member:
    made = members.add_member(
        office.work, MemberBody(name="Imke A", email="imke@agency.example", role="lead", password="long enough words")
    )
    with office.work.session() as session:
        found = session.get(Member, made.id)
        assert found is not None
        session.expunge(found)
        return found


def look(office: Office, imke: Member, weeks: float, building: str = "") -> DeskOut:
    return desk.get_desk(office.at(START + weeks * WEEK), imke, building)


def test_an_agency_that_just_began_is_told_so(office: Office, imke: Member) -> None:
    found = look(office, imke, 0)
    assert found.items == [] and found.my_todos == [] and found.sites[0].site.health is None
    assert look(office, imke, 0, "auditing week 1 of 4").building == "auditing week 1 of 4"


def test_what_got_worse_comes_first(office: Office, imke: Member) -> None:
    office.audit(START, shop())
    office.audit(START + WEEK, shop(linked=True))
    found = look(office, imke, 1.1)
    assert found.items and found.items[0].kind == "change" and found.items[0].host == "shop.example"
    assert found.items[0].severity in ("critical", "high")
    row = found.sites[0]
    assert row.change is not None and row.change < 0 and row.new >= 2
    assert "got worse" in found.sentence


def test_what_got_better_is_no_alert(office: Office, imke: Member) -> None:
    office.audit(START, shop(linked=True))
    office.audit(START + WEEK, shop())
    found = look(office, imke, 1.1)
    assert [i for i in found.items if i.kind == "change"] == []
    assert found.sites[0].fixed >= 1 and (found.sites[0].change or 0) > 0


def test_a_failed_run_needs_a_person(office: Office, imke: Member) -> None:
    run = runs.queue_run(office.work, office.site.id)
    finishing.begin_run(office.work, run.id)
    finishing.fail_run(office.work, run.id, "shop.example cannot be audited: the host name does not resolve.")
    items = look(office, imke, 0.1).items
    assert len(items) == 1 and "does not resolve" in items[0].text + items[0].detail


def test_ones_own_todos_by_due_date_and_late_ones_counted(office: Office, imke: Member) -> None:
    for days, who in ((3, imke.id), (1, imke.id), (2, None)):
        body = TodoBody(site_id=office.site.id, title=f"in {days} days", assignee=who, due=(START + timedelta(days=days)).date())
        todos.add_todo(office.work, body, None)
    found = look(office, imke, 2 / 7)
    assert [t.title for t in found.my_todos] == ["in 1 days", "in 3 days"]
    assert found.overdue == 1


def alerts_of(office: Office, imke: Member, weeks: float) -> list[str]:
    return [item.text for item in look(office, imke, weeks).items if item.kind == "change"]


def test_an_alert_stays_until_it_is_fixed(office: Office, imke: Member) -> None:
    office.audit(START, shop())
    office.audit(START + WEEK, shop(linked=True))
    raised = alerts_of(office, imke, 1.1)
    assert raised
    for weeks in (2, 3):
        office.audit(START + weeks * WEEK, shop(linked=True))
        assert alerts_of(office, imke, weeks + 0.1) == raised, "nothing was fixed"
    assert look(office, imke, 3.1).items[0].since == START + WEEK
    office.audit(START + 4 * WEEK, [text_file("/robots.txt", "User-agent: *\nDisallow: /"), *shop(linked=True)])
    assert set(raised) <= set(alerts_of(office, imke, 4.1)), "what could not be examined is not fixed"
    office.audit(START + 5 * WEEK, shop())
    assert alerts_of(office, imke, 5.1) == []


def test_an_acknowledged_alert_is_off_the_desk_until_further_findings_come(office: Office, imke: Member) -> None:
    office.audit(START, shop())
    office.audit(START + WEEK, shop(linked=True))
    for item in look(office, imke, 1.1).items:
        assert item.alert_id is not None
        alerts.acknowledge_alert(office.work, item.alert_id, imke)
    assert look(office, imke, 1.1).items == []
    office.audit(START + 2 * WEEK, shop(linked=True))
    assert look(office, imke, 2.1).items == []
    more = page(doc('<h1>Shop</h1><a href="/gone">old</a><a href="/gone2">older</a>', FULL))
    office.audit(START + 3 * WEEK, [more, gone("/gone"), gone("/gone2")])
    texts = alerts_of(office, imke, 3.1)
    assert texts and all(text.endswith(": 2 new") for text in texts)
    with pytest.raises(NotFound, match="no alert 999"):
        alerts.acknowledge_alert(office.work, 999, imke)


def test_a_waived_finding_is_no_alert(office: Office, imke: Member) -> None:
    office.audit(START, shop())
    office.audit(START + WEEK, shop(linked=True))
    for check in ("link-broken", "reach-not-found"):
        waivers.add_waiver(office.work, office.site.id, WaiverBody(check=check, reason="Meant so"), None)
    office.audit(START + 2 * WEEK, shop(linked=True))
    assert alerts_of(office, imke, 2.1) == []


def test_everything_is_on_the_desk_and_failures_come_first(office: Office, imke: Member) -> None:
    for n in range(12):
        site = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address=f"https://shop{n}.example/"), None)
        run = runs.queue_run(office.work, site.id)
        finishing.begin_run(office.work, run.id)
        finishing.fail_run(office.work, run.id, "the host name does not resolve.")
    office.audit(START, shop())
    office.audit(START + WEEK, shop(linked=True))
    items = look(office, imke, 1.1).items
    assert [i.kind for i in items[:12]] == ["failed"] * 12
    assert {i.kind for i in items[12:]} == {"change"}


def test_overdue_work_of_others_and_of_nobody_is_told(office: Office, imke: Member) -> None:
    body = MemberBody(name="Casper Dunmore", email="casper@agency.example", role="fixer", password="long enough words")
    casper = members.add_member(office.work, body).id
    for days, who in ((1, casper), (2, casper), (1, None), (1, imke.id), (30, casper)):
        due = (START + timedelta(days=days)).date()
        todos.add_todo(office.work, TodoBody(site_id=office.site.id, title=f"due in {days}", assignee=who, due=due), None)
    told = [(i.text, i.detail) for i in look(office, imke, 1).items if i.kind == "todo"]
    assert told == [
        ("1 to-do overdue, assigned to nobody", "due in 1, Rope & Sail: 6 days late"),
        ("Casper Dunmore: 2 to-dos overdue", "due in 1, Rope & Sail: 6 days late"),
    ]


def test_waivers_that_end_soon_are_told(office: Office, imke: Member) -> None:
    waivers.add_waiver(
        office.work, office.site.id, WaiverBody(check="text-thin", reason="Short", end=(START + timedelta(days=5)).date()), None
    )
    waivers.add_waiver(
        office.work,
        office.site.id,
        WaiverBody(check="desc-missing", reason="Meant so", end=(START + timedelta(days=90)).date()),
        None,
    )
    told = [i for i in look(office, imke, 0.1).items if i.kind == "waiver"]
    assert len(told) == 1 and "Thin content" in told[0].text


def test_competitors_are_not_on_the_desk(office: Office, imke: Member) -> None:
    sites.add_site(
        office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/", kind="competitor"), None
    )
    assert [row.site.host for row in look(office, imke, 0).sites] == ["shop.example"]


def test_runs_of_two_clients_are_not_compared(office: Office) -> None:
    first = office.audit(START, shop())
    client = clients.add_client(office.work, ClientBody(name="Kiln"), None)
    other = sites.add_site(office.work, SiteBody(client_id=client.id, address="https://other.example/"), None)
    run = runs.queue_run(office.work, other.id)
    with pytest.raises(RunMismatch, match=r"shop\.example and run"):
        comparisons.compare_runs(office.work, first, run.id)


@pytest.mark.parametrize("change", ["new", "still-there", "fixed", ""])
def test_comparisons_are_filtered_and_counted_whole(office: Office, change: str) -> None:
    base, head = office.audit(START, shop()), office.audit(START + WEEK, shop(linked=True))
    found = comparisons.compare_runs(office.work, base, head, Chosen(Change(change) if change else None), 2)
    assert len(found.findings) == min(2, found.findings_total)
    assert {f.change for f in found.findings} <= ({change} if change else set(found.counts))
    assert sum(found.counts.values()) == comparisons.compare_runs(office.work, base, head).findings_total
    assert found.reconciles


def test_to_dos_of_this_week(office: Office, imke: Member) -> None:
    day = START.date()
    dues = {
        "late": day - timedelta(days=1),
        "today": day,
        "in a week": day + WEEK,
        "later": day + timedelta(days=8),
    }
    for title, due in dues.items():
        made = todos.add_todo(
            office.at(START - timedelta(days=9)), TodoBody(site_id=office.site.id, title=title, assignee=imke.id, due=due), None
        )
        assert made.due == due
    found = look(office, imke, 0)
    assert {t.title for t in found.my_todos} == set(dues)
    assert (found.overdue, found.this_week) == (1, 2)


def test_sites_that_need_a_person_most_come_first(office: Office, imke: Member) -> None:
    office.audit(START, shop())
    office.audit(START + WEEK, shop(linked=True))
    quiet = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address="https://quiet.example/"), None)
    failed = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address="https://failed.example/"), None)
    run = runs.queue_run(office.work, failed.id)
    finishing.begin_run(office.work, run.id)
    finishing.fail_run(office.work, run.id, "the host name does not resolve.")
    rows = look(office, imke, 1.1).sites
    by_host = {row.site.host: row for row in rows}
    assert [row.attention for row in rows] == sorted((row.attention for row in rows), reverse=True)
    assert by_host[quiet.host].attention == 0 and by_host["failed.example"].attention == 50
    shop_row = by_host["shop.example"]
    assert shop_row.change is not None and shop_row.site.health is not None
    expected = -4 * shop_row.change + shop_row.critical + shop_row.high / 10 + (100 - shop_row.site.health) / 10
    assert shop_row.attention == pytest.approx(expected)
    assert (shop_row.critical, shop_row.line) == (
        sum(row.findings for row in results.list_checks(office.work, run_of(office)) if row.severity == "critical"),
        [run.health for run in reversed(runs.list_runs(office.work, office.site.id).items)],
    )


def run_of(office: Office) -> str:
    return runs.list_runs(office.work, office.site.id).items[0].id


def test_the_sentence_counts_what_happened_since_yesterday(office: Office, imke: Member) -> None:
    office.audit(START, shop())
    office.audit(START + WEEK, shop())
    run = runs.queue_run(office.at(START + WEEK), office.site.id)
    finishing.begin_run(office.at(START + WEEK), run.id)
    finishing.fail_run(office.at(START + WEEK), run.id, "no answer.")
    assert look(office, imke, 1).sentence.startswith("1 audit since yesterday · 1 failed · no site got worse")
    assert look(office, imke, 1.2).sentence.startswith("0 audits since yesterday · no site got worse")


def test_the_desk_and_lists_take_no_more_statements_for_more_sites(office: Office, imke: Member) -> None:
    def statements(look_at: Callable[[], object]) -> int:
        said: list[str] = []
        with office.work.register() as session:
            engine = session.get_bind()
        event.listen(engine, "before_cursor_execute", lambda _c, _u, statement, *_: said.append(statement))
        look_at()
        return len(said)

    def both() -> list[int]:
        return [statements(lambda: look(office, imke, 1.1)), statements(lambda: sites.list_sites(office.work))]

    office.audit(START, shop())
    office.audit(START + WEEK, shop(linked=True))
    few = both()
    for n in range(15):
        site = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address=f"https://shop{n}.example/"), None)
        run = runs.queue_run(office.work, site.id)
        finishing.begin_run(office.work, run.id)
        finishing.fail_run(office.work, run.id, "no answer.")
    assert both() == few and few[0] <= 10 and few[1] <= 5


def test_the_line_of_a_site_has_the_remarks_of_its_days(office: Office, imke: Member) -> None:
    for text, day in (("Long ago", START - WEEK), ("Relaunch", START + timedelta(days=2))):
        remarks.add_remark(office.work, office.site.id, RemarkBody(day=day.date(), text=text), imke)
    assert look(office, imke, 0).sites[0].remarks == [], "there is no line yet"
    office.audit(START, shop())
    office.audit(START + WEEK, shop())
    (row,) = look(office, imke, 1.1).sites
    assert row.line_days == [START.date(), (START + WEEK).date()] and len(row.line) == 2
    assert [(remark.day, remark.text) for remark in row.remarks] == [((START + timedelta(days=2)).date(), "Relaunch")]
