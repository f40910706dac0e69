"""Patterns that people type: what they match, what is refused, and that none of them can hold up a crawl."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.errors import InvalidPlan
from hodcarrier.core.web.patterns import PATTERN_CHARS_MAX, compile_pattern, is_pattern, matches

SHOP = "https://shop.example"


@pytest.mark.parametrize(
    ("pattern", "url", "found"),
    [
        ("/shop/*", "/shop/rope?page=2", True),
        ("/shop", "/shop/rope", False),
        ("/shop/*.html", "/shop/a/b.html", True),
        ("/shop/*.html", "/shop/a/b.htmlx", False),
        ("/a.b", "/aXb", False),
        ("*rope*", "/x/rope/y", True),
        (SHOP + "/a*", "/abc", True),
        ("https://other.example/*", "/abc", False),
        (r"regex:/p\d+$", "/p12", True),
        (r"regex:/p\d+$", "/p12x", False),
        ("regex:(?i)ROPE", "/rope", True),
        (r"regex:\A(?s:https://shop\.example/a.c)\Z", "/abc", True),
        (r"regex:\A(?s:https://shop\.example/a.c)\Z", "/abcd", False),
        (r"regex:/a\\Z", "/a", False),
    ],
)
def test_what_a_pattern_matches(pattern: str, url: str, found: bool) -> None:
    assert matches(pattern, SHOP + url) is found


@pytest.mark.parametrize("pattern", [r"regex:(a+)+$", r"regex:(a|aa)+$", r"regex:(.*a){30}$", "/" + "*a" * 500 + "b"])
def test_catastrophic_patterns_are_ordinary_ones(pattern: str) -> None:
    """With a matcher that backtracks, each of these takes longer than the universe is old."""
    assert matches(pattern, f"{SHOP}/{'a' * 1800}!") is False


@pytest.mark.parametrize(
    "pattern",
    [
        "regex:(",
        "regex:[",
        r"regex:(a)\1",
        "regex:(?=x)",
        "regex:(?<!x)y",
        "regex:a{1,100000}",
        "regex:((a{1,200}){1,200}){1,200}",
        "shop",
        "",
    ],
)
def test_what_cannot_be_used_is_refused_with_what_to_do(pattern: str) -> None:
    with pytest.raises(InvalidPlan) as refused:
        compile_pattern(pattern)
    assert refused.value.hint and not is_pattern(pattern)


def test_a_pattern_may_have_just_as_many_characters_as_the_limit() -> None:
    assert is_pattern("/" + "a" * (PATTERN_CHARS_MAX - 1))
    assert not is_pattern("/" + "a" * PATTERN_CHARS_MAX)


@given(st.text(max_size=40), st.text("ab/.?*(", max_size=30))
def test_any_text_is_a_pattern_or_is_refused(pattern: str, path: str) -> None:
    for text in (pattern, "/" + pattern, "regex:" + pattern):
        if is_pattern(text):
            assert matches(text, f"{SHOP}/{path}") in (True, False)
