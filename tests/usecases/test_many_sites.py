"""Presets, and changes to several sites at once."""

from __future__ import annotations

from typing import Any

import pytest

from hodcarrier.core.errors import Conflict, HodcarrierError, InvalidInput, InvalidSchedule, NotFound
from hodcarrier.register.models import Member
from hodcarrier.usecases import many_sites, plans, presets, schedules, sites
from hodcarrier.wire.presets import PresetBody, PresetChange, SiteDraft, SitesChange, SitesPick
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteBody, SiteOut
from tests.usecases.conftest import Office

NOBODY = Member(id=None, name="")
HOSTS = ("shop.example", "a.example", "b.example")


@pytest.fixture
def three(office: Office) -> Office:
    for host in HOSTS[1:]:
        sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address=f"https://{host}/"), None)
    return office


def ids(office: Office) -> list[int]:
    by_host = {site.host: site.id for site in sites.list_sites(office.work)}
    return [by_host[host] for host in HOSTS]


def draft(office: Office, **wanted: Any) -> list[SiteDraft]:
    return many_sites.plan_site_changes(office.work, SitesPick.model_validate({"site_ids": ids(office), **wanted}))


def make(office: Office, drafts: list[SiteDraft]) -> list[Any]:
    body = SitesChange(changes=[each.change for each in drafts])
    return many_sites.change_sites(office.work, body, NOBODY).undo


def told(drafts: list[SiteDraft]) -> list[list[tuple[str, str, str]]]:
    return [[(d.name, d.before, d.after) for d in each.differences] for each in drafts]


def state(office: Office) -> list[tuple[SiteOut, Any]]:
    return [(site, plans.get_plan(office.work, site.id).values) for site in sites.list_sites(office.work)]


def test_settings_are_shown_before_they_are_made(three: Office) -> None:
    before = state(three)
    drafts = draft(three, values={"rate_per_s": 2})
    assert told(drafts) == [[("Requests per second", "5", "2")]] * 3
    assert state(three) == before, "nothing is changed by looking"
    make(three, drafts)
    assert {plan.rate_per_s for _, plan in state(three)} == {2.0}
    assert told(draft(three, values={"rate_per_s": 2})) == [[], [], []]


def test_starts_are_spread_over_the_sites_in_their_order(three: Office) -> None:
    drafts = draft(three, schedule={"rule": "weekly:TU", "at": "01:00", "until": "03:00", "zone": "UTC"})
    assert [each.change.schedule.at for each in drafts if each.change.schedule] == ["01:00", "02:00", "03:00"]
    make(three, drafts)
    by_host = {site.host: site.schedule for site in sites.list_sites(three.work)}
    assert [by_host[host].at for host in HOSTS if by_host[host]] == ["01:00", "02:00", "03:00"]  # type: ignore[union-attr]


def test_whoever_is_told_of_runs_stays_so(three: Office) -> None:
    body = ScheduleBody(rule="daily", mail_to=["imke@agency.example"])
    schedules.set_schedule(three.work, ids(three)[0], body, None)
    first, second, _ = draft(three, schedule={"rule": "weekly:TU"})
    assert first.change.schedule is not None and first.change.schedule.mail_to == ["imke@agency.example"]
    assert second.change.schedule is not None and second.change.schedule.mail_to == []


@pytest.mark.parametrize(
    "wanted",
    [
        {"values": {"rate_per_s": 2, "pages_max": 50}},
        {"schedule": {"rule": "weekly:TU", "at": "01:00", "until": "03:00"}},
        {"no_schedule": True},
        {"paused": True},
        {"add_tags": ["retail", "peak"]},
        {"remove_tags": ["OLD"]},
        {"values": {"profile": ""}, "schedule": {"rule": "daily"}, "paused": True, "add_tags": ["x"]},
    ],
)
def test_what_was_done_can_be_undone(three: Office, wanted: dict[str, Any]) -> None:
    one = ids(three)[0]
    schedules.set_schedule(three.work, one, ScheduleBody(rule="monthly:1", at="04:00", mail_to=["imke@agency.example"]), None)
    make(three, draft(three, add_tags=["old"]))
    before = state(three)
    undo = make(three, draft(three, **wanted))
    assert state(three) != before
    many_sites.change_sites(three.work, SitesChange(changes=undo), NOBODY)
    assert state(three) == before


def test_all_of_them_or_none(three: Office) -> None:
    drafts = draft(three, values={"rate_per_s": 2})
    plans.change_plan(three.work, ids(three)[2], {"pages_max": 7}, None, NOBODY)
    with pytest.raises(Conflict, match=r"the plan of b\.example"):
        make(three, drafts)
    assert {plan.rate_per_s for _, plan in state(three)} == {5.0}


