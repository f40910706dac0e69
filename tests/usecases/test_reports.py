"""The sentences of a report, as a client reads them, and which reports are listed."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import doc, page
from hodcarrier.register.models import Member
from hodcarrier.report.document import draw_html
from hodcarrier.report.values import Comparison, Counts, FixedWork, ReportValues, Sentences, WorkInHand
from hodcarrier.usecases import clients, reports, sites, todos
from hodcarrier.usecases.reports import month_in_sentences
from hodcarrier.wire.clients import ClientBody, ClientChange
from hodcarrier.wire.reports import ReportBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_todos import shop

NOBODY = Member(id=None, name="")

PLAIN = ReportValues(
    title="November",
    agency="Cobble & Lantern",
    client="Rope",
    host="rope.example",
    from_day="2026-11-01",
    to_day="2026-11-30",
    span="1 to 30 November 2026",
    made="2026-12-01",
    note="",
    health=81.25,
    health_before=None,
    before_day="2026-11-03",
    pages=40,
    trend="steady",
    line=[],
    remarks=[],
    counts=Counts(),
    fixed=[],
    in_hand=[],
    next=[],
    areas=[],
    appendix=[],
)
HEALTH = "The health of rope.example is 81.2 of 100, where 100 means that we find nothing to fix"
DATED, OPEN = WorkInHand("Titles", "Oona", "2026-12-04", 3, 0), WorkInHand("Rope", "nobody yet", "", 0, 0)
FIXED = FixedWork("Links", 3, "2026-11-10")


def standing(lead: int, trail: int) -> Comparison:
    return Comparison(["rope.example"], [], Sentences(["+"] * lead, ["-"] * trail))


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({}, [HEALTH + ".", "No faults were fixed, and no new ones appeared."]),
        ({"health": None}, ["No faults were fixed, and no new ones appeared."]),
        ({"health_before": 81.25}, [HEALTH + ", the same as before."]),
        ({"health_before": 80.0}, [HEALTH + ", 1.2 points higher than on 3 November."]),
        ({"health_before": 90.0}, [HEALTH + ", 8.8 points lower than on 3 November."]),
        ({"counts": Counts(new=1, fixed=1)}, ["1 fault was fixed, and 1 new one appeared."]),
        ({"counts": Counts(new=1200, fixed=2)}, ["2 faults were fixed, and 1,200 new ones appeared."]),
        ({"fixed": [FIXED]}, ["We completed 1 task, and a new audit confirmed it."]),
        ({"fixed": [FIXED, FIXED]}, ["We completed 2 tasks, and a new audit confirmed each of them."]),
        ({"in_hand": [DATED]}, ["1 task is in progress, with a due date."]),
        ({"in_hand": [OPEN]}, ["1 task is in progress, without a due date."]),
        ({"in_hand": [DATED, DATED]}, ["2 tasks are in progress, each with a due date."]),
        ({"in_hand": [DATED, OPEN, OPEN]}, ["3 tasks are in progress, 1 with a due date."]),
        ({"standing": standing(1, 0)}, ["Compared with its competitors, the site leads on 1 measure and trails on none."]),
        ({"standing": standing(0, 4)}, ["Compared with its competitors, the site leads on no measures and trails on 4."]),
    ],
)
def test_sentences(changes: dict[str, object], said: list[str]) -> None:
    found = month_in_sentences(replace(PLAIN, **changes))  # type: ignore[arg-type]
    assert [sentence for sentence in said if sentence not in found] == []
    assert len(found) == len(set(found)) <= 5


def test_a_report_lists_its_own_sites_work_alone(office: Office) -> None:
    other = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/"), None)
    office.audit(START, [page(doc("<h1>Shop</h1>"))])
    for site, title in ((office.site, "Ours"), (other, "Theirs")):
        todos.add_todo(office.at(START), TodoBody(site_id=site.id, title=title), None)
    day = START.date()
    made = reports.add_report(office.work, ReportBody(site_id=office.site.id, from_day=day, to_day=day), None, "Agency")
    values = reports.get_report(office.work, made.id)[1]
    assert [item.title for item in values.in_hand] == ["Ours"]
    assert (values.health_before, values.counts) == (None, Counts()), "one run is compared with none"


def test_reports_of_one_client_the_latest_first(office: Office) -> None:
    far = clients.add_client(office.work, ClientBody(name="Far"), None).id
    site = sites.add_site(office.work, SiteBody(client_id=far, address="https://far.example/"), None)
    offices = [office, Office(office.work, office.mail, site)]
    for each in offices:
        each.audit(START, [page(doc("<h1>Shop</h1>"))])
    body = {"from_day": START.date(), "to_day": START.date()}
    made = [
        reports.add_report(each.at(START + timedelta(hours=n)), ReportBody(site_id=each.site.id, **body), None, "Agency").id
        for n, each in enumerate((*offices, office))
    ]
    assert [r.id for r in reports.list_reports(office.work)] == made[::-1]
    assert [r.id for r in reports.list_reports(office.work, office.site.client_id)] == [made[2], made[0]]
    assert [r.id for r in reports.list_reports(office.work, far)] == [made[1]]


@pytest.mark.parametrize(("colour", "brand", "ink"), [("", "#0d5c5f", "#ffffff"), ("#ffe000", "#ffe000", "#1b2326")])
def test_the_cover_has_the_clients_colour_and_an_ink_that_is_read_on_it(colour: str, brand: str, ink: str) -> None:
    page = draw_html(replace(PLAIN, colour=colour))
    assert f"--accent: {brand};" in page and f"color: {ink};" in page


def test_a_report_keeps_the_colour_it_was_made_with(office: Office) -> None:
    office.audit(START, shop(1))
    clients.change_client(office.work, office.site.client_id, ClientChange(colour="#FFE000"), NOBODY)
    body = ReportBody(site_id=office.site.id, from_day=START.date(), to_day=START.date())
    made = reports.add_report(office.work, body, None, "Agency")
    clients.change_client(office.work, office.site.client_id, ClientChange(colour=""), NOBODY)
    assert reports.get_report(office.work, made.id)[1].colour == "#ffe000"
