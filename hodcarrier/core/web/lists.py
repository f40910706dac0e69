"""Lists of addresses that people bring: plain text with one a line, or a CSV table with a column of addresses."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass

QUOTED_MAX = 3


@dataclass(frozen=True)
class AddressList:
    """The addresses of a list in their order, each once, and the lines that hold none: number (from 1) and text."""

    addresses: list[str]
    unusable: list[tuple[int, str]]

    @property
    def words(self) -> str:
        """What could not be used, in a sentence; empty when every line was."""
        if not self.unusable:
            return ""
        lines = "1 line holds" if len(self.unusable) == 1 else f"{len(self.unusable):,} lines hold"
        shown = "; ".join(f"line {number}: “{text[:60]}”" for number, text in self.unusable[:QUOTED_MAX])
        more = "; …" if len(self.unusable) > QUOTED_MAX else ""
        return f"{lines} no full web address and cannot be used ({shown}{more})."


def read_list(text: str) -> AddressList:
    """The addresses in a text.

    Of a line with several cells (commas, semicolons or tabs between them), the first cell that is a web address counts. A line with one
    cell counts as it is, so that ``shop.example/a`` is read too. Lines that begin with ``#`` are remarks, and the first line of a table
    may be a head row. Any other line without an address is told.
    """
    found: dict[str, None] = {}
    unusable = []
    for number, line in enumerate(text.removeprefix("\ufeff").splitlines(), 1):
        if not line.strip() or line.lstrip().startswith("#"):
            continue
        separator = max(",;\t", key=line.count)
        cells = [cell.strip() for cell in next(csv.reader(io.StringIO(line), delimiter=separator), [])]
        web = [cell for cell in cells if cell.startswith(("http://", "https://"))]
        if web:
            found[web[0]] = None
        elif len(cells) == 1 and "." in cells[0] and not cells[0].startswith("/") and " " not in cells[0]:
            found[cells[0]] = None
        elif number > 1 or len(cells) == 1:
            unusable.append((number, line.strip()))
    return AddressList(list(found), unusable)
