"""Tables that fit the terminal: URLs are shortened in the middle, texts wrap between words, ids and figures stay whole."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from urllib.parse import urlsplit

_HOST = re.compile(r"(?=.*[a-z])[a-z0-9-]+(\.[a-z0-9-]+)+(:\d+)?")

GAP = 3
URL_MIN, HOST_MIN, WORD_MAX = 26, 16, 18


@dataclass
class Column:
    """A column with its cells as plain texts; ``solid`` ones are never narrowed."""

    heading: str
    cells: list[str]
    solid: bool = False
    width: int = field(init=False)

    def __post_init__(self) -> None:
        self.width = max(len(self.heading), *(len(cell) for cell in self.cells), 0)
        self.is_url = any(self.cells) and all(not c or _is_url(c) for c in self.cells)
        self.is_host = any(self.cells) and all(not c or _is_host(c) for c in self.cells)

    @property
    def least(self) -> int:
        """The narrowest it may become."""
        head = HOST_MIN if _is_host(self.heading) else max((len(word) for word in self.heading.split()), default=0)
        if self.is_host:
            return min(self.width, max(head, HOST_MIN))
        if self.solid:
            return min(self.width, max(head, *(len(cell) for cell in self.cells), 0))
        if self.is_url:
            return min(self.width, max(head, URL_MIN))
        words = [len(word) for cell in self.cells for word in cell.split()]
        return min(self.width, max(head, min(max(words, default=0), WORD_MAX)))


def _is_url(text: str) -> bool:
    return text.startswith(("http://", "https://", "/")) and " " not in text


def _is_host(text: str) -> bool:
    return bool(_HOST.fullmatch(text))


def without_origin(cells: Sequence[str]) -> list[str]:
    """URLs of one host as paths; those of several as they are."""
    parts = [urlsplit(cell) for cell in cells if cell]
    if len({(p.scheme, p.netloc) for p in parts}) != 1 or not parts[0].netloc:
        return list(cells)
    origin = f"{parts[0].scheme}://{parts[0].netloc}"
    return [cell and (cell.removeprefix(origin) or "/") for cell in cells]


def shorten(text: str, width: int) -> str:
    """A text cut in the middle, which says least of a URL."""
    if len(text) <= width or width < 3:
        return text
    end = (width - 1) // 2
    return text[: width - 1 - end] + "…" + text[len(text) - end :]


def shown(column: Column, text: str) -> str:
    """A heading or a cell as it is shown in a column: URLs cut in the middle, hosts at the end."""
    if _is_host(text) and len(text) > column.width:
        return text[: column.width - 1] + "…"
    return shorten(text, column.width) if column.is_url else text


def fit(columns: Sequence[Column], room: int) -> list[Column]:
    """Narrow columns until they fit into ``room`` characters: URLs first, then texts; the last ones are left out if need be.

    Gives the columns that stay, with their widths set.
    """
    kept = list(columns)
    while len(kept) > 2 and _needed(kept, least=True) > room:
        kept.pop()
    for narrow in ([c for c in kept if c.is_url or c.is_host or _is_host(c.heading)], kept):
        while narrow and _needed(kept) > room:
            widest = max(narrow, key=lambda c: c.width - c.least)
            if widest.width <= widest.least:
                break
            widest.width -= 1
    return kept


def _needed(columns: Sequence[Column], least: bool = False) -> int:
    return sum(c.least if least else c.width for c in columns) + GAP * (len(columns) - 1)
