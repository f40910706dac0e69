"""How long an answer let us wait for its first byte, by what the socket knows, however busy this process was meanwhile.

A callback that a byte has come is late by the work that it had to wait for. What is known for certain: when the socket was last looked at and
held nothing, and, from the kernel (``tcp_info`` of Linux), how long ago its last segment came. Between the two lies the moment that is
sought; where they are far apart, nothing is said.
"""

from __future__ import annotations

import asyncio
import selectors
import socket
import struct
import time
from dataclasses import dataclass
from typing import Any

# The moment is known well enough when its bounds are no further apart than this part of the wait, or this long.
UNSURE_RATIO, UNSURE_S = 0.08, 0.001
# The kernel counts in ticks of its clock, which last 10 ms at most.
TICK_S = 0.01
# Shorter than this, nobody waited for anything: what was asked for was there already.
BLOCKED_S = 0.000_1
# struct tcp_info of linux/tcp.h: eight bytes, then 32-bit numbers, of which the twelfth is tcpi_last_data_recv, in milliseconds.
_LAST_DATA = struct.Struct("=52xI")


@dataclass
class Polls:
    """When an event loop has asked for what came over its sockets: at last, and the time before. Seconds of ``time.perf_counter``."""

    before: float = 0.0
    asked: float = 0.0
    answered: float = 0.0


def watch(loop: asyncio.AbstractEventLoop) -> Polls | None:
    """Note from now on when a loop looks at its sockets; ``None`` for loops that do it in a way of their own."""
    selector = getattr(loop, "_selector", None)
    if not isinstance(selector, selectors.BaseSelector):
        return None
    noted: Polls | None = getattr(selector, "polls", None)
    if noted is not None:
        return noted
    polls, select = Polls(), selector.select

    def noting(timeout: float | None = None) -> Any:
        polls.before, polls.asked = polls.answered, time.perf_counter()
        found = select(timeout)
        polls.answered = time.perf_counter()
        return found

    selector.polls = polls  # type: ignore[attr-defined]
    selector.select = noting  # type: ignore[method-assign]
    return polls


@dataclass
class Wait:
    """The wait for one answer, from when its request was sent. ``first_byte_s`` is ``None`` until then, and when it cannot be told."""

    sent: float
    polls: Polls | None = None
    has_come: bool = False
    first_byte_s: float | None = None

    def come(self, sock: socket.socket | None) -> None:
        """The first bytes are here."""
        self.has_come = True
        now = time.perf_counter()
        latest = now - (_since_last_segment_s(sock) if sock is not None else 0.0)
        if self.polls is None:
            earliest = latest if sock is not None else self.sent
        else:
            latest = min(latest, self.polls.answered)
            waited = self.polls.answered - self.polls.asked > BLOCKED_S
            earliest = latest if waited else min(self.polls.before, latest)
        self.first_byte_s = told(latest - self.sent, max(earliest, self.sent) - self.sent)


def told(latest: float, earliest: float) -> float | None:
    """What is said of a wait that lies between two bounds, in seconds: the later one, or ``None`` when they are far apart."""
    latest = max(latest, earliest, 0.0)
    return latest if latest - earliest <= max(UNSURE_S, UNSURE_RATIO * latest) else None


def _since_last_segment_s(sock: socket.socket) -> float:
    """How long ago, at least, the kernel has taken the last segment with data from the peer; 0 where it does not say."""
    option = getattr(socket, "TCP_INFO", None)
    if option is None:
        return 0.0
    try:
        info = sock.getsockopt(socket.IPPROTO_TCP, option, _LAST_DATA.size)
        return max(0.0, _LAST_DATA.unpack(info)[0] / 1000 - TICK_S) if len(info) == _LAST_DATA.size else 0.0
    except OSError:
        return 0.0
