"""How a title and a description stand in search results, on a desktop and on a phone: what fits, and where they are cut.

Search engines publish no figures; the limits are those of the checks on titles and descriptions, and for a phone lines of :data:`PHONE_LINE_PX`
pixels, which is a screen of 360 pixels without its margins.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil

from hodcarrier.core.facts.length import DESCRIPTION_PX, TITLE_PX, pixels
from hodcarrier.core.facts.references import clean
from hodcarrier.core.web.urls import split

TITLE_LIMIT_PX, DESCRIPTION_LIMIT_PX = 580, 990
PHONE_LINE_PX = 328
PHONE_TITLE_LINES, PHONE_DESCRIPTION_LINES = 2, 3
CUT = "…"


@dataclass(frozen=True)
class Fitted:
    """A text as it is shown: its lines, how wide the whole text is on one line, how many pixels it may have, and whether it is cut."""

    lines: tuple[str, ...]
    px: int
    limit_px: int
    cut: bool


@dataclass(frozen=True)
class Snippet:
    """One search result: the path above, the title and the description."""

    path: tuple[str, ...]
    title: Fitted
    description: Fitted


def fit(text: str, size_px: int, line_px: float, lines: int) -> Fitted:
    """A text in lines of a width, broken between words; what does not fit is cut behind a word, or within one that is wider than a line."""
    words = _pieces(clean(text), size_px, line_px)
    found: list[str] = []
    line = ""
    cut = False
    for word in words:
        longer = f"{line} {word}" if line else word
        if pixels(longer, size_px) <= line_px:
            line = longer
        elif len(found) + 1 < lines:
            found.append(line)
            line = word
        else:
            cut = True
            while line and pixels(line + CUT, size_px) > line_px:
                line = line.rpartition(" ")[0] if " " in line else line[:-1]
            line = line.rstrip(" ,;:-–—|") + CUT
            break
    whole = tuple(each for each in (*found, line) if each)
    return Fitted(whole, ceil(pixels(clean(text), size_px)), int(line_px * lines), cut)


def _pieces(text: str, size_px: int, line_px: float) -> Iterator[str]:
    """Words; of those that are wider than a line, such as texts without blanks, the letters by parts that fit."""
    for word in text.split():
        piece = ""
        for letter in word if pixels(word, size_px) > line_px else ():
            if pixels(piece + letter, size_px) > line_px:
                yield piece
                piece = ""
            piece += letter
        yield piece or word


def on_desktop(url: str, title: str, description: str) -> Snippet:
    """A result on a desktop: a line of title, and a description that is cut at its limit."""
    return Snippet(_path(url), fit(title, TITLE_PX, TITLE_LIMIT_PX, 1), fit(description, DESCRIPTION_PX, DESCRIPTION_LIMIT_PX, 1))


def on_phone(url: str, title: str, description: str) -> Snippet:
    """A result on a phone: title and description broken into lines."""
    return Snippet(
        _path(url),
        fit(title, TITLE_PX, PHONE_LINE_PX, PHONE_TITLE_LINES),
        fit(description, DESCRIPTION_PX, PHONE_LINE_PX, PHONE_DESCRIPTION_LINES),
    )


def _path(url: str) -> tuple[str, ...]:
    if not url:
        return ()
    parts = split(url)
    return (parts.host, *(part for part in parts.path.split("/")[:-1] if part))
