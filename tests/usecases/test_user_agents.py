"""What a site serves to another user agent, beside its audits."""

from __future__ import annotations

from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import Sample, doc, page
from hodcarrier.core.errors import Conflict
from hodcarrier.core.states import Appearance, Change, RunPurpose
from hodcarrier.register.models import Member
from hodcarrier.usecases import comparisons, remarks, runs, sites, user_agents, week
from hodcarrier.wire.runs import RunOut
from tests.usecases.conftest import START, Office

NOBODY = Member(id=None, name="")
LATER = START + timedelta(hours=2)
LINKS = "".join(f"<a href=/{n}>Page {n} of the guide</a>" for n in range(1, 4))


def shop(*, phone: bool) -> tuple[Sample, ...]:
    """Phones are served a shorter list and a page in brief, which search engines are told to leave out."""
    links = LINKS if not phone else LINKS[: LINKS.index("<a href=/2")]
    robots = '<meta name="robots" content="noindex">' if phone else ""
    return (
        page(doc(f"{links}<p>{'strong rope ' * 40}</p>", head="<title>Ropes</title>")),
        page(doc("<p>" + "thin line " * (3 if phone else 60), head=f"<title>Lines</title>{robots}"), "/1"),
        page(doc("<p>" + "a fender " * 60, head="<title>Fenders</title>"), "/2"),
        page(doc("<p>" + "a bucket " * 60, head="<title>Buckets</title>"), "/3"),
    )


def as_phone(office: Office) -> RunOut:
    asked = user_agents.fetch_as(office.at(LATER), office.site.id, Appearance.PHONE, NOBODY)
    office.bring_to_end(LATER, asked.id, shop(phone=True))
    return runs.get_run(office.work, asked.id)


def test_what_phones_are_served_is_compared_with_the_latest_audit(office: Office) -> None:
    audit = office.audit(START, shop(phone=False))
    run = as_phone(office)
    assert (run.purpose, run.appearance, run.base_id) == (RunPurpose.USER_AGENT, Appearance.PHONE, audit)
    assert run.plan is not None and "Mobile" in run.plan.user_agent
    found = comparisons.compare_runs(office.work, audit, run.id)
    assert found.sentence == (
        "A phone browser is served a different site from our own user agent: 2 pages differ, 2 pages are not reached."
    )
    assert [(s.name, s.base, s.head) for s in found.settings] == [("appearance", "own", "phone")]
    front, lines = "https://shop.example/", "https://shop.example/1"
    changed = {
        (change.field, change.url): (change.base, change.head)
        for group in found.page_changes
        for change in comparisons.list_page_changes(office.work, audit, run.id, group.id).items
    }
    assert changed["links", front] == ("3", "1")
    assert changed["words", lines] == ("120", "6") and changed["indexable", lines] == ("yes", "no (noindex)")
    assert comparisons.list_compared_urls(office.work, audit, run.id, "gone").items == [f"{front}2", f"{front}3"]
    assert found.counts.get(Change.NEW, 0) > 0


def test_a_site_that_serves_all_alike_says_so(office: Office) -> None:
    audit = office.audit(START, shop(phone=False))
    asked = user_agents.fetch_as(office.at(LATER), office.site.id, Appearance.DESKTOP, NOBODY)
    office.bring_to_end(LATER, asked.id, shop(phone=False))
    found = comparisons.compare_runs(office.work, audit, asked.id)
    assert found.sentence == "A desktop browser is served the same as our own user agent."


def test_it_is_no_part_of_the_sites_line(office: Office) -> None:
    audit = office.audit(START, shop(phone=False))
    before = sites.get_site(office.work, office.site.id)
    run = as_phone(office)
    after = sites.get_site(office.work, office.site.id)
    assert after == before and after.last_run is not None and after.last_run.id == audit
    assert [each.run_id for each in week.get_week(office.at(LATER)).runs if each.run_id] == [audit]
    assert remarks.list_remarks(office.work, office.site.id) == []
    assert [each.id for each in runs.list_runs(office.work, office.site.id).items] == [run.id, audit]
    # The next audit goes on from the audit before it.
    later = office.audit(LATER + timedelta(days=1), shop(phone=False))
    assert runs.get_run(office.work, later).base_id == audit


def test_one_of_its_own_user_agent_or_a_second_at_once_is_refused(office: Office) -> None:
    with pytest.raises(Conflict, match="use this user agent already"):
        user_agents.fetch_as(office.work, office.site.id, Appearance.OWN, NOBODY)
    user_agents.fetch_as(office.work, office.site.id, Appearance.PHONE, NOBODY)
    with pytest.raises(Conflict, match="being fetched with another user agent already"):
        user_agents.fetch_as(office.work, office.site.id, Appearance.DESKTOP, NOBODY)
