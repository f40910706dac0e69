"""Profiles that sites share: what they change in a run, and what is said of them."""

from __future__ import annotations

from typing import Any

import pytest

from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import Conflict, HodcarrierError, InvalidInput, InvalidPlan, NotFound
from hodcarrier.core.plan import SeverityChange
from hodcarrier.core.states import CheckOutcome, Severity
from hodcarrier.register.models import Member
from hodcarrier.usecases import benchmark_setup, benchmarks, plans, profiles, results, runs, sites
from hodcarrier.wire.benchmarks import BenchmarkBody
from hodcarrier.wire.profiles import ProfileBody, ProfileChange, ProfileOut
from hodcarrier.wire.sites import SiteBody
from tests.usecases.conftest import START, Office

NOBODY = Member(id=None, name="")
REASON = "Product pages are short here."
SHORT = (page(doc("<h1>Rope</h1><p>" + "strong rope " * 30)),)


@pytest.fixture
def shop(office: Office) -> ProfileOut:
    body = ProfileBody(
        name="Shop",
        checks_off=["data-org-missing"],
        thresholds={"words_min": 50},
        severities={"desc-missing": SeverityChange(Severity.HIGH, REASON)},
    )
    return profiles.add_profile(office.work, body, None)


def use(office: Office, name: str, **values: object) -> None:
    plans.change_plan(office.work, office.site.id, {"profile": name, **values}, None, NOBODY)


def outcome(office: Office, run_id: str, check: str) -> CheckOutcome:
    return results.get_check(office.work, run_id, check).outcome


def test_a_run_is_judged_by_the_profile_of_its_site(office: Office, shop: ProfileOut) -> None:
    before = office.audit(START, SHORT)
    use(office, "shop")
    after = office.audit(START, SHORT)
    assert (
        outcome(office, before, "text-thin") == CheckOutcome.FAILING
        and outcome(office, after, "text-thin") == CheckOutcome.PASSED
    )
    assert outcome(office, after, "data-org-missing") == CheckOutcome.OFF
    usual, changed = (results.get_check(office.work, run, "desc-missing") for run in (before, after))
    assert usual.severity == Severity.MEDIUM and usual.severity_change is None
    assert changed.severity == Severity.HIGH and changed.severity_change is not None
    assert (changed.severity_change.usual, changed.severity_change.reason, changed.severity_change.profile) == (
        "medium",
        REASON,
        "Shop",
    )
    assert changed.gain > usual.gain, "a high finding costs more health"
    found = runs.get_run(office.work, after)
    assert found.plan is not None and found.plan.profile == "Shop" and found.plan.thresholds == {"words_min": 50}
    assert found.changes is not None
    assert {s.name for s in found.changes.settings} == {"profile", "checks_off", "thresholds", "severities"}


def test_the_settings_of_the_site_win_over_its_profile(office: Office, shop: ProfileOut) -> None:
    own = {"desc-missing": {"severity": "low", "reason": "Nobody searches for these."}}
    use(office, "Shop", thresholds={"words_min": 70}, severities=own, checks_off=["title-short"])
    judged = runs.get_run(office.work, office.audit(START, SHORT)).plan
    assert judged is not None and judged.thresholds == {"words_min": 70}
    assert judged.severities["desc-missing"].severity == Severity.LOW
    assert judged.checks_off == ("data-org-missing", "title-short")
    assert plans.get_plan(office.work, office.site.id).values.checks_off == ("title-short",), "the plan keeps its own alone"


def test_a_profile_that_is_renamed_or_changed_holds_for_its_sites_from_the_next_run_on(office: Office, shop: ProfileOut) -> None:
    use(office, "Shop")
    first = office.audit(START, SHORT)
    changed = profiles.change_profile(office.work, shop.id, ProfileChange(name="Stores", thresholds={}), shop.version, NOBODY)
    assert (changed.version, [s.host for s in changed.sites]) == (2, ["shop.example"])
    assert changed.checks_off == ["data-org-missing"], "what is left out stays"
    assert plans.get_plan(office.work, office.site.id).values.profile == "Stores"
    second = office.audit(START, SHORT)
    assert [outcome(office, run, "text-thin") for run in (first, second)] == [CheckOutcome.PASSED, CheckOutcome.FAILING]
    kept = runs.get_run(office.work, first).plan
    assert kept is not None and kept.profile == "Shop", "a run keeps what it used"


