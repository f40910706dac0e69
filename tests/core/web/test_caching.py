"""How long browsers keep an answer."""

from __future__ import annotations

import pytest

from hodcarrier.core.web.caching import directives, freshness_s

DATE = "Tue, 24 Nov 2026 02:00:00 GMT"


@pytest.mark.parametrize(
    ("cache_control", "expires", "seconds"),
    [
        ("max-age=600", "", 600),
        ('public, MAX-AGE="60"', "", 60),
        ("max-age=600, no-cache", "", 0),
        ("no-store", "", 0),
        ("private", "", None),
        ("", "", None),
        ("", "Tue, 24 Nov 2026 03:00:00 GMT", 3600),
        ("", "Tue, 24 Nov 2026 01:00:00 GMT", 0),
        ("", "0", 0),
        ("max-age=soon", "Tue, 24 Nov 2026 02:00:09 GMT", 9),
        ("max-age=60", "Tue, 24 Nov 2026 03:00:00 GMT", 60),
    ],
)
def test_freshness(cache_control: str, expires: str, seconds: int | None) -> None:
    assert freshness_s(cache_control, expires, DATE) == seconds


def test_an_expiry_without_a_date_to_reckon_from_says_nothing() -> None:
    assert freshness_s("", "Tue, 24 Nov 2026 03:00:00 GMT", "") is None


def test_directives_are_named_in_lower_case_and_the_first_counts() -> None:
    assert directives("Max-Age=1, max-age=2, s-maxage=3, public") == {"max-age": "1", "s-maxage": "3", "public": ""}
