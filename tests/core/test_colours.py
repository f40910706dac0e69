"""What can be read on a colour."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.colours import DARK, LIGHT, contrast, ink_on

COLOURS = st.integers(0, 0xFFFFFF).map(lambda number: f"#{number:06x}")


@pytest.mark.parametrize(
    ("one", "other", "ratio"), [("#ffffff", "#000000", 21.0), ("#777777", "#ffffff", 4.48), ("#0d5c5f", "#0d5c5f", 1.0)]
)
def test_contrasts_are_those_of_the_standard(one: str, other: str, ratio: float) -> None:
    assert contrast(one, other) == contrast(other, one) == pytest.approx(ratio, abs=0.01)


@pytest.mark.parametrize(("colour", "ink"), [("#0d5c5f", LIGHT), ("#ffe000", DARK), ("#ffffff", DARK), ("#000000", LIGHT)])
def test_the_ink_is_the_one_that_is_read_better(colour: str, ink: str) -> None:
    assert ink_on(colour) == ink


@given(COLOURS)
def test_on_every_colour_large_text_can_be_read(colour: str) -> None:
    """At least 3 to 1, as WCAG 2.2 (1.4.3) asks of large text."""
    assert contrast(ink_on(colour), colour) >= 3
