"""Pace: how soon the next request to a host may start. Pure arithmetic on a given clock."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, field
from datetime import UTC, datetime
from email.utils import parsedate_to_datetime

HOLD_MAX_S = 120.0
SLOWER_MAX = 64.0
# A second, with room for what the network does to the spacing of requests on their way.
WINDOW_S = 1.03
BASELINE_ANSWERS = 10
RECOVER_AFTER = 20
SLOW_RATIO = 2.0
SLOW_FLOOR_MS = 200.0
TIMER_S = 0.01


@dataclass(slots=True)
class Pace:
    """The pace of one host.

    Requests start evenly: no two closer than the interval, never more in any second than ``rate_per_s`` allows, none before
    ``held_until``. Intervals under 10 ms are kept on average over 10 ms: no timer keeps them one by one. When it is adaptive, the interval grows when the host asks us to wait, fails, or answers twice as slowly as
    at first, and shrinks back slowly.
    """

    rate_per_s: float
    adaptive: bool = True
    least_interval_s: float = 0.0
    slower: float = 1.0
    held_until: float = 0.0
    _starts: deque[float] = field(default_factory=deque)
    _last: float = float("-inf")  # when the last request was due, which is when it started but for fine intervals
    _baseline: list[float] = field(default_factory=list)
    _recent_ms: float = 0.0
    _good: int = 0
    _since_slowing: int = 0

    @property
    def interval_s(self) -> float:
        """Seconds between two starts as things are."""
        return max(self.least_interval_s, self.slower / self.rate_per_s)

    def wait_s(self, now: float) -> float:
        """Seconds until the next request may start; 0 when it may now."""
        at = max(self.held_until, self._last + self.interval_s)
        most = max(1, int(self.rate_per_s))
        if len(self._starts) >= most:
            at = max(at, self._starts[-most] + WINDOW_S)
        return max(0.0, at - now)

    def start(self, now: float) -> None:
        """A request starts now."""
        fine = self.interval_s < TIMER_S
        self._last = max(self._last + self.interval_s, now - TIMER_S) if fine else now
        self._starts.append(now)
        while len(self._starts) > max(1, int(self.rate_per_s)):
            self._starts.popleft()

    def hold(self, now: float, seconds: float) -> None:
        """Start nothing for some seconds (an answer asked us to wait)."""
        self.held_until = max(self.held_until, now + min(seconds, HOLD_MAX_S))

    def slow_to(self, interval_s: float) -> None:
        """Keep at least this distance between requests from now on (``Crawl-delay``)."""
        self.least_interval_s = max(self.least_interval_s, interval_s)

    def note_trouble(self) -> None:
        """The host asked us to wait, timed out or broke the connection: half the pace."""
        self._good = 0
        if self.adaptive:
            self.slower = min(SLOWER_MAX, self.slower * 2)

    def note_answer(self, first_byte_ms: float) -> None:
        """An answer came. The first ten set what is usual; answers that are twice as slow from then on slow us down."""
        if not self.adaptive:
            return
        if len(self._baseline) < BASELINE_ANSWERS:
            self._baseline.append(first_byte_ms)
            self._recent_ms = first_byte_ms
            return
        self._recent_ms += 0.2 * (first_byte_ms - self._recent_ms)
        usual = sorted(self._baseline)[len(self._baseline) // 2]
        self._since_slowing += 1
        if self._recent_ms > max(usual * SLOW_RATIO, usual + SLOW_FLOOR_MS):
            self._good = 0
            if self._since_slowing >= BASELINE_ANSWERS:
                self._since_slowing = 0
                self.slower = min(SLOWER_MAX, self.slower * 1.5)
            return
        self._good += 1
        if self.slower > 1.0 and self._good >= RECOVER_AFTER:
            self._good = 0
            self.slower = max(1.0, self.slower * 0.8)


def retry_after_s(value: str, now: datetime) -> float | None:
    """Seconds that a ``Retry-After`` header asks for (RFC 9110, 10.2.3), or ``None`` if it cannot be read."""
    value = value.strip()
    if value.isascii() and value.isdigit():
        return float(value[:12])
    try:
        moment = parsedate_to_datetime(value)
    except (ValueError, TypeError, OverflowError):
        return None
    if moment.tzinfo is None:
        moment = moment.replace(tzinfo=UTC)
    return max(0.0, (moment - now).total_seconds())
