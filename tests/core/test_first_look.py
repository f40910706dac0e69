"""Settings that suit a site, from a first look at it."""

from __future__ import annotations

from dataclasses import replace
from datetime import time

import pytest

from hodcarrier.core.first_look import LIMITS, Glance, minutes_of, propose, propose_rule, quiet_start
from hodcarrier.core.plan import Plan

GLANCE = Glance(
    asked="https://shop.example/",
    address="https://shop.example/",
    fetched=12,
    listed=400,
    known=90,
    first_byte_ms=120.0,
    page_bytes=40_000.0,
    robots="there",
    sitemaps=1,
    delay_s=None,
    languages=("en",),
    generator="",
    server="",
)


def proposed(**seen: object) -> dict[str, object]:
    return {each.name: each.value for each in propose(replace(GLANCE, **seen))}  # type: ignore[arg-type]


def test_an_ordinary_site_is_audited_with_the_defaults() -> None:
    assert proposed() == {}


def test_where_the_url_redirects_the_crawl_begins() -> None:
    assert proposed(asked="http://shop.example/", address="https://www.shop.example/") == {"start": ["https://www.shop.example/"]}
    assert proposed(asked="https://shop.example/", address="https://shop.example/en/") == {}, (
        "another path is the site's own affair"
    )


@pytest.mark.parametrize(("listed", "limit"), [(6_666, None), (6_667, 20_000), (13_334, 50_000), (9_000_000, LIMITS[-1])])
def test_a_large_site_gets_a_limit_with_room_to_grow(listed: int, limit: int | None) -> None:
    assert proposed(listed=listed).get("pages_max") == limit


@pytest.mark.parametrize(("first_byte_ms", "slow"), [(800.0, False), (801.0, True), (None, False)])
def test_a_slow_site_is_crawled_slowly(first_byte_ms: float | None, slow: bool) -> None:
    assert ("rate_per_s" in proposed(first_byte_ms=first_byte_ms)) is slow


def test_an_audit_lasts_as_long_as_the_slower_of_plan_and_robots_txt() -> None:
    assert minutes_of(GLANCE, Plan(rate_per_s=5)) == pytest.approx(400 / 5 / 60)
    slow = replace(GLANCE, delay_s=10.0)
    assert minutes_of(slow, Plan(rate_per_s=5)) == pytest.approx(400 * 10 / 60)
    assert minutes_of(slow, Plan(rate_per_s=5, obey_crawl_delay=False)) == pytest.approx(400 / 5 / 60)
    assert minutes_of(GLANCE, Plan(rate_per_s=5, pages_max=100)) == pytest.approx(100 / 5 / 60)


@pytest.mark.parametrize(("minutes", "rule"), [(360.0, "weekly:TU"), (361.0, "monthly:1")])
def test_what_takes_longer_than_a_night_is_audited_monthly(minutes: float, rule: str) -> None:
    assert propose_rule(minutes)[0] == rule


def test_a_start_is_where_the_fewest_are() -> None:
    assert quiet_start([]) == time(1)
    assert quiet_start(["01:00", "01:30", "02:00"]) == time(2, 30)
    taken = [f"{hour:02}:{minute:02}" for hour in range(1, 6) for minute in (0, 30)]
    assert quiet_start([*taken, "01:00"]) == time(1, 30)
