"""Guard rails and pace: tables of addresses, arithmetic on a given clock."""

from __future__ import annotations

import asyncio
import socket
from datetime import UTC, datetime
from itertools import pairwise
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.plan import read_plan
from hodcarrier.crawl.guard import Guard, GuardedResolver, RefusedAddress, is_public, literal_address
from hodcarrier.crawl.pace import BASELINE_ANSWERS, HOLD_MAX_S, TIMER_S, Pace, retry_after_s


@pytest.mark.parametrize(
    "address",
    [
        "127.0.0.1",
        "127.255.255.254",
        "10.0.0.1",
        "172.16.0.1",
        "172.31.255.255",
        "192.168.1.1",
        "169.254.169.254",
        "100.64.0.1",
        "0.0.0.0",
        "224.0.0.1",
        "255.255.255.255",
        "192.0.2.1",
        "198.18.0.1",
        "::1",
        "::",
        "fe80::1",
        "fe80::1%eth0",
        "fc00::1",
        "fd12:3456::1",
        "ff02::1",
        "::ffff:127.0.0.1",
        "::ffff:10.0.0.1",
        "64:ff9b::7f00:1",
        "64:ff9b::a9fe:a9fe",
        "64:ff9b:1::1",
        "2002:7f00:1::",
        "2002:a00:1::1",
        "2001:0:4136:e378:8000:63bf:3fff:fdd2",
        "2001:db8::1",
    ],
)
def test_private_addresses(address: str) -> None:
    assert not is_public(address)


@pytest.mark.parametrize(
    "address", ["9.9.9.9", "172.32.0.1", "2606:4700::1111", "::ffff:9.9.9.9", "64:ff9b::909:909", "2002:909:909::1"]
)
def test_public_addresses(address: str) -> None:
    assert is_public(address)


@pytest.mark.parametrize(
    ("host", "expected"), [("127.0.0.1", "127.0.0.1"), ("[::1]", "::1"), ("shop.example", None), ("1.2.3", None)]
)
def test_literals(host: str, expected: str | None) -> None:
    assert literal_address(host) == expected


def resolve(resolver: GuardedResolver, host: str, port: int) -> list[tuple[str, int]]:
    return [(r["host"], r["port"]) for r in asyncio.run(resolver.resolve(host, port))]


def test_names_that_resolve_to_loopback_are_refused() -> None:
    with pytest.raises(RefusedAddress, match="private"):
        resolve(GuardedResolver({}, Guard()), "localhost", 80)


def test_the_operator_may_permit_them() -> None:
    assert ("127.0.0.1", 80) in resolve(
        GuardedResolver({}, Guard.of(read_plan({"start": ["http://localhost/"], "private_addresses": ["127.0.0.0/8", "::1"]}))),
        "localhost",
        80,
    )


def test_host_mapping_is_for_its_host_and_port_alone() -> None:
    resolver = GuardedResolver({"shop.example:443": "127.0.0.1:9443", "six.example:80": "[::1]:81"}, Guard())
    assert resolve(resolver, "shop.example", 443) == [("127.0.0.1", 9443)]
    assert resolve(resolver, "six.example", 80) == [("::1", 81)]
    families = [asyncio.run(resolver.resolve(*place))[0]["family"] for place in (("shop.example", 443), ("six.example", 80))]
    assert families == [socket.AF_INET, socket.AF_INET6]


def test_names_that_change_are_checked_every_time(monkeypatch: pytest.MonkeyPatch) -> None:
    answers = iter(["9.9.9.9", "127.0.0.1"])

    async def getaddrinfo(*_args: object, **_more: object) -> list[tuple[object, ...]]:
        return [(2, 1, 6, "", (next(answers), 80))]

    async def twice() -> None:
        monkeypatch.setattr(asyncio.get_running_loop(), "getaddrinfo", getaddrinfo)
        resolver = GuardedResolver({}, Guard())
        assert (await resolver.resolve("rebind.example", 80))[0]["host"] == "9.9.9.9"
        with pytest.raises(RefusedAddress):
            await resolver.resolve("rebind.example", 80)

    asyncio.run(twice())


def test_private_addresses_among_public_ones_are_left_out(monkeypatch: pytest.MonkeyPatch) -> None:
    async def getaddrinfo(*_args: object, **_more: object) -> list[tuple[object, ...]]:
        return [(2, 1, 6, "", ("10.0.0.1", 80)), (2, 1, 6, "", ("9.9.9.9", 80))]

    async def once() -> list[str]:
        monkeypatch.setattr(asyncio.get_running_loop(), "getaddrinfo", getaddrinfo)
        return [r["host"] for r in await GuardedResolver({}, Guard()).resolve("mixed.example", 80)]

    assert asyncio.run(once()) == ["9.9.9.9"]


def starts_of(pace: Pace, gaps: list[float]) -> list[float]:
    """When requests start that somebody wants to send after these gaps."""
    now, starts = 0.0, []
    for gap in gaps:
        now += gap
        now += pace.wait_s(now)
        pace.start(now)
        starts.append(now)
    return starts


