"""The findings of a run as arrays: fingerprints in order, checks and subjects by id. So two large runs are matched at once and in little memory."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

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
    def read(cls, run: RunFile, of: str = "finding", which: str = "1") -> Prints:
        """All findings of a run, or the rows of another table with fingerprints that meet a condition (with id 0, not waived)."""
        columns = "fingerprint, id, waived" if of == "finding" else "fingerprint, 0 AS id, 0 AS waived"
        prints_hex, ids, waived = run.rows(
            f"SELECT group_concat(hex(fingerprint), ''), {joined('id')}, {joined('waived')}"
            f" FROM (SELECT {columns} FROM {of} WHERE {which} ORDER BY fingerprint)"
        )[0]
        prints = pack([bytes.fromhex(prints_hex or "")])
        order = np.argsort(prints, kind="stable")  # they come in it; what is looked up in must not depend on that
        return cls(prints[order], ints(ids)[order], ints(waived)[order].astype(bool))

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
            check[ints(run.rows(f"SELECT {joined('id')} FROM finding WHERE check_id = ?", name)[0][0])] = number
        waived[ints(run.rows(f"SELECT {joined('id')} FROM finding WHERE waived = 1")[0][0])] = True
        ids, subjects = run.rows(f"SELECT {joined('id')}, {joined('coalesce(subject_id, 0)')} FROM finding")[0]
        subject[ints(ids)] = ints(subjects)
        return cls(checks, check, subject, waived)


def joined(column: str) -> str:
    """A column of numbers as one text: a row for each takes twenty times as long to come over."""
    return f"group_concat({column})"


def ints(text: str | None) -> Ints:
    """The numbers in a text of :func:`joined`; of no rows there is none."""
    return np.fromstring(text or "", dtype=np.int64, sep=",")
