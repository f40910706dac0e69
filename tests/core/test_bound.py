"""Where the secrets of a site may go."""

from __future__ import annotations

import pytest

from hodcarrier.core.bound import Bound
from hodcarrier.core.plan import Plan, read_plan


def plan(*start: str, **more: object) -> Plan:
    return read_plan({"start": list(start or ("https://shop.example/",)), **more})


@pytest.mark.parametrize(
    ("entered", "url", "sent"),
    [
        (plan(), "https://shop.example/a?b", True),
        (plan(), "http://shop.example/", False),
        (plan(), "https://shop.example:8443/", False),
        (plan(), "https://www.shop.example/", False),
        (plan(), "https://shop.example.evil.example/", False),
        (plan(), "https://evilshop.example/", False),
        (plan(subdomains=True), "https://www.shop.example/", True),
        (plan(subdomains=True), "https://evilshop.example/", False),
        (plan(subdomains=True), "http://www.shop.example/", False),
        (plan("http://shop.example/"), "http://shop.example/", True),
        (plan("http://shop.example/"), "https://shop.example/", True),
        (plan("http://shop.example:8080/"), "http://shop.example/", False),
        (plan("http://shop.example:8080/"), "https://shop.example/", False),
        (plan("https://shop.example/", "https://other.example/"), "https://other.example/", True),
    ],
)
def test_secrets_go_where_they_were_entered_for(entered: Plan, url: str, sent: bool) -> None:
    assert Bound.of(entered).covers(url, {}) is sent


def test_another_way_to_the_same_host_is_another_place() -> None:
    bound = Bound.of(plan(host_map={"shop.example:443": "127.0.0.1:9443"}))
    assert bound.covers("https://shop.example/", {"shop.example:443": "127.0.0.1:9443"})
    assert bound.covers("https://shop.example/", {"shop.example:443": "127.0.0.1:9443", "other.example:443": "127.0.0.1:9"})
    assert not bound.covers("https://shop.example/", {"shop.example:443": "127.0.0.1:9444"})
    assert not bound.covers("https://shop.example/", {})
    assert not Bound.of(plan()).covers("https://shop.example/", {"shop.example:443": "127.0.0.1:9443"})


def test_a_plan_that_leads_elsewhere_is_told() -> None:
    bound = Bound.of(plan())
    assert bound.why_withheld(plan("https://shop.example/en/")) == ""
    said = bound.why_withheld(plan("https://other.example/"))
    assert "entered for https://shop.example and is not sent to https://other.example: enter it again" in said
    assert Bound().covers("https://shop.example/", {}) is False
