"""Which passwords will do."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.passwords import LENGTH_MIN, complaint

ABOUT = ("hodcarrier", "Imke Aldersgate", "imke@cobble-lantern.example")


@pytest.mark.parametrize(
    ("password", "said"),
    [
        ("short", "fewer than 10"),
        ("ninechars", "fewer than 10"),
        ("tencharsss", ""),
        ("aaaaaaaaaaaa", "repeats"),
        ("abababababab", "repeats"),
        ("1234567890", "neighbouring"),
        ("0987654321", "neighbouring"),
        ("qwertyuiop", "neighbouring"),
        ("abcdefghijkl", "neighbouring"),
        ("password123", "tried first"),
        ("Password!!!", "tried first"),
        ("  letmein99", "tried first"),
        ("correcthorsebatterystaple", "tried first"),
        ("hodcarrier1", "little more than a name"),
        ("imke-aldersgate", "little more than a name"),
        ("cobble lantern 26", "little more than a name"),
        ("lantern-and-cobble", "little more than a name"),
        ("a rope for the boat", ""),
        ("Zwölf Boxkämpfer jagen", ""),
        ("correct gravel lantern", ""),
    ],
)
def test_passwords(password: str, said: str) -> None:
    found = complaint(password, *ABOUT)
    assert (said in found) if said else not found


@given(st.text(max_size=LENGTH_MIN - 1))
def test_a_short_one_never_does(password: str) -> None:
    assert complaint(password)


@given(
    st.lists(st.sampled_from(["gravel", "heather", "tinker", "marble", "oyster", "walnut"]), min_size=3, max_size=5, unique=True)
)
def test_three_words_that_have_nothing_to_do_with_each_other_always_do(words: list[str]) -> None:
    assert not complaint(" ".join(words), *ABOUT)
