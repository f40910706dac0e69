"""Waivers: findings judged not to matter, with a reason and an end. They stay examined and listed."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date

from hodcarrier.core.web.patterns import matches


@dataclass(frozen=True, slots=True)
class Waiver:
    """What is waived: a check, on one place (``fingerprint`` as hex), one page or a URL pattern (``pattern``, in the language of
    plans), or the whole site when both are empty. In force from ``start`` to ``end`` (both inclusive, ``None``: no end)."""

    check: str
    pattern: str = ""
    fingerprint: str = ""
    start: date | None = None
    end: date | None = None

    def in_force(self, day: date) -> bool:
        """Whether the waiver holds on a day."""
        return (self.start is None or self.start <= day) and (self.end is None or day <= self.end)

    def covers(self, check: str, subject: str, fingerprint: bytes) -> bool:
        """Whether a finding falls under the waiver."""
        if check != self.check:
            return False
        if self.fingerprint:
            return fingerprint.hex() == self.fingerprint
        return not self.pattern or subject == self.pattern or matches(self.pattern, subject)


def named_now(waiver: Waiver, current: Callable[[str], str]) -> Waiver:
    """A waiver of a check that was renamed since holds for its new name."""
    return replace(waiver, check=current(waiver.check))


def covered(waivers: Sequence[Waiver], check: str, subject: str, fingerprint: bytes) -> bool:
    """Whether any of these waivers (already known to be in force) covers a finding."""
    return any(waiver.covers(check, subject, fingerprint) for waiver in waivers)
