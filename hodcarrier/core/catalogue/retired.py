"""What became of checks that are no longer there: ids are never used again, and findings of old runs still need an answer."""

from __future__ import annotations

from dataclasses import dataclass

from hodcarrier.core.states import Area, Severity


@dataclass(frozen=True, slots=True)
class Retired:
    """A check that was taken out of the catalogue, and what happened to it.

    ``since`` is the release without it, ``reason`` a sentence for the reader of an old finding, ``instead`` ids of checks that
    look at what it looked at.
    """

    area: Area
    severity: Severity
    summary: str
    since: str
    reason: str
    instead: tuple[str, ...] = ()


RETIRED: dict[str, Retired] = {}

# Ids that checks had before, and the ones they have now.
ALIASES: dict[str, str] = {}
