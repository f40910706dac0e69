"""Queries with a name of the client's in them."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable

_BETWEEN = re.compile(r"[\W_]+")


def brand_of(names: Iterable[str]) -> Callable[[str], bool]:
    """Tells whether a query has one of the names in it, whatever their case and what stands between their letters: people write “tide wrack”, too."""
    plain = [_plain(name) for name in names if _plain(name)]
    return lambda query: any(name in _plain(query) for name in plain)


def _plain(text: str) -> str:
    return _BETWEEN.sub("", text.casefold())
