"""What a plan is proposed from the latest run."""

from __future__ import annotations

from datetime import timedelta

from hodcarrier.core.catalogue import doc, page
from hodcarrier.register.models import Member
from hodcarrier.usecases import plans, runs
from tests.usecases.conftest import START, Office

SESSIONS = (
    page(doc('<a href="/a?sid=1">a</a><a href="/a?sid=2">a</a><a href="/b?page=2">b</a>')),
    page(doc(), "/a?sid=1"),
    page(doc(), "/a?sid=2"),
    page(doc(), "/b?page=2"),
)


def test_session_parameters_of_the_latest_run_are_proposed_until_they_are_dropped(office: Office) -> None:
    site = office.site.id
    assert plans.get_plan(office.work, site).proposed_drops == []
    run = runs.get_run(office.work, office.audit(START, SESSIONS))
    (proposed,) = plans.get_plan(office.work, site).proposed_drops
    assert (proposed.name, proposed.addresses) == ("sid", 2) and proposed.example.endswith("/a?sid=1")
    assert run.summary is not None
    assert any("2 addresses carry “sid”" in notice for notice in run.summary.notices)
    kept = plans.change_plan(office.work, site, {"keep_parameters": ["page"]}, None, Member(id=None, name=""))
    assert kept.proposed_drops == [], "all others are dropped by that"
    plans.change_plan(office.work, site, {"keep_parameters": []}, None, Member(id=None, name=""))
    dropped = plans.change_plan(office.work, site, {"drop_parameters": ["sid"]}, None, Member(id=None, name=""))
    assert dropped.proposed_drops == []
    run = runs.get_run(office.work, office.audit(START + timedelta(days=7), SESSIONS))
    assert (
        run.summary is not None
        and run.summary.session_parameters == []
        and not any("sid" in notice for notice in run.summary.notices)
    )