@given(st.lists(st.floats(0, 3), max_size=80), st.floats(0.2, 30))
def test_no_second_holds_more_starts_than_the_rate(gaps: list[float], rate: float) -> None:
    starts = starts_of(Pace(rate), gaps)
    assert all(b - a >= 1 / rate - 1e-9 for a, b in pairwise(starts))
    for n, first in enumerate(starts):
        assert sum(1 for t in starts[n:] if t < first + 1.0 - 1e-9) <= max(1, int(rate))


def test_a_hold_delays_the_next_start() -> None:
    pace = Pace(5)
    pace.start(10.0)
    pace.hold(10.0, 5.0)
    assert pace.wait_s(10.1) == pytest.approx(4.9)


def test_a_hold_has_an_end() -> None:
    pace = Pace(5)
    pace.hold(0.0, 1e9)
    assert pace.wait_s(0.0) == HOLD_MAX_S


def test_slowing_down_never_speeds_up() -> None:
    pace = Pace(2)
    pace.slow_to(0.1)
    assert pace.interval_s == 0.5
    pace.slow_to(2.0)
    assert pace.interval_s == 2.0


@given(st.integers(0), st.floats(0, 0.02), st.floats(101, 1000))
def test_fine_intervals_are_caught_up_and_the_rate_is_kept_all_the_same(seed: int, gap_max: float, rate: float) -> None:
    random = Random(seed)
    starts = starts_of(Pace(rate), [random.uniform(0, gap_max) for _ in range(1500)])
    assert all(later - earlier > 1.0 for earlier, later in zip(starts, starts[int(rate) :], strict=False))
    few = int(TIMER_S * rate) + 1
    assert all(later - earlier >= few / rate - TIMER_S - 1e-9 for earlier, later in zip(starts, starts[few:], strict=False))


def test_a_request_that_started_late_does_not_delay_the_next_at_a_fine_interval() -> None:
    pace = Pace(500)
    for start in (0.0, 0.009, 0.009, 0.009):
        assert pace.wait_s(start) == 0.0
        pace.start(start)
    slow = Pace(50)
    slow.start(0.0)
    slow.start(0.035)
    assert slow.wait_s(0.036) == pytest.approx(0.019)


def test_trouble_halves_the_pace_and_good_answers_bring_it_back_slowly() -> None:
    pace = Pace(10)
    for _ in range(10):
        pace.note_answer(50)
    pace.note_trouble()
    pace.note_trouble()
    assert pace.slower == 4.0 and pace.interval_s == pytest.approx(0.4)
    seen = []
    for _ in range(400):
        pace.note_answer(50)
        seen.append(pace.slower)
    assert seen[18] == 4.0 and seen[-1] == 1.0
    assert all(a >= b for a, b in pairwise(seen)), "it only recovers while answers are good"


def test_answers_twice_as_slow_as_usual_slow_us_down_by_a_virtual_clock() -> None:
    pace, now = Pace(10), 0.0

    def ask(times: int, answer_ms: float) -> float:
        nonlocal now
        began = now
        for _ in range(times):
            now += pace.wait_s(now)
            pace.start(now)
            now += answer_ms / 1000
            pace.note_answer(answer_ms)
        return times / (now - began)

    ask(10, 300)
    usual = ask(50, 300)
    assert pace.slower == 1.0
    ask(60, 900)
    assert pace.slower > 3
    assert ask(10, 900) < usual / 2
    for _ in range(6):
        ask(100, 300)
    assert pace.slower == 1.0


def test_a_pace_that_is_not_adaptive_stays_as_it_is() -> None:
    pace = Pace(10, adaptive=False)
    for _ in range(40):
        pace.note_trouble()
        pace.note_answer(9000)
    assert pace.interval_s == pytest.approx(0.1)


@pytest.mark.parametrize(
    ("value", "expected"),
    [
        ("5", 5.0),
        (" 120 ", 120.0),
        ("Tue, 24 Nov 2026 02:01:00 GMT", 60.0),
        ("Tue, 24 Nov 2026 01:00:00 GMT", 0.0),
        ("soon", None),
        ("", None),
        ("-5", None),
    ],
)
def test_retry_after(value: str, expected: float | None) -> None:
    assert retry_after_s(value, datetime(2026, 11, 24, 2, 0, tzinfo=UTC)) == expected


def test_a_host_that_gets_slow_is_asked_half_again_more_slowly_each_time() -> None:
    pace = Pace(10)
    for _ in range(BASELINE_ANSWERS):
        pace.note_answer(50)
    assert pace.slower == 1
    steps = []
    for _ in range(BASELINE_ANSWERS * 4):
        before = pace.slower
        pace.note_answer(5000)
        if pace.slower != before:
            steps.append(pace.slower)
    assert steps == [1.5, 2.25, 3.375, 5.0625]


def test_a_slow_host_is_not_called_slower_while_it_answers_as_usual() -> None:
    """Usual is a second: 1.3 s is within twice of that, 2.3 s is not."""
    for first_byte_ms, slower in ((1300.0, False), (2300.0, True)):
        pace = Pace(10.0)
        for _ in range(BASELINE_ANSWERS):
            pace.note_answer(1000.0)
        for _ in range(40):
            pace.note_answer(first_byte_ms)
        assert (pace.slower > 1.0) is slower
