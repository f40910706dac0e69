"""Numbers as tables write them: what stands before the decimals, and how large each is."""

from __future__ import annotations

import re
from collections.abc import Iterable

from hodcarrier.core.states import DecimalMark

_SPACES = re.compile(r"[\s\u00a0\u202f'’]+")
_PLAIN = re.compile(r"[+-]?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?")
_GROUPS = {
    DecimalMark.POINT: re.compile(r"[+-]?\d{1,3}(?:,\d{3})+(?:\.\d+)?"),
    DecimalMark.COMMA: re.compile(r"[+-]?\d{1,3}(?:\.\d{3})+(?:,\d+)?"),
}
_COMMA = re.compile(r"[+-]?\d+,\d+")
_MINUS = str.maketrans("−–", "--")
# What stands in a cell that has no number.
NOTHING = frozenset({"", "-", "--", "n/a", "na", "null", "none", "k. a.", "k.a.", "nan", "not found", "—", "–", "−", "∅"})


def is_nothing(text: str) -> bool:
    """Whether a cell says that there is no value."""
    return text.strip().lower() in NOTHING


def read_number(text: str, mark: DecimalMark) -> float | None:
    """The number that a text names, a per cent sign left out; ``None`` when it names none. Groups of three digits may be set apart by spaces, by
    apostrophes, and by whichever of point and comma is not the decimal mark."""
    plain = _SPACES.sub("", text.translate(_MINUS)).removesuffix("%")
    if _GROUPS[mark].fullmatch(plain):
        plain = plain.replace("," if mark == DecimalMark.POINT else ".", "")
        return float(plain.replace(",", "."))
    if mark == DecimalMark.COMMA:
        if _COMMA.fullmatch(plain):
            return float(plain.replace(",", "."))
        return float(plain) if _PLAIN.fullmatch(plain) and "." not in plain else None
    return float(plain) if _PLAIN.fullmatch(plain) else None


def decimal_marks(texts: Iterable[str]) -> list[DecimalMark]:
    """The marks with which every text is a number, a point first where nothing speaks against it."""
    values = [text for text in dict.fromkeys(texts) if not is_nothing(text)]
    fitting = [mark for mark in DecimalMark if all(read_number(text, mark) is not None for text in values)]
    return sorted(fitting, key=lambda mark: -sum(_shows(text, mark) for text in values))


def _shows(text: str, mark: DecimalMark) -> bool:
    """Whether a text has decimals after a mark, which three digits are only where a group cannot be meant."""
    sign = "." if mark == DecimalMark.POINT else ","
    whole, found, decimals = _SPACES.sub("", text).removesuffix("%").rpartition(sign)
    return bool(found) and (len(decimals) != 3 or whole.lstrip("+-") in ("0", ""))
