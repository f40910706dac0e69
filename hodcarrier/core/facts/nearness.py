"""Which of many texts are nearly alike, by their hashes of 64 bits.

Two hashes that differ in at most three bits agree in one of four parts of 16 bits at least, so only those are compared (Manku, Jain and
Das Sarma, 2007).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from itertools import pairwise

BITS = 64
# A part that more texts share than this tells nothing: comparing all of them would take the square of their number.
CROWD_MAX = 2_000


def near_groups(prints: Sequence[tuple[int, int]], bits: int, length_ratio: float) -> list[list[int]]:
    """Groups of places in ``prints`` (a hash and a length each) that are linked by pairs which differ in at most ``bits`` bits and whose
    lengths differ by at most ``length_ratio`` of the longer one. Places in no such pair stand in none; groups and places are in order."""
    if bits < 0:
        return []
    above = list(range(len(prints)))

    def top(place: int) -> int:
        while above[place] != place:
            above[place] = above[above[place]]
            place = above[place]
        return place

    for one, other in _candidates(prints, bits):
        (hash_one, length_one), (hash_other, length_other) = prints[one], prints[other]
        if (hash_one ^ hash_other).bit_count() <= bits and _alike(length_one, length_other, length_ratio):
            low, high = sorted((top(one), top(other)))
            above[high] = low
    groups: defaultdict[int, list[int]] = defaultdict(list)
    for place in range(len(prints)):
        groups[top(place)].append(place)
    return [group for group in groups.values() if len(group) > 1]


def _alike(one: int, other: int, ratio: float) -> bool:
    return abs(one - other) <= ratio * max(one, other)


def _candidates(prints: Sequence[tuple[int, int]], bits: int) -> Iterable[tuple[int, int]]:
    parts = bits + 1
    edges = [BITS * part // parts for part in range(parts + 1)]
    for low, high in pairwise(edges):
        mask = (1 << (high - low)) - 1
        alike: defaultdict[int, list[int]] = defaultdict(list)
        for place, (print_, _) in enumerate(prints):
            alike[print_ >> low & mask].append(place)
        for places in alike.values():
            if 1 < len(places) <= CROWD_MAX:
                for at, one in enumerate(places):
                    for other in places[at + 1 :]:
                        yield one, other