def test_only_a_profile_that_nobody_uses_is_removed(office: Office, shop: ProfileOut) -> None:
    use(office, "Shop")
    with pytest.raises(Conflict, match=r"Shop is used by shop\.example\."):
        profiles.remove_profile(office.work, shop.id, NOBODY)
    use(office, "")
    profiles.remove_profile(office.work, shop.id, NOBODY)
    assert profiles.list_profiles(office.work) == []


def test_benchmarks_are_judged_by_the_catalogue_alone(office: Office, shop: ProfileOut) -> None:
    use(office, "Shop")
    other = sites.add_site(
        office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/", kind="competitor"), None
    )
    body = BenchmarkBody(name="All", site_id=office.site.id, competitor_ids=[other.id])
    benchmarks.start_round(office.work, benchmark_setup.add_benchmark(office.work, body, None).id)
    judged = [runs.get_run(office.work, run.id).plan for run in runs.list_runs(office.work).items]
    assert len(judged) == 2 and all(plan is not None and not plan.profile and not plan.severities for plan in judged)


def test_a_plan_is_copied_and_exported_with_its_profile(office: Office, shop: ProfileOut) -> None:
    use(office, "Shop")
    toml = plans.plan_toml(office.work, office.site.id)
    assert 'profile = "Shop"' in toml
    body = SiteBody(client_id=office.site.client_id, address="https://other.example/", plan={"profile": "SHOP"})
    other = sites.add_site(office.work, body, None)
    assert plans.get_plan(office.work, other.id).values.profile == "Shop"
    plans.replace_plan(office.work, other.id, plans.read_toml("rate_per_s = 2"), NOBODY)
    assert plans.get_plan(office.work, other.id).values.profile == ""
    plans.copy_plan(office.work, other.id, office.site.id, NOBODY)
    plans.replace_plan(office.work, office.site.id, plans.read_toml(toml), NOBODY)
    assert [s.host for s in profiles.get_profile(office.work, shop.id).sites] == ["other.example", "shop.example"]


@pytest.mark.parametrize(
    ("change", "error", "words"),
    [
        ({"name": "Blog"}, Conflict, "There is already a profile called Blog"),
        ({"name": "BLOG"}, Conflict, "There is already a profile called BLOG"),
        ({"checks_off": ["text-thim"]}, NotFound, "No check is called “text-thim”"),
        ({"thresholds": {"word_min": 3}}, InvalidInput, "No check has a limit called word_min"),
        ({"thresholds": {"words_min": -1}}, InvalidPlan, "The limit words_min is -1"),
        ({"severities": {"text-thin": {"severity": "low", "reason": " "}}}, InvalidPlan, "without a reason"),
    ],
)
def test_what_a_profile_cannot_say(
    office: Office, shop: ProfileOut, change: dict[str, Any], error: type[HodcarrierError], words: str
) -> None:
    profiles.add_profile(office.work, ProfileBody(name="Blog"), None)
    with pytest.raises(error, match=words):
        profiles.change_profile(office.work, shop.id, ProfileChange(**change), None, NOBODY)
    assert profiles.get_profile(office.work, shop.id) == shop, "nothing of it is kept"


def test_two_people_who_change_one_profile_do_not_lose_anything(office: Office, shop: ProfileOut) -> None:
    profiles.change_profile(office.work, shop.id, ProfileChange(note="For shops"), shop.version, NOBODY)
    with pytest.raises(Conflict, match="Somebody changed this profile"):
        profiles.change_profile(office.work, shop.id, ProfileChange(note="For stores"), shop.version, NOBODY)


def test_a_plan_that_names_a_profile_that_is_not_there(office: Office, shop: ProfileOut) -> None:
    with pytest.raises(NotFound) as refused:
        use(office, "Blog")
    assert (refused.value.message, refused.value.hint) == ("There is no profile called “Blog”.", "Profiles: Shop.")
