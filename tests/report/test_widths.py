"""Widths of columns on paper: they fill the page, figures keep theirs, and words share the rest."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.report.blocks import Cell, Column, Dots, Table
from hodcarrier.report.widths import PAGE_LETTERS, column_shares

COLUMNS = st.lists(
    st.builds(Column, st.text(max_size=40), st.booleans(), st.integers(0, 8), st.booleans()), min_size=1, max_size=9
)


@given(COLUMNS, st.data())
def test_the_page_is_filled_and_no_column_is_lost(columns: list[Column], data: st.DataObject) -> None:
    cells = st.builds(Cell, st.text(max_size=300))
    rows = data.draw(st.lists(st.lists(cells, min_size=len(columns), max_size=len(columns)), max_size=4))
    shares = column_shares(Table("t", columns, rows))
    assert sum(shares) == pytest.approx(1) and min(shares) > 0


def test_figures_are_whole_and_words_share_the_rest_by_their_parts() -> None:
    columns = [Column("Work", part=4), Column("Why", part=5), Column("Points", number=True), Column("Day", solid=True)]
    rows = [[Cell("words " * 40), Cell("words " * 90), Cell("1,234.5"), Cell("24 November 2026")]]
    work, why, points, day = (PAGE_LETTERS * share for share in column_shares(Table("t", columns, rows)))
    assert points >= len("1,234.5") and day >= len("24 November 2026")
    assert why / work == pytest.approx(5 / 4)


def test_one_long_cell_does_not_take_the_page() -> None:
    columns = [Column("Keyword", part=6), Column("Place"), Column("Position", number=True)]
    rows = [[Cell("rope"), Cell("Llanfair " * 30), Cell("3")]]
    keyword, place, position = column_shares(Table("t", columns, rows))
    assert keyword > place > position


def test_some_columns_alone_fill_the_page_too() -> None:
    columns = [Column("Measure", part=5), Column(""), Column("You", number=True)]
    table = Table("t", columns, [[Cell("Health"), Cell("", dots=Dots(0.5, ())), Cell("91.5")]])
    assert sum(column_shares(table, [0, 2])) == pytest.approx(1)
    assert column_shares(table)[1] > column_shares(table)[2], "a picture has room"
