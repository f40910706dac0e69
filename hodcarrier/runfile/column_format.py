"""The columns of a run's inventory as they lie in the run file, each in one blob, so that a filter reads the columns it names and no others.

Figures, flags included, are an array of numbers; texts are numbers of places in a sorted list of the texts that occur, so that texts are compared,
sorted and counted as numbers. Rows are in the order of the ids of their addresses. ``docs/run-file.md`` describes the bytes.
"""

from __future__ import annotations

import struct
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from isal import isal_zlib as zlib
from numpy.typing import NDArray

Figures = NDArray[np.float64]
Codes = NDArray[np.int32]
# Between two texts of a list: a byte that no text in UTF-8 has.
BREAK = b"\xff"
_MISSING = np.iinfo(np.int32).min
_HEAD = struct.Struct("<cI")


@dataclass(frozen=True)
class Texts:
    """A column of texts: ``codes`` are places in ``listed``, the texts that occur in the order of their bytes, joined and set off by :data:`BREAK`
    on both sides. ``starts`` is where each begins. The first text is always the empty one."""

    codes: Codes
    starts: NDArray[np.int64]
    listed: bytes

    def __len__(self) -> int:
        return len(self.starts)

    def __getitem__(self, code: int) -> str:
        begin = int(self.starts[code])
        end = int(self.starts[code + 1]) - 1 if code + 1 < len(self.starts) else len(self.listed) - 1
        return self.listed[begin:end].decode("utf-8", "surrogatepass")

    @cached_property
    def lowered(self) -> bytes:
        """The list with ASCII letters in lower case: its texts begin where those of ``listed`` do."""
        return self.listed.lower()

    def find(self, text: str) -> int:
        """The place of a text, or where it would stand, as :meth:`where` tells which."""
        low, high = 0, len(self)
        wanted = text.encode("utf-8", "surrogatepass")
        while low < high:
            middle = (low + high) // 2
            if self[middle].encode("utf-8", "surrogatepass") < wanted:
                low = middle + 1
            else:
                high = middle
        return low

    def has(self, code: int, text: str) -> bool:
        """Whether a text stands at a place."""
        return code < len(self) and self[code] == text


def pack_figures(values: Sequence[float | int | bool | None] | NDArray[Any]) -> bytes:
    """A column of figures; ``None`` and NaN are missing values."""
    figures = np.asarray(
        [np.nan if value is None else value for value in values] if not isinstance(values, np.ndarray) else values, "f8"
    )
    known = figures[~np.isnan(figures)]
    whole = bool(len(known) == 0 or (np.all(known == np.floor(known)) and np.all(np.abs(known) < 2**31)))
    if whole:
        stored = np.where(np.isnan(figures), _MISSING, np.nan_to_num(figures)).astype("<i4")
        return _HEAD.pack(b"i", len(stored)) + zlib.compress(stored.tobytes(), 1)
    return _HEAD.pack(b"d", len(figures)) + zlib.compress(figures.astype("<f8").tobytes(), 1)


def pack_texts(values: Iterable[str | None]) -> bytes:
    """A column of texts; ``None`` and the empty text are missing values."""
    numbers: dict[str, int] = {"": 0}
    order = np.fromiter((numbers.setdefault(value or "", len(numbers)) for value in values), np.int32)
    texts = [text.encode("utf-8", "surrogatepass") for text in numbers]
    ranked = sorted(range(len(texts)), key=texts.__getitem__)
    rank = np.empty(len(texts), "<i4")
    rank[ranked] = np.arange(len(texts), dtype="<i4")
    listed = BREAK + b"".join(texts[n] + BREAK for n in ranked)
    lengths = np.asarray([len(texts[n]) for n in ranked], "<u4")
    body = rank[order].astype("<i4").tobytes() + lengths.tobytes() + listed
    return _HEAD.pack(b"t", len(order)) + struct.pack("<I", len(texts)) + zlib.compress(body, 1)


def unpack(blob: bytes) -> Figures | Texts:
    """The column of a blob."""
    kind, rows = _HEAD.unpack_from(blob)
    rest = memoryview(blob)[_HEAD.size :]
    if kind == b"t":
        (count,) = struct.unpack_from("<I", rest)
        body = zlib.decompress(rest[4:])
        codes = np.frombuffer(body, "<i4", rows)
        lengths = np.frombuffer(body, "<u4", count, 4 * rows)
        starts = np.concatenate(([1], 1 + np.cumsum(lengths[:-1].astype(np.int64) + 1))).astype(np.int64)
        return Texts(codes, starts, body[4 * rows + 4 * count :])
    body = zlib.decompress(rest)
    if kind == b"d":
        return np.frombuffer(body, "<f8", rows)
    stored = np.frombuffer(body, "<i4", rows)
    return np.where(stored == _MISSING, np.nan, stored.astype("f8"))
