"""Which of many texts are nearly alike, by their hashes of 64 bits.

Two hashes that differ in at most ``n`` bits agree in one of ``n + 1`` parts at least, so only those that do are compared (Manku, Jain and
Das Sarma, 2007).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

BITS = 64


def near_groups(prints: Sequence[tuple[int, int]], bits: int, length_ratio: float) -> list[list[int]]:
    """Groups of places in ``prints`` (a hash and a length each) that are linked by pairs which differ in at most ``bits`` bits and whose
    lengths differ by at most ``length_ratio`` of the longer one. Places in no such pair stand in none; groups and places are in order."""
    if bits < 0 or not prints:
        return []
    above = list(range(len(prints)))

    def top(place: int) -> int:
        while above[place] != place:
            above[place] = above[above[place]]
            place = above[place]
        return place

    for one, others in _near(
        np.array([h for h, _ in prints], np.uint64), np.array([n for _, n in prints], np.float64), bits, length_ratio
    ):
        for other in others:
            low, high = sorted((top(one), top(other)))
            above[high] = low
    groups: defaultdict[int, list[int]] = defaultdict(list)
    for place in range(len(prints)):
        groups[top(place)].append(place)
    return [group for group in groups.values() if len(group) > 1]


def _near(hashes: NDArray[np.uint64], lengths: NDArray[np.float64], bits: int, ratio: float) -> Iterator[tuple[int, list[int]]]:
    """Every place with the later ones that are near it, among those that share a part with it."""
    edges = [BITS * part // (bits + 1) for part in range(bits + 2)]
    for low, high in pairwise(edges):
        part = hashes >> np.uint64(low) & np.uint64((1 << (high - low)) - 1)
        order = np.argsort(part, kind="stable")
        ends = np.flatnonzero(np.diff(part[order])) + 1
        for crowd in np.split(order, ends):
            for at, one in enumerate(crowd[:-1]):
                rest = crowd[at + 1 :]
                near = np.bitwise_count(hashes[rest] ^ hashes[one]) <= bits
                longer = np.maximum(lengths[rest], lengths[one])
                found = rest[near & (np.abs(lengths[rest] - lengths[one]) <= ratio * longer)]
                if len(found):
                    yield int(one), found.tolist()
