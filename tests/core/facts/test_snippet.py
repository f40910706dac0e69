"""What search results show of a title and a description: lines that fit, and cuts that say so."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.length import TITLE_PX, pixels
from hodcarrier.core.facts.snippet import CUT, fit, on_desktop, on_phone


@given(st.text(max_size=200), st.integers(100, 600), st.integers(1, 3))
def test_every_line_fits_and_nothing_is_lost_without_a_cut(text: str, line_px: int, lines: int) -> None:
    found = fit(text, TITLE_PX, line_px, lines)
    assert len(found.lines) <= lines
    assert all(pixels(line, TITLE_PX) <= line_px for line in found.lines)
    assert found.cut == any(line.endswith(CUT) for line in found.lines[-1:]) or CUT in text
    if not found.cut:
        assert "".join("".join(found.lines).split()) == "".join(text.split())


@pytest.mark.parametrize(("text", "shown", "cut"), [("Ropes", ("Ropes",), False), ("", (), False), ("rope " * 40, None, True)])
def test_a_title_on_a_desktop_is_one_line(text: str, shown: tuple[str, ...] | None, cut: bool) -> None:
    title = on_desktop("", text, "").title
    assert title.cut is cut and len(title.lines) <= 1
    assert shown is None or title.lines == shown


def test_a_cut_falls_between_words_and_leaves_no_mark_behind() -> None:
    found = fit("Kedge anchor, galvanised steel", TITLE_PX, pixels("Kedge anchor, galv", TITLE_PX), 1)
    assert found.lines == ("Kedge anchor…",)


def test_a_phone_breaks_lines_and_shows_the_path() -> None:
    found = on_phone("https://a.example/shop/anchors/kedge", "Kedge anchor, 6 kg, for small boats up to five metres", "")
    assert found.path == ("a.example", "shop", "anchors")
    assert len(found.title.lines) == 2 and not found.title.cut
