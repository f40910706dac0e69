"""The wait for the first byte is the server's, whatever this process was busy with; where that cannot be told, nothing is said."""

from __future__ import annotations

import asyncio
import socket
import threading
import time
from collections.abc import Iterator

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.plan import read_plan
from hodcarrier.crawl import waits
from hodcarrier.crawl.fetch import Fetched, HttpFetcher
from hodcarrier.crawl.waits import UNSURE_RATIO, UNSURE_S, Polls, Wait, told, watch

seconds = st.floats(0, 100)


@given(seconds, seconds)
def test_a_wait_is_told_only_where_its_bounds_are_close(one: float, other: float) -> None:
    latest, earliest = max(one, other), min(one, other)
    found = told(latest, earliest)
    if found is None:
        assert latest - earliest > UNSURE_S
    else:
        assert found == latest and latest - earliest <= max(UNSURE_S, UNSURE_RATIO * latest)


@pytest.mark.parametrize(
    ("polls", "since_segment", "found"),
    [
        # The loop slept until the bytes came.
        (Polls(before=10.2, asked=10.3, answered=11.0), 0.0, 1.0),
        # It was busy for 50 ms of a wait of a second: close enough.
        (Polls(before=10.95, asked=11.0, answered=11.0), 0.0, 1.0),
        # It was busy for 800 ms: the bytes may have come at any moment of them.
        (Polls(before=10.2, asked=11.0, answered=11.0), 0.0, None),
        # The same, but the kernel knows that they came 790 ms ago.
        (Polls(before=10.2, asked=11.0, answered=11.0), 0.79, 0.21),
        # It looked last before the request was sent.
        (Polls(before=9.0, asked=11.0, answered=11.0), 0.0, None),
        # Nothing is known of the loop.
        (None, 0.0, None),
    ],
)
def test_what_is_known_decides(
    polls: Polls | None, since_segment: float, found: float | None, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(waits, "_since_last_segment_s", lambda _: since_segment)
    monkeypatch.setattr(time, "perf_counter", lambda: 11.0)
    wait = Wait(10.0, polls)
    with socket.socket() as sock:
        wait.come(sock if polls else None)
    assert wait.has_come and wait.first_byte_s == (None if found is None else pytest.approx(found))


def test_a_loop_is_watched_once() -> None:
    async def play() -> None:
        loop = asyncio.get_running_loop()
        polls = watch(loop)
        assert polls is not None and watch(loop) is polls
        await asyncio.sleep(0)
        assert polls.before <= polls.asked <= polls.answered

    asyncio.run(play())


class Delayed:
    """Answers every request after it has been let go by a clock of its own, and notes for how long it has held each."""

    def __init__(self, delay_s: float) -> None:
        self.delay_s = delay_s
        self.held: dict[str, float] = {}
        self.listener = socket.create_server(("127.0.0.1", 0))
        self.address = f"http://127.0.0.1:{self.listener.getsockname()[1]}/"
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self) -> None:
        while True:
            try:
                line, _ = self.listener.accept()
            except OSError:
                return
            threading.Thread(target=self._answer, args=(line,), daemon=True).start()

    def _answer(self, line: socket.socket) -> None:
        pause = threading.Event()
        with line:
            while asked := line.recv(65_536):
                came = time.perf_counter()
                pause.wait(self.delay_s)
                self.held[asked.split()[1].decode()] = time.perf_counter() - came
                line.sendall(b"HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Length: 4\r\n\r\nRope")


@pytest.fixture(params=[0.03, 0.15])
def delayed(request: pytest.FixtureRequest) -> Iterator[Delayed]:
    server = Delayed(request.param)
    yield server
    server.listener.close()


@pytest.mark.parametrize("parallel", [1, 8])
def test_a_busy_crawl_never_makes_a_server_look_faster_or_slower_than_the_whole_answer(delayed: Delayed, parallel: int) -> None:
    """While answers are under way, the process works for a while at a time, as it does when it reads pages."""

    async def play() -> dict[str, Fetched]:
        plan = read_plan(
            {
                "start": [delayed.address],
                "private_addresses": ["127.0.0.0/8"],
                "rate_per_s": 1000,
                "parallel": parallel,
                "adaptive": False,
            }
        )
        found: dict[str, Fetched] = {}
        async with HttpFetcher(plan) as fetcher:

            async def fetch(number: int) -> None:
                found[f"/{number}"] = await fetcher.get(f"{delayed.address}{number}")
                end = time.process_time() + 0.004
                while time.process_time() < end:
                    pass

            await asyncio.gather(*(fetch(number) for number in range(3 * parallel)))
        return found

    found = asyncio.run(play())
    measured = {path: one.answer for path, one in found.items() if one.answer.first_byte_ms is not None}
    for path, answer in measured.items():
        assert delayed.held[path] * 1000 <= answer.first_byte_ms + 0.1 <= answer.total_ms + 0.2  # type: ignore[operator]
    assert len(found) == 3 * parallel and (parallel > 1 or measured)
