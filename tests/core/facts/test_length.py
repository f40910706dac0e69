"""Lengths that fit all scripts: words where no blanks divide them, widths where letters are twice as wide."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.length import columns, pixels, words_without_blanks
from hodcarrier.core.facts.text import measure_text


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("私たちは小さな船のロープを売ります。", 11),
        ("เราขายเชือกและสมอสำหรับเรือขนาดเล็ก", 9),
        ("我们出售小船用的绳索和锚。", 8),
        ("小さな船の rope と anchor です", 7),
        ("우리는 작은 배를 위한 밧줄을 팝니다", 6),
        ("ロープ", 1),
        ("。、・", 0),
        ("Канат для малых лодок", 4),
    ],
)
def test_words(text: str, words: int) -> None:
    assert measure_text(text)[0] == pytest.approx(words, abs=1)


def test_a_page_of_japanese_is_not_three_words() -> None:
    assert measure_text("私たちは小さな船のためのロープと錨を販売しています。" * 70)[0] > 900


@given(st.text(max_size=60))
def test_what_is_beside_such_scripts_is_counted_as_ever(text: str) -> None:
    words, rest = words_without_blanks(text)
    assert words >= 0 and words_without_blanks(rest) == (0, rest)
    assert measure_text(text)[0] <= len(text)


@pytest.mark.parametrize(
    ("text", "wide"), [("Rope", 4), ("綱", 2), ("ロープ rope", 11), ("é", 1), ("e\u0301", 1), ("", 0), ("a\nb", 2), ("ﾛｰﾌﾟ", 4)]
)
def test_widths(text: str, wide: int) -> None:
    assert columns(text) == wide


@given(st.text(alphabet=st.characters(max_codepoint=126, min_codepoint=32)))
def test_latin_letters_are_one_column_each(text: str) -> None:
    assert columns(text) == len(text)


@pytest.mark.parametrize(
    ("text", "size", "expected"),
    [
        ("", 20, 0.0),
        ("a", 2048, 1139.0),
        ("W", 2048, 1933.0),
        ("Rope", 20, 47.8),
        ("e\u0301", 2048, 1139.0),  # a mark on a letter has no width of its own
        ("綱", 20, 20.0),
        ("ก", 20, 10.0),
    ],
)
def test_pixels_are_those_of_the_reference_face(text: str, size: int, expected: float) -> None:
    assert pixels(text, size) == pytest.approx(expected, abs=0.1)
