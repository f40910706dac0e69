"""The one edit between two texts."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.judge.edits import edit


@pytest.mark.parametrize(
    ("before", "after", "found"),
    [
        ("Ropes | Tidewrack", "Ropes | Tidewrack Ltd", ("", " Ltd")),
        ("Ropes | Tidewrack", "Ropes - Tidewrack", ("|", "-")),
        ("", "noindex", ("", "noindex")),
        ("200", "404", ("200", "404")),
        ("Buy ropes", "Buy ropes", ("", "")),
        ("a a", "a", (" a", "")),
    ],
)
def test_what_both_share_is_left_out(before: str, after: str, found: tuple[str, str]) -> None:
    assert edit(before, after) == found


WORDS = st.lists(st.sampled_from(["rope", "lamp", " ", "|", "-", "é"]), max_size=8).map("".join)


@given(WORDS, WORDS)
def test_the_edit_makes_the_one_text_of_the_other(before: str, after: str) -> None:
    removed, added = edit(before, after)
    assert any(
        before[:at] + added + before[at + len(removed) :] == after
        for at in range(len(before) + 1)
        if before[at : at + len(removed)] == removed
    )


@given(WORDS, WORDS, WORDS.filter(bool))
def test_the_same_edit_on_other_texts_is_the_same(name: str, other: str, suffix: str) -> None:
    assert edit(f"{name} /", f"{name} /~{suffix}") == edit(f"{other} /", f"{other} /~{suffix}")
