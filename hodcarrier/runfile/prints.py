"""The findings of a run as arrays: fingerprints in order, checks and subjects by id. So two large runs are matched at once and in little memory."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import islice

import numpy as np
from numpy.typing import NDArray

from hodcarrier.runfile.reader import RunFile

BYTES = 16
BATCH = 50_000
Packed = NDArray[np.bytes_]
Flags = NDArray[np.bool_]
Ints = NDArray[np.int64]


def pack(prints: Sequence[bytes]) -> Packed:
    """Fingerprints as an array, in the order given."""
    return np.frombuffer(b"".join(prints), f"S{BYTES}")


def places(wanted: Packed, ordered: Packed) -> tuple[Flags, Ints]:
    """Which of the ``wanted`` fingerprints are among the ``ordered`` ones, and at which place (0 for the others)."""
    if not len(ordered):
        return np.zeros(len(wanted), dtype=bool), np.zeros(len(wanted), dtype=np.int64)
    at = np.minimum(np.searchsorted(ordered, wanted), len(ordered) - 1)
    there = ordered[at] == wanted
    return there, np.where(there, at, 0)


def as_bytes(prints: Packed) -> list[bytes]:
    """Fingerprints one by one. Numpy would leave zeros at their ends out."""
    joined = prints.tobytes()
    return [joined[at : at + BYTES] for at in range(0, len(joined), BYTES)]


@dataclass(frozen=True)
class Prints:
    """The findings of a run by fingerprint, as parallel arrays: fingerprint, id, whether it is waived."""

    prints: Packed
    ids: Ints
    waived: Flags

    @classmethod
    def read(cls, run: RunFile) -> Prints:
        """All findings of a run."""
        return cls.of(run.each("SELECT fingerprint, id, waived FROM finding ORDER BY fingerprint"))

    @classmethod
    def of(cls, rows: Iterable[tuple[bytes, int, int]]) -> Prints:
        """From rows in the order of fingerprints."""
        left = iter(rows)
        prints, numbers = [pack([])], [np.zeros((0, 2), np.int64)]
        while batch := list(islice(left, BATCH)):
            prints.append(pack([row[0] for row in batch]))
            numbers.append(np.array([row[1:] for row in batch], np.int64))
        found = np.concatenate(numbers)
        return cls(np.concatenate(prints), found[:, 0], found[:, 1].astype(bool))

    @property
    def size(self) -> int:
        """One more than the largest id: the length of an array by id."""
        return int(self.ids.max(initial=-1)) + 1

    def found_in(self, other: Prints) -> tuple[Flags, Ints]:
        """Which of these another run has as well, and at which place there."""
        return places(self.prints, other.prints)


@dataclass(frozen=True)
class Columns:
    """Of every finding its check (a place in ``checks``), the address it is about (0: the site) and whether it is waived, by id."""

    checks: Sequence[str]
    check: Ints
    subject: Ints
    waived: Flags

    @classmethod
    def read(cls, run: RunFile) -> Columns:
        """All findings of a run, from its indexes alone."""
        checks = [check for (check,) in run.rows("SELECT id FROM check_state WHERE findings + waived > 0 ORDER BY id")]
        size = int(run.rows("SELECT coalesce(max(id), -1) FROM finding")[0][0]) + 1
        check, subject, waived = np.zeros(size, np.int64), np.zeros(size, np.int64), np.zeros(size, dtype=bool)
        for number, name in enumerate(checks):
            check[_ids(run, "SELECT id FROM finding WHERE check_id = ?", name)] = number
        waived[_ids(run, "SELECT id FROM finding WHERE waived = 1")] = True
        rows = run.each("SELECT id, coalesce(subject_id, 0) FROM finding")
        while batch := list(islice(rows, BATCH)):
            part = np.array(batch, np.int64)
            subject[part[:, 0]] = part[:, 1]
        return cls(checks, check, subject, waived)


def _ids(run: RunFile, sql: str, *values: str) -> Ints:
    return np.fromiter((number for (number,) in run.each(sql, *values)), np.int64)
