"""Private addresses that a plan permits: how they are written, and what they cover."""

from __future__ import annotations

import pytest

from hodcarrier.core.errors import InvalidPlan
from hodcarrier.core.plan import STORED, read_plan, read_stored_plan
from hodcarrier.core.web.permits import ALL_PRIVATE, read_permit


@pytest.mark.parametrize(
    ("text", "address", "port", "covered"),
    [
        ("127.0.0.1", "127.0.0.1", 1, True),
        ("127.0.0.1", "127.0.0.2", 1, False),
        ("127.0.0.1:9610", "127.0.0.1", 9610, True),
        ("127.0.0.1:9610", "127.0.0.1", 9611, False),
        ("10.1.0.0/16", "10.1.255.255", 80, True),
        ("10.1.0.0/16", "10.2.0.0", 80, False),
        ("10.1.0.0/16:8080", "10.1.2.3", 8080, True),
        ("10.1.0.0/16:8080", "10.1.2.3", 80, False),
        ("127.0.0.0/8", "::ffff:127.0.0.1", 80, True),
        ("127.0.0.0/8", "::1", 80, False),
        ("::1", "::1", 80, True),
        ("[fd00::1]:8080", "fd00::1", 8080, True),
        ("[fd00::1]:8080", "fd00::1", 80, False),
        ("[fd00::1]", "fd00::1", 80, True),
        ("fd00::/8", "fdff::1", 80, True),
        ("fe80::/10", "fe80::1%eth0", 80, True),
        ("0.0.0.0/0", "192.168.0.1", 80, True),
    ],
)
def test_what_a_permit_covers(text: str, address: str, port: int, covered: bool) -> None:
    assert read_permit(f" {text} ").covers(address, port) is covered


@pytest.mark.parametrize(
    "text",
    [
        "",
        "localhost",
        "10.1.0.1/16",
        "127.0.0.1:",
        "127.0.0.1:0",
        "127.0.0.1:65536",
        "127.0.0.1:http",
        "[::1",
        "[::1]8080",
        "300.0.0.1",
        "10.0.0.0/33",
    ],
)
def test_what_is_none_is_refused_in_words(text: str) -> None:
    with pytest.raises(InvalidPlan, match="no address or range") as caught:
        read_plan({"start": ["https://shop.example/"], "private_addresses": [text]})
    assert caught.value.field == "private_addresses"


def test_a_plan_that_permitted_all_private_addresses_does_so_still() -> None:
    stored = {"version": 1, "start": ["http://shop.example/"], "allow_private": True}
    assert STORED.load(stored).private_addresses == ALL_PRIVATE
    assert STORED.load({**stored, "allow_private": False}).private_addresses == ()
    unversioned = {"start": ["http://shop.example/"], "allow_private": True, "retired_setting": 1}
    assert read_stored_plan(unversioned).private_addresses == ALL_PRIVATE
