"""Texts that are nearly alike are found by the bits of their hashes."""

from __future__ import annotations

from itertools import combinations

from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.nearness import near_groups
from hodcarrier.core.facts.reading import SIMHASH_WORDS_MIN, distance, simhash, similarity

HASHES = st.integers(0, 2**64 - 1)


@st.composite
def prints(draw: st.DrawFn) -> list[tuple[int, int]]:
    """Hashes around a few centres, so that some of them are near one another."""
    centres = draw(st.lists(HASHES, min_size=1, max_size=3))
    found = []
    for _ in range(draw(st.integers(0, 12))):
        flipped = draw(st.lists(st.integers(0, 63), max_size=5))
        value = draw(st.sampled_from(centres))
        for bit in flipped:
            value ^= 1 << bit
        found.append((value, draw(st.integers(80, 120))))
    return found


@given(prints(), st.integers(0, 4))
def test_groups_are_those_that_comparing_all_pairs_gives(found: list[tuple[int, int]], bits: int) -> None:
    together = {i: {i} for i in range(len(found))}
    for i, k in combinations(range(len(found)), 2):
        (one, long), (other, short) = found[i], found[k]
        if distance(one, other) <= bits and abs(long - short) <= 0.2 * max(long, short):
            joined = together[i] | together[k]
            for member in joined:
                together[member] = joined
    wanted = sorted({tuple(sorted(group)) for group in together.values() if len(group) > 1})
    assert sorted(map(tuple, near_groups(found, bits, 0.2))) == wanted


def test_no_bits_means_equal_and_fewer_means_none() -> None:
    assert near_groups([(5, 100), (5, 100), (4, 100)], 0, 0.2) == [[0, 1]]
    assert near_groups([(5, 100), (5, 100)], -1, 0.2) == []


@given(HASHES, HASHES)
def test_similarity_is_a_share_and_the_same_both_ways(one: int, other: int) -> None:
    assert 0 <= similarity(one, other) == similarity(other, one) <= 1
    assert similarity(one, one) == 1


WORDS = " ".join(f"word{n % 97} line{n % 31}" for n in range(400))


def test_near_texts_have_near_hashes_and_others_have_not() -> None:
    whole = simhash(WORDS.encode())
    assert distance(whole, simhash((WORDS + " and one more").encode())) <= 3
    assert distance(whole, simhash(" ".join(reversed(WORDS.split())).encode())) > 10


def test_blanks_do_not_matter_and_short_texts_have_no_hash() -> None:
    assert simhash(WORDS.replace(" ", "   ").encode()) == simhash(f"  {WORDS} ".encode())
    assert simhash(("a " * (SIMHASH_WORDS_MIN - 1)).encode()) == 0 != simhash(WORDS.encode())
