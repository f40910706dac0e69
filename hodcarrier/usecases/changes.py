"""Which nouns have changed, for those who keep lists open."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from time import monotonic

from sqlalchemy import select

from hodcarrier.core.states import Noun
from hodcarrier.register.models import ChangeCount
from hodcarrier.usecases.workspace import Workspace

EVERY_S = 0.5


def count_changes(work: Workspace) -> dict[Noun, int]:
    """How often each noun has changed."""
    with work.reading() as session:
        return {row.noun: row.number for row in session.scalars(select(ChangeCount))}


def changed_since(before: Mapping[Noun, int], now: Mapping[Noun, int]) -> list[Noun]:
    """The nouns whose numbers differ, in their order. A restored register may count less than before: that is a change too."""
    return [noun for noun in Noun if before.get(noun) != now.get(noun)]


@dataclass
class Counts:
    """The numbers as everybody who watches shares them: the register is asked every half a second at most, and not at all while nobody watches. ``ended``: the service is about to end, and so is every stream."""

    work: Workspace
    ended: bool = False
    _numbers: dict[Noun, int] = field(default_factory=dict)
    _read_at: float = float("-inf")

    def now(self) -> dict[Noun, int]:
        """The numbers, at most half a second old."""
        if monotonic() - self._read_at >= EVERY_S * 0.9:
            self._numbers, self._read_at = count_changes(self.work), monotonic()
        return self._numbers
