"""Pace: how soon the next request to a host may start. Pure arithmetic on a given clock."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from email.utils import parsedate_to_datetime

HOLD_MAX_S = 120.0


@dataclass(slots=True)
class Pace:
    """Spaces requests evenly: no two starts closer than ``interval_s``, none before ``held_until``."""

    interval_s: float
    next_at: float = 0.0
    held_until: float = 0.0

    def reserve(self, now: float) -> float:
        """Take the next slot; returns the seconds to wait for it."""
        slot = max(now, self.next_at, self.held_until)
        self.next_at = slot + self.interval_s
        return slot - now

    def hold(self, now: float, seconds: float) -> None:
        """Start nothing for some seconds (an answer asked us to wait)."""
        self.held_until = max(self.held_until, now + min(seconds, HOLD_MAX_S))

    def slow_to(self, interval_s: float) -> None:
        """Keep at least this distance between requests from now on."""
        self.interval_s = max(self.interval_s, interval_s)


def retry_after_s(value: str, now: datetime) -> float | None:
    """Seconds that a ``Retry-After`` header asks for (RFC 9110, 10.2.3), or ``None`` if it cannot be read."""
    value = value.strip()
    if value.isdigit():
        return float(value)
    try:
        moment = parsedate_to_datetime(value)
    except ValueError:
        return None
    if moment.tzinfo is None:
        moment = moment.replace(tzinfo=UTC)
    return max(0.0, (moment - now).total_seconds())
