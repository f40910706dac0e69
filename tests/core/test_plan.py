"""Plans from plain values: every wrong one is named with its field, and what is right comes back as it went in."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core import plan as plan_module
from hodcarrier.core.errors import InvalidPlan
from hodcarrier.core.plan import RANGES, Plan, differences, plan_values, read_plan

SHOP = "https://shop.example/"


@pytest.mark.parametrize(
    ("values", "field", "words"),
    [
        ({"start": []}, "start", "no start address"),
        ({"start": ["shop"]}, "start", "not a full host name"),
        ({"start": ["https://[half"]}, "start", "not a web address"),
        ({"sitemaps": ["ftp://x.example/s.xml"]}, "sitemaps", "not"),
        ({"addresses": [SHOP] * 50_001}, "addresses", "50,001"),
        ({"path_prefix": "shop"}, "path_prefix", "not a path"),
        ({"robots_token": "Bot/1.0"}, "robots_token", "not a product token"),
        ({"robots_token": ""}, "robots_token", "not a product token"),
        ({"appearance": "tablet"}, "appearance", "no appearance"),
        ({"drop_parameters": ["a"], "keep_parameters": ["b"]}, "keep_parameters", "both"),
        ({"include": ["regex:("]}, "include", "expression"),
        ({"exclude": ["shop"]}, "exclude", "pattern"),
        ({"agent": "Bot\r\nX-Evil: 1"}, "agent", "no header may carry"),
        ({"agent": "Bötchen"}, "agent", "no header may carry"),
        ({"time_zone": "Mars/North"}, "time_zone", "no time zone"),
        ({"time_zone": "../etc/passwd"}, "time_zone", "no time zone"),
        ({"host_map": {"shop.example": "127.0.0.1:80"}}, "host_map", "cannot be read"),
        ({"host_map": {"shop.example:80": "127.0.0.1"}}, "host_map", "cannot be read"),
        ({"host_map": {"shop.example:80": "127.0.0.1:http"}}, "host_map", "cannot be read"),
    ],
)
def test_wrong_values_are_named(values: dict[str, Any], field: str, words: str) -> None:
    with pytest.raises(InvalidPlan) as caught:
        read_plan({"start": [SHOP], **values})
    assert caught.value.field == field and words in caught.value.message and caught.value.hint


@pytest.mark.parametrize(
    "values", [{"speed": 3}, {"pages_max": "many"}, {"start": SHOP, "use_links": "perhaps"}, {"thresholds": [1]}]
)
def test_values_of_the_wrong_shape_are_refused(values: dict[str, Any]) -> None:
    with pytest.raises(InvalidPlan, match="cannot be used"):
        read_plan({"start": [SHOP], **values})


@pytest.mark.parametrize("name", RANGES)
def test_figures_have_ranges(name: str) -> None:
    low, high, unit = RANGES[name]
    for value in (low, high):
        assert getattr(read_plan({"start": [SHOP], name: value}), name) == value
    for value in (low - 1, high + 1):
        with pytest.raises(InvalidPlan, match=name) as caught:
            read_plan({"start": [SHOP], name: value})
        assert unit in caught.value.hint


def test_addresses_are_read_as_people_type_them_and_kept_once() -> None:
    plan = read_plan({"start": ["shop.example", SHOP, "shop.example/en"], "addresses": [SHOP + "a#x", SHOP + "a"]})
    assert plan.start == (SHOP, SHOP + "en")
    assert plan.addresses == (SHOP + "a",)


@pytest.mark.parametrize(
    ("start", "host"),
    [(SHOP, "shop.example"), ("http://shop.example", "shop.example"), ("https://shop.example:8443/", "shop.example:8443")],
)
def test_the_first_start_address_decides_the_host(start: str, host: str) -> None:
    assert read_plan({"start": [start, "https://other.example/"]}).host == host


def test_an_appearance_changes_the_agent_but_not_the_token() -> None:
    own, phone = (read_plan({"start": [SHOP], "appearance": name, "agent": "Our/1"}) for name in ("own", "phone"))
    assert own.user_agent == "Our/1" and "Mobile" in phone.user_agent
    assert own.robots_token == phone.robots_token == "HodcarrierBot"


@given(
    st.fixed_dictionaries(
        {},
        optional={
            "pages_max": st.integers(1, 5_000_000),
            "rate_per_s": st.floats(0.01, 1000),
            "include": st.lists(st.sampled_from(["/a/*", "/b", "regex:x+"]), max_size=3),
            "thresholds": st.dictionaries(st.sampled_from(["words_min", "title_chars_max"]), st.floats(0, 1000)),
            "obey_robots": st.booleans(),
            "expected": st.lists(st.text(max_size=20), max_size=3),
        },
    )
)
def test_a_plan_comes_back_from_its_values(values: dict[str, Any]) -> None:
    plan = read_plan({"start": [SHOP], **values})
    assert read_plan(plan_values(plan)) == plan
    assert {name for name, _, _ in differences(Plan(start=(SHOP,)), plan)} <= set(values)


def test_a_list_may_have_just_as_many_addresses_as_the_limit(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(plan_module, "LIST_MAX", 3)
    addresses = [f"{SHOP}{n}" for n in range(4)]
    assert len(read_plan({"start": [SHOP], "addresses": addresses[:3]}).addresses) == 3
    with pytest.raises(InvalidPlan, match="addresses holds 4 addresses"):
        read_plan({"start": [SHOP], "addresses": addresses})
