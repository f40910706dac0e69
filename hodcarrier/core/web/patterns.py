"""Patterns for URLs, the one language that plans and waivers name them in."""

from __future__ import annotations

import re
from functools import lru_cache

from hodcarrier.core.errors import InvalidPlan
from hodcarrier.core.web.urls import WEB, is_web, split

REGEX_MARK = "regex:"


@lru_cache(maxsize=1024)
def compile_pattern(text: str) -> re.Pattern[str]:
    """A pattern for the path and query of a URL, or for the whole of it when it begins with http: or https:.

    ``*`` stands for anything, the rest for itself. After ``regex:`` a regular expression follows, sought in the whole URL.
    Raises :class:`InvalidPlan` for one that cannot be read.
    """
    if text.startswith(REGEX_MARK):
        try:
            return re.compile(text.removeprefix(REGEX_MARK))
        except re.error as error:
            raise InvalidPlan(f"“{text}” is not a regular expression: {error}.", "Correct it, or use * as in /shop/*.") from None
    if not text.startswith(("/", "*", *WEB)):
        raise InvalidPlan(
            f"“{text}” is not a pattern.", "Begin it with a slash, as in /shop/*, with https:// for a whole URL, or with regex:."
        )
    return re.compile(".*".join(re.escape(part) for part in text.split("*")) + r"\Z", re.S)


def matches(pattern: str, url: str) -> bool:
    """Whether a pattern matches a normalised URL. What is no URL, such as the site as a whole, is matched by none."""
    if not is_web(url):
        return False
    compiled = compile_pattern(pattern)
    if pattern.startswith(REGEX_MARK):
        return compiled.search(url) is not None
    if pattern.startswith(WEB):
        return compiled.match(url) is not None
    parts = split(url)
    return compiled.match(parts.path + (f"?{parts.query}" if parts.query else "")) is not None
