"""How long a text is to people, also in scripts that are written without blanks, or whose letters are twice as wide."""

from __future__ import annotations

import re
from functools import lru_cache
from importlib import resources

import msgspec
import wcwidth
from icu4py.breakers import WordBreaker

# Thai, Lao, Myanmar, Khmer, the kana, and Han.
_WITHOUT_BLANKS = re.compile(
    "[\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3005-\u3007\u3040-\u30ff\u31f0-\u31ff\u3400-\u4dbf\u4e00-\u9fff\uf900-\ufaff\U00020000-\U0003ffff]+"
)


def words_without_blanks(text: str) -> tuple[int, str]:
    """How many words a text has in scripts that put no blanks between words, by the dictionaries of ICU (Unicode Standard Annex 29, 4), and
    what it holds beside them."""
    runs: list[str] = []

    def take(found: re.Match[str]) -> str:
        runs.append(found.group())
        return " "

    rest = _WITHOUT_BLANKS.sub(take, text)
    return sum(any(c.isalnum() for c in part) for part in WordBreaker(" ".join(runs), "en")) if runs else 0, rest


def is_without_blanks(text: str) -> bool:
    """Whether a text is wholly in scripts that put no blanks between words."""
    return _WITHOUT_BLANKS.fullmatch(text) is not None


def spaced(text: str) -> str:
    """A text with blanks between words also where its script puts none, by the dictionaries of ICU."""
    return _WITHOUT_BLANKS.sub(lambda found: f" {' '.join(WordBreaker(found.group(), 'en'))} ", text)


# The sizes that search results set titles and descriptions in.
TITLE_PX, DESCRIPTION_PX = 20, 14


class Widths(msgspec.Struct, frozen=True):
    """The reference face: its units, and the letters of each width in units (by ``scripts/widths.py``)."""

    source: str
    units: int
    letters: dict[str, str]


@lru_cache(maxsize=1)
def _widths() -> tuple[int, dict[str, int]]:
    face = msgspec.json.decode(resources.files(__package__).joinpath("widths.json").read_bytes(), type=Widths)
    return face.units, {letter: int(width) for width, letters in face.letters.items() for letter in letters}


def pixels(text: str, size_px: int) -> float:
    """How wide a text is on one line in the reference face at a size in pixels, the face's advance widths summed.

    Letters that the face does not have are as wide as the size where they are wide (Unicode Standard Annex 11), and half of that otherwise.
    """
    units, widths = _widths()
    total = 0
    for letter in text:
        width = widths.get(letter)
        total += units * max(0, wcwidth.wcwidth(letter)) // 2 if width is None else width
    return total * size_px / units


def columns(text: str) -> int:
    """How wide a text is, in Latin letters: East Asian wide letters count as two, marks on other letters as none (Unicode Standard Annex
    11). So limits in characters fit all scripts."""
    width = wcwidth.wcswidth(text)
    return int(width) if width >= 0 else sum(max(0, wcwidth.wcwidth(c)) for c in text)
