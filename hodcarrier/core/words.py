"""Sentences with figures: templates are filled and counted in one place."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any


class _Count(int):
    """A number in a message: ``{links}`` shows 1,312 and ``{links:page}`` shows 1,312 pages (or 1 page)."""

    def __format__(self, noun: str) -> str:
        return f"{int(self):,}" + (f" {noun}{'s' * (self != 1)}" if noun else "")


class _Missing(str):
    """What stands for a value that is not there."""

    def __format__(self, _noun: str) -> str:
        return "–"


class _Dashes(dict[str, Any]):
    def __missing__(self, _key: str) -> str:
        return _Missing()


def distinct(words: Iterable[str]) -> list[str]:
    """Words in the order of the alphabet, each once: those that differ by case alone are one, the first of them."""
    wanted: dict[str, str] = {}
    for word in words:
        wanted.setdefault(word.casefold(), word)
    return [wanted[key] for key in sorted(wanted)]


def difference(before: float, after: float, digits: int = 1) -> float:
    """The difference of two figures as they are shown, so that what a reader subtracts gives the same."""
    return round(round(after, digits) - round(before, digits), digits)


def signed(value: float | None) -> str:
    """A change with its sign, to one decimal; empty when there is none."""
    if value is None:
        return ""
    return "0.0" if not round(value, 1) else f"{value:+.1f}".replace("-", "−")


# What steers a terminal or turns text round: C0 and C1 controls but for line ends and tabs (ISO/IEC 6429), and the bidirectional embeddings,
# overrides and isolates (Unicode Standard Annex 9).
_STEERING = {
    **{code: chr(0x2400 + code) for code in range(0x20) if chr(code) not in "\n\t"},
    0x7F: "\u2421",
    **{code: f"<{code:02X}>" for code in range(0x80, 0xA0)},
    **{code: f"<U+{code:04X}>" for code in (*range(0x202A, 0x202F), *range(0x2066, 0x206A))},
}


def visible(text: str) -> str:
    """A text from a site with the characters that would steer a terminal, or turn the text round, made visible."""
    return text.translate(_STEERING)


_KIB = 1024


def as_shown(value: float, unit: str) -> float:
    """A figure as it is shown: points and shares to one decimal, sizes to a tenth of a KiB, all else whole.

    What is compared is compared so, lest "1 ms" be told to trail "1 ms".
    """
    if unit in ("points", "%"):
        return round(value, 1)
    return round(value / _KIB, 1) * _KIB if unit == "bytes" else round(value)


def figure(value: float | None, unit: str) -> str:
    """A figure with its unit; points go without. A dash for none."""
    if value is None:
        return "–"
    if unit == "points":
        return f"{value:,.1f}"
    return {"%": f"{value:,.1f} %", "bytes": f"{value / _KIB:,.1f} KiB"}.get(unit, f"{value:,.0f} {unit}".rstrip())


def gap(value: float | None, unit: str) -> str:
    """How far a figure is ahead (+) or behind (−), with its unit."""
    if value is None:
        return "–"
    if not value:
        return "level"
    return ("−" if value < 0 else "+") + figure(abs(value), unit)


def fill(template: str, data: Mapping[str, Any]) -> str:
    """A template with its placeholders filled; numbers get thousands separators, missing values show as a dash."""
    counted = {k: _Count(v) for k, v in data.items() if isinstance(v, int) and not isinstance(v, bool) and k != "status"}
    return template.format_map(_Dashes({**data, **counted}))
