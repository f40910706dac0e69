"""How often somebody may try to sign in: after some failures each further one is waited for, longer every time.

Counts are kept in memory: a restart forgets them, which gives an attacker a handful of guesses.
"""

from __future__ import annotations

import threading
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from hodcarrier.core.errors import TooMany

FREE_OF_ACCOUNT, FREE_OF_ADDRESS = 5, 20
WAIT_MAX = timedelta(minutes=15)
FORGOTTEN_AFTER = timedelta(hours=1)
KEPT_MAX = 10_000


@dataclass
class Throttle:
    """Failures by account and by network address, each with the moment of the last one."""

    _failures: dict[str, tuple[int, datetime]] = field(default_factory=dict)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def check(self, account: str, address: str, now: datetime) -> None:
        """Raises :class:`TooMany` while one of the two has to wait."""
        with self._lock:
            wait = max(
                self._wait(f"account {account}", FREE_OF_ACCOUNT, now), self._wait(f"address {address}", FREE_OF_ADDRESS, now)
            )
        if wait > timedelta():
            seconds = int(wait.total_seconds()) + 1
            raise TooMany(
                "Too many attempts to sign in have failed.",
                f"Wait {seconds} s and try again, or ask an owner for a new password.",
                seconds,
            )

    def _wait(self, key: str, free: int, now: datetime) -> timedelta:
        count, last = self._failures.get(key, (0, now))
        if count < free:
            return timedelta()
        return min(timedelta(seconds=2.0 ** min(count - free, 20)), WAIT_MAX) - (now - last)

    def note(self, account: str, address: str, succeeded: bool, now: datetime) -> None:
        """Note how an attempt ended. Success clears the account's failures; the address keeps its own."""
        with self._lock:
            if succeeded:
                self._failures.pop(f"account {account}", None)
                return
            for key in (f"account {account}", f"address {address}"):
                count, last = self._failures.pop(key, (0, now))
                self._failures[key] = (1 if now - last > FORGOTTEN_AFTER else count + 1, now)
            while len(self._failures) > KEPT_MAX:
                del self._failures[next(iter(self._failures))]
