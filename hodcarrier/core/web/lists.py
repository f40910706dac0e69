"""Lists of addresses that people bring: plain text with one a line, or a CSV table with a column of addresses."""

from __future__ import annotations

import csv
import io


def read_list(text: str) -> list[str]:
    """The addresses in a text, in their order and each once.

    Of a line with several cells (commas, semicolons or tabs between them), the first cell that is a web address counts; lines
    without one, such as a head row, are left out. A line with one cell counts as it is, so that ``shop.example/a`` is read too.
    Lines that begin with ``#`` are remarks.
    """
    found: dict[str, None] = {}
    for line in text.removeprefix("\ufeff").splitlines():
        if not line.strip() or line.lstrip().startswith("#"):
            continue
        separator = max(",;\t", key=line.count)
        cells = [cell.strip() for cell in next(csv.reader(io.StringIO(line), delimiter=separator), [])]
        web = [cell for cell in cells if cell.startswith(("http://", "https://"))]
        if web:
            found[web[0]] = None
        elif len(cells) == 1 and "." in cells[0] and " " not in cells[0]:
            found[cells[0]] = None
    return list(found)
