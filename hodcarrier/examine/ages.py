"""How old every fingerprint is, by the run before: looked up while findings are written, so that each is written once."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import islice

import numpy as np
from numpy.typing import NDArray

from hodcarrier.runfile.prints import BATCH, Flags, Packed, pack, places
from hodcarrier.runfile.reader import RunFile


class Ages:
    """The history of a base run, packed: some 25 bytes a fingerprint. ``stamp`` is the date of what is found for the first time.

    ``found`` says of each of the base's fingerprints, in their order, whether this run has found it as well.
    """

    def __init__(self, stamp: str) -> None:
        self.stamp = stamp
        self._dates: list[str] = []
        self._prints: Packed = pack([])
        self._first: NDArray[np.uint16] = np.zeros(0, np.uint16)
        self._returned: NDArray[np.uint32] = np.zeros(0, np.uint32)
        self.found: Flags = np.zeros(0, dtype=bool)

    @classmethod
    def of_base(cls, base: RunFile | None, stamp: str) -> Ages:
        """The ages that a base run knows; without one, everything is new."""
        ages = cls(stamp)
        if base is not None:
            ages._read(base)
        return ages

    def _read(self, base: RunFile) -> None:
        numbers: dict[str, int] = {}
        prints, first, returned = [pack([])], [self._first], [self._returned]
        # What passed before and is found now has returned once more.
        rows = base.each("SELECT fingerprint, first_seen, times_returned + (state = 'passed') FROM history ORDER BY fingerprint")
        while batch := list(islice(rows, BATCH)):
            prints.append(pack([row[0] for row in batch]))
            first.append(np.array([numbers.setdefault(row[1], len(numbers)) for row in batch], np.uint16))
            returned.append(np.array([row[2] for row in batch], np.uint32))
        self._dates = list(numbers)
        self._prints, self._first, self._returned = np.concatenate(prints), np.concatenate(first), np.concatenate(returned)
        self.found = np.zeros(len(self._prints), dtype=bool)

    def of(self, prints: Sequence[bytes]) -> list[tuple[str, int]]:
        """When each of some fingerprints that are found was first seen, and how often it has returned. Notes that they are found."""
        fresh = (self.stamp, 0)
        if not len(self._prints):
            return [fresh] * len(prints)
        there, where = places(pack(prints), self._prints)
        self.found[where[there]] = True
        first, returned = self._first[where].tolist(), self._returned[where].tolist()
        return [
            (self._dates[date], times) if known else fresh
            for known, date, times in zip(there.tolist(), first, returned, strict=True)
        ]

    def not_found(self) -> Iterator[bool]:
        """For every fingerprint of the base in its order: whether this run has not found it."""
        return iter((~self.found).tolist())