@pytest.mark.parametrize(
    ("wanted", "kind", "words"),
    [
        ({"values": {"start": ["https://x.example/"]}}, InvalidInput, "belongs to one site alone"),
        ({"values": {"private_addresses": ["10.0.0.1"]}}, InvalidInput, "belongs to one site alone"),
        ({"values": {"rate_per_s": 0}}, HodcarrierError, "0"),
        ({"values": {"thresholds": {"nonsense": 1}}}, InvalidInput, "No check has a limit"),
        ({"schedule": {"rule": "yearly-ish"}}, InvalidSchedule, "recurrence"),
        ({"schedule": {"rule": "daily", "at": "05:00", "until": "01:00"}}, InvalidSchedule, "comes before"),
        ({"preset_id": 99}, NotFound, "There is no preset 99"),
        ({"site_ids": [1, 99]}, NotFound, "There is no site 99"),
    ],
)
def test_what_cannot_be_is_refused_with_a_word(three: Office, wanted: dict[str, Any], kind: type[Exception], words: str) -> None:
    with pytest.raises(kind, match=words):
        draft(three, **wanted)


def test_a_site_named_twice_is_changed_once(three: Office) -> None:
    one = ids(three)[0]
    assert len(draft(three, site_ids=[one, one], add_tags=["x"])) == 1


def test_what_is_sent_around_the_preview_is_checked_as_well(three: Office) -> None:
    change = {"site_id": ids(three)[0], "values": {"host_map": {"shop.example:443": "127.0.0.1:1"}}}
    with pytest.raises(InvalidInput, match="belongs to one site alone"):
        many_sites.change_sites(three.work, SitesChange.model_validate({"changes": [change]}), NOBODY)


# -- presets -------------------------------------------------------------------------------------------------------


def preset(office: Office, **more: Any) -> int:
    body = {"name": "Small shop", "settings": {"pages_max": 2000}, "schedule": {"rule": "weekly:TU", "at": "01:00"}, **more}
    return presets.add_preset(office.work, PresetBody.model_validate(body), None).id


def test_a_preset_sets_settings_and_schedule_and_what_is_given_beside_it_wins(three: Office) -> None:
    drafts = draft(three, preset_id=preset(three), values={"pages_max": 300}, schedule={"rule": "daily", "at": "03:00"})
    assert told(drafts)[0] == [("Page limit", "10,000", "300"), ("Schedule", "none", "every day at 03:00 (UTC)")]


def test_sites_stay_as_they_are_when_their_preset_changes_or_goes(three: Office) -> None:
    number = preset(three)
    make(three, draft(three, preset_id=number))
    presets.change_preset(three.work, number, PresetChange(settings={"pages_max": 5}), None, NOBODY)
    assert {plan.pages_max for _, plan in state(three)} == {2000}
    presets.remove_preset(three.work, number, NOBODY)
    assert {plan.pages_max for _, plan in state(three)} == {2000} and presets.list_presets(three.work) == []


def test_a_change_of_a_preset_leaves_what_it_does_not_name(office: Office) -> None:
    number = preset(office, todos=[{"title": "Ask for the logs", "days": 5}], note="For shops")
    changed = presets.change_preset(office.work, number, PresetChange(name="Shop"), 1, NOBODY)
    assert (changed.name, changed.note, changed.settings, changed.version) == ("Shop", "For shops", {"pages_max": 2000}, 2)
    assert changed.schedule is not None and [todo.title for todo in changed.todos] == ["Ask for the logs"]
    without = presets.change_preset(office.work, number, PresetChange(schedule=None), None, NOBODY)
    assert without.schedule is None and without.settings == {"pages_max": 2000}
    with pytest.raises(Conflict, match="Somebody changed this preset"):
        presets.change_preset(office.work, number, PresetChange(note="x"), 1, NOBODY)


@pytest.mark.parametrize("name", ["Small shop", "SMALL SHOP"])
def test_a_preset_has_a_name_of_its_own(office: Office, name: str) -> None:
    preset(office)
    with pytest.raises(Conflict, match="already a preset"):
        preset(office, name=name)


@pytest.mark.parametrize(
    "settings", [{"start": ["https://a.example/"]}, {"pages_max": 0}, {"nonsense": 1}, {"profile": "None such"}]
)
def test_a_preset_holds_nothing_that_no_plan_could(office: Office, settings: dict[str, Any]) -> None:
    with pytest.raises(HodcarrierError):
        preset(office, settings=settings)


def test_a_preset_is_made_of_a_site_but_for_what_is_its_own(office: Office) -> None:
    values = {"pages_max": 700, "path_prefix": "/shop/", "sitemaps": ["https://shop.example/map.xml"]}
    plans.change_plan(office.work, office.site.id, values, None, NOBODY)
    schedules.set_schedule(office.work, office.site.id, ScheduleBody(rule="weekly:TU", at="03:00", zone="Europe/London"), None)
    body = PresetBody(name="Like the shop", from_site=office.site.id, settings={"rate_per_s": 2})
    made = presets.add_preset(office.work, body, None)
    assert made.settings == {"pages_max": 700, "rate_per_s": 2.0}
    assert made.schedule is not None and (made.schedule.rule, made.schedule.at) == ("weekly:TU", "03:00")
    plans.change_plan(office.work, office.site.id, {"pages_max": 900}, None, NOBODY)
    again = presets.change_preset(office.work, made.id, PresetChange(from_site=office.site.id), None, NOBODY)
    assert again.settings == {"pages_max": 900} and again.schedule == made.schedule
