"""Patterns for addresses, as plans and waivers name them."""

from __future__ import annotations

import re
from functools import lru_cache

from hodcarrier.core.errors import InvalidPlan
from hodcarrier.core.urls import split

REGEX_MARK = "regex:"


@lru_cache(maxsize=1024)
def compile_pattern(text: str) -> re.Pattern[str]:
    """A pattern for the path and query of a page: ``*`` stands for anything, the rest for itself.

    After ``regex:`` a regular expression follows, sought in the whole URL. Raises :class:`InvalidPlan` for one that cannot
    be read.
    """
    if text.startswith(REGEX_MARK):
        try:
            return re.compile(text.removeprefix(REGEX_MARK))
        except re.error as error:
            raise InvalidPlan(f"“{text}” is not a regular expression: {error}.", "Correct it, or use * as in /shop/*.") from None
    if not text.startswith(("/", "*")):
        raise InvalidPlan(f"“{text}” is not a pattern.", "Begin it with a slash, as in /shop/*, or with regex:.")
    return re.compile(".*".join(re.escape(part) for part in text.split("*")) + r"\Z", re.S)


def matches(pattern: str, url: str) -> bool:
    """Whether a pattern matches a normalised URL."""
    compiled = compile_pattern(pattern)
    if pattern.startswith(REGEX_MARK):
        return compiled.search(url) is not None
    parts = split(url)
    return compiled.match(parts.path + (f"?{parts.query}" if parts.query else "")) is not None
