"""A plan that reaches less than another: every setting that can narrow it is noticed, and nothing else."""

from __future__ import annotations

from dataclasses import fields
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.plan import Plan, read_plan
from hodcarrier.core.reach import narrowed

START = "https://shop.example/"


def plan(**values: Any) -> Plan:
    return read_plan({"start": [START], **values})


@pytest.mark.parametrize(
    ("name", "wide", "narrow"),
    [
        ("start", [START, "https://shop.example/de/"], [START]),
        ("subdomains", True, False),
        ("path_prefix", "", "/guides/"),
        ("path_prefix", "/guides/", "/guides/knots/"),
        ("include", [], ["/guides/*"]),
        ("include", ["/guides/*", "/rope/*"], ["/guides/*"]),
        ("exclude", [], ["/rope/*"]),
        ("exclude", ["/rope/*"], ["/rope/*", "/guides/*"]),
        ("use_links", True, False),
        ("use_sitemaps", True, False),
        ("sitemaps", ["https://shop.example/more.xml"], []),
        ("addresses", ["https://shop.example/alone"], []),
        ("check_files", True, False),
        ("depth_max", 10, 3),
        ("url_chars_max", 2000, 500),
        ("pattern_pages_max", 500, 100),
        ("query_pages_max", 500, 100),
        ("obey_robots", False, True),
        ("obey_nofollow", False, True),
        ("obey_noindex", False, True),
        ("obey_canonical", False, True),
        ("drop_parameters", [], ["sid"]),
        ("keep_parameters", [], ["page"]),
        ("keep_parameters", ["page", "size"], ["page"]),
    ],
)
def test_what_narrows_a_plan(name: str, wide: Any, narrow: Any) -> None:
    assert narrowed(plan(**{name: wide}), plan(**{name: narrow})) == (name,)
    assert narrowed(plan(**{name: narrow}), plan(**{name: wide})) == ()


def test_a_prefix_beside_another_reaches_less_either_way() -> None:
    guides, rope = plan(path_prefix="/guides/"), plan(path_prefix="/rope/")
    assert narrowed(guides, rope) == narrowed(rope, guides) == ("path_prefix",)


@pytest.mark.parametrize(
    "values",
    [
        {"rate_per_s": 1},
        {"pages_max": 5},
        {"appearance": "phone"},
        {"thresholds": {"title_max": 50}},
        {"check_external": False},
        {"checks_off": ["title-long"]},
    ],
)
def test_what_leaves_reach_as_it_is(values: dict[str, Any]) -> None:
    assert narrowed(plan(), plan(**values)) == narrowed(plan(**values), plan()) == ()


NAMES = [f.name for f in fields(Plan)]
LISTS = st.lists(st.sampled_from(["/a/*", "/b/*", "/c/*"]), unique=True)
PLANS = st.builds(
    plan,
    subdomains=st.booleans(),
    path_prefix=st.sampled_from(["", "/a/", "/a/b/", "/c/"]),
    include=LISTS,
    exclude=LISTS,
    use_links=st.just(True),
    use_sitemaps=st.booleans(),
    depth_max=st.integers(1, 5),
    obey_robots=st.booleans(),
)


@given(PLANS, PLANS, PLANS)
def test_reach_is_an_order(one: Plan, two: Plan, three: Plan) -> None:
    assert narrowed(one, one) == ()
    if not narrowed(one, two) and not narrowed(two, three):
        assert not narrowed(one, three)
