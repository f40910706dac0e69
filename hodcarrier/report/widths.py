"""How wide the columns of a table are on paper: found from what stands in them, as what lays out the page would measure every word of every cell for it."""

from __future__ import annotations

from collections.abc import Sequence

from hodcarrier.report.blocks import Table

# What a page has room for, in letters of the table's type, and what the blank beside a cell takes of it.
PAGE_LETTERS, BLANK = 96, 3
# The least and the most letters that a column without a part asks for, and how much of the page such columns may take of those that have one.
LEAST, MOST, THEIR_SHARE = 4, 28, 0.7
# A column of pictures.
PICTURE = 20


def column_shares(table: Table, columns: Sequence[int] | None = None) -> list[float]:
    """The share of the width (they add up to 1) of each column, or of those with these places: figures and days whole, where there is room for it, and their heads as far as
    there is; the rest by their parts."""
    places = range(len(table.columns)) if columns is None else columns
    parts = {n: table.columns[n].part for n in places if table.columns[n].part}
    others = [n for n in places if n not in parts]
    room = PAGE_LETTERS * (THEIR_SHARE if parts else 1)
    given = _given([_firm(table, n) for n in others], [_wished(table, n) for n in others], room)
    left = PAGE_LETTERS - sum(given)
    widths = dict(zip(others, given, strict=True)) | {n: left * part / sum(parts.values()) for n, part in parts.items()}
    total = sum(widths.values())
    return [widths[n] / total for n in places]


def _given(firm: Sequence[int], wished: Sequence[int], room: float) -> list[float]:
    """What columns get of some room: what they wish; or what they must have and as much more as there is; or less than that."""
    least, most = sum(firm), sum(wished)
    if most <= room:
        return [float(width) for width in wished]
    if least <= room:
        more = (room - least) / (most - least)
        return [must + (wish - must) * more for must, wish in zip(firm, wished, strict=True)]
    return [must * room / least for must in firm]


def _firm(table: Table, place: int) -> int:
    """Letters without which a column has its figures or days cut."""
    column = table.columns[place]
    cells = [row[place] for row in table.rows]
    if any(cell.dots for cell in cells):
        return PICTURE + BLANK
    longest = max((len(cell.text) for cell in cells), default=0) if column.number or column.solid else 0
    return max(LEAST, longest) + BLANK


def _wished(table: Table, place: int) -> int:
    """Letters with which a column has its cells whole as well, and its head in two lines at most."""
    head = table.columns[place].head
    words = max((len(row[place].text) for row in table.rows), default=0)
    wished = max(min(MOST, words), min(MOST, max((len(word) for word in head.split()), default=0)), (len(head) + 1) // 2)
    return max(_firm(table, place), wished + BLANK)
