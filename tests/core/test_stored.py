"""Stored values outlive releases: every version that was ever written is lifted, a later one is refused in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.errors import DamagedRecord
from hodcarrier.core.plan import STORED as PLAN
from hodcarrier.core.plan import Plan, plan_values, read_plan
from hodcarrier.core.states import Change
from hodcarrier.core.stored import Format
from hodcarrier.core.summary import CHANGES, ROUND, SUMMARY, RunChanges, SettingChange
from hodcarrier.report.values import STORED as REPORT
from tests.runfile.test_runfile import SITE
from tests.sample_site import audit


@dataclass(frozen=True)
class Rope:
    length_m: float
    colour: str = "white"


ROPE = Format(Rope, "rope", 2, {0: lambda v: {"metres": v["m"]}, 1: lambda v: {"length_m": v["metres"]}})


@pytest.mark.parametrize("stored", [{"m": 3}, {"version": 1, "metres": 3}, {"version": 2, "length_m": 3}])
def test_every_version_is_lifted(stored: dict[str, Any]) -> None:
    assert ROPE.load(stored) == Rope(3.0)


@given(st.builds(Rope, st.floats(allow_nan=False, allow_infinity=False), st.text()))
def test_a_value_comes_back_as_it_went_in(rope: Rope) -> None:
    assert ROPE.load(ROPE.dump(rope)) == rope and ROPE.dump(rope)["version"] == 2


@pytest.mark.parametrize(
    ("stored", "words"),
    [
        ({"version": 3, "length_m": 1}, "later release"),
        ({"version": "x"}, "later release"),
        ({"version": 2}, "cannot be read"),
        ({"version": 2, "length_m": "long"}, "cannot be read"),
        ({}, "cannot be read"),
    ],
)
def test_what_cannot_be_read_is_told(stored: dict[str, Any], words: str) -> None:
    with pytest.raises(DamagedRecord, match=words):
        ROPE.load(stored)


def test_a_plan_of_an_older_release_loses_what_is_no_longer_there_and_gains_defaults() -> None:
    plan = read_plan({"start": ["https://shop.example/"], "pages_max": 7})
    old = {**plan_values(plan), "no_longer": True}
    del old["obey_noindex"]
    assert PLAN.load(old) == plan
    assert PLAN.load(PLAN.dump(plan)) == plan


def test_a_summary_without_a_version_is_read(monkeypatch: pytest.MonkeyPatch) -> None:
    _, summary = audit(SITE)
    old = {k: v for k, v in summary.items() if k not in ("probes", "catalogue")}
    for figures in old["checks"].values():
        figures.pop("summary")
        figures.pop("subject")
    read = SUMMARY.load(old)
    assert read.health == summary["health"] and read.measures.health == summary["health"] and read.probes is None


def test_changes_without_a_version_had_triples_for_settings() -> None:
    old = {
        "counts": {"new": 2, "returned": 1, "still-there": 3},
        "by_check": [{"check": "title-long", "severity": "medium", "summary": "Long", "counts": {"new": 2}}],
        "settings": [["pages_max", "10", "20"]],
        "robots_changed": True,
        "newly_blocked": 4,
        "todos_confirmed": 1,
    }
    read = CHANGES.load(old)
    assert (
        read.settings == [SettingChange("pages_max", "10", "20")] and read.new == 2 and read.by_check[0].counts[Change.NEW] == 2
    )
    assert CHANGES.load(CHANGES.dump(read)) == read
    assert CHANGES.load({"counts": {}, "by_check": [], "settings": []}) == RunChanges({}, [], [])


@pytest.mark.parametrize("form", [PLAN, SUMMARY, CHANGES, ROUND, REPORT], ids=lambda f: f.noun)
def test_every_stored_kind_has_a_lift_from_each_version_before(form: Format[Any]) -> None:
    released = range(0 if form is not ROUND else 1, form.version)
    assert set(form.lifts) == set(released), "rounds were not stored before they had a version"


def test_plans_are_values() -> None:
    assert Plan() == Plan() and Plan(start=("https://a.example/",)).host == "a.example"
