"""Measures of running text: language, effort, fillers, lost characters."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.reading import effort_of, fillers_in, garbled_in, language_of

TEXTS = {
    "en": "The rope is laid from three strands and holds when it is wet. You can wash it in the sea and dry it in the shade. ",
    "de": "Das Seil ist aus drei Litzen geschlagen und hält auch dann, wenn es lange im Wasser liegt und nicht getrocknet wird. ",
    "fr": "La corde est faite de trois brins et tient même quand elle reste longtemps dans la mer sans être séchée au soleil. ",
    "cy": "Mae'r rhaff wedi'i gwneud o dri llinyn ac mae'n dal hyd yn oed pan fydd yn wlyb am amser hir yn y môr. ",
}


@pytest.mark.parametrize(("code", "text"), TEXTS.items())
def test_languages_are_told_where_they_are_certain(code: str, text: str) -> None:
    assert language_of(text * 4) == code
    assert language_of(text) == "", "too short to say"


def test_a_text_in_two_languages_is_in_none_for_certain() -> None:
    assert language_of((TEXTS["en"] + TEXTS["de"]) * 8) == ""


@given(st.text())
def test_no_text_is_too_odd_to_be_measured(text: str) -> None:
    language_of(text * 20)
    garbled_in(text)
    fillers_in(text)
    sentences, words, long = effort_of([text])
    assert 0 <= long <= words and sentences >= 0


@pytest.mark.parametrize(
    ("text", "effort"),
    [
        ("The rope is strong. It holds!", (2, 6, 0)),
        ("Comprehensive considerations", (0, 2, 2)),
        ("Größere Größen für große Boote.", (1, 5, 1)),
        ("A well-known rope: laid by hand.", (2, 6, 1)),
        ("Version 2.5 of the rope", (0, 4, 1)),
        ("", (0, 0, 0)),
    ],
)
def test_effort(text: str, effort: tuple[int, int, int]) -> None:
    assert effort_of([text]) == effort


def test_fillers() -> None:
    assert fillers_in("Lorem  ipsum dolor sit amet, consectetur adipiscing elit") == (
        "Lorem ipsum dolor",
        "consectetur adipiscing",
    )
    assert fillers_in("Your text goes here") == ("Your text goes here",)
    assert fillers_in("We write about lorem ipsum and its uses") == ()


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("Seil fÃ¼r Boote", (("fÃ¼r", "für"),)),
        ("itâ€™s laid", (("itâ€™s", "it’s"),)),
        ("gro\ufffde", (("gro\ufffde", ""),)),
        ("São Paulo, NÃO, Ângela, für", ()),
        ("plain", ()),
    ],
)
def test_garbled_words_and_what_they_should_be(text: str, found: tuple[tuple[str, str], ...]) -> None:
    assert garbled_in(text) == found
