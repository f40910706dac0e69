"""Sentences with figures: templates are filled and counted in one place."""

from __future__ import annotations

from collections.abc import Mapping
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


def difference(before: float, after: float, digits: int = 1) -> float:
    """The difference of two figures as they are shown, so that what a reader subtracts gives the same."""
    return round(round(after, digits) - round(before, digits), digits)


def fill(template: str, data: Mapping[str, Any]) -> str:
    """A template with its placeholders filled; numbers get thousands separators, missing values show as a dash."""
    counted = {k: _Count(v) for k, v in data.items() if isinstance(v, int) and not isinstance(v, bool) and k != "status"}
    return template.format_map(_Dashes({**data, **counted}))
