"""Patterns for URLs, the one language that plans and waivers name them in.

They are matched in time that grows with the length of the URL alone (RE2): no pattern that somebody types can hold up a crawl.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Protocol

import re2

from hodcarrier.core.errors import InvalidPlan
from hodcarrier.core.web.urls import WEB, is_web, split

REGEX_MARK = "regex:"
PATTERN_CHARS_MAX = 2000
PROGRAM_BYTES_MAX = 1024 * 1024


# ``\Z`` has been the end of a text in patterns that are stored; the matcher calls it ``\z``.
_END = re2.compile(r"((?:^|[^\\])(?:\\\\)*)\\Z")


class Compiled(Protocol):
    """A pattern that can be looked for."""

    def search(self, text: str | bytes) -> object:
        """Anything but ``None`` where it is found, in a text or in its UTF-8."""
        ...


def _options() -> re2.Options:
    options = re2.Options()
    options.log_errors, options.dot_nl, options.max_mem = False, True, PROGRAM_BYTES_MAX
    return options


@lru_cache(maxsize=1024)
def compile_pattern(text: str) -> Compiled:
    """A pattern for the path and query of a URL, or for the whole of it when it begins with http: or https:.

    ``*`` stands for anything, the rest for itself. After ``regex:`` a regular expression follows, sought in the whole URL; what cannot be
    matched in linear time (look-around, back references) is not understood. Raises :class:`InvalidPlan` for one that cannot be read.
    """
    if len(text) > PATTERN_CHARS_MAX:
        raise InvalidPlan(f"A pattern has {len(text):,} characters.", f"Give {PATTERN_CHARS_MAX:,} at most.")
    if text.startswith(REGEX_MARK):
        try:
            compiled: Compiled = re2.compile(_END.sub(r"\1\\z", text.removeprefix(REGEX_MARK)), _options())
        except re2.error as error:
            said = error.args[0] if error.args else error
            words = said.decode(errors="replace") if isinstance(said, bytes) else said
            raise InvalidPlan(
                f"“{text}” is not a regular expression we can use: {words}.",
                "Correct it, or use * as in /shop/*. Look-around and back references are not understood.",
            ) from None
        return compiled
    if not text.startswith(("/", "*", *WEB)):
        raise InvalidPlan(
            f"“{text}” is not a pattern.", "Begin it with a slash, as in /shop/*, with https:// for a whole URL, or with regex:."
        )
    found: Compiled = re2.compile("^" + ".*".join(re2.escape(part) for part in text.split("*")) + "$", _options())
    return found


def is_pattern(text: str) -> bool:
    """Whether a pattern can be read."""
    try:
        compile_pattern(text)
    except InvalidPlan:
        return False
    return True


def matches(pattern: str, url: str) -> bool:
    """Whether a pattern matches a normalised URL. What is no URL, such as the site as a whole, is matched by none."""
    if not is_web(url):
        return False
    compiled = compile_pattern(pattern)
    if pattern.startswith(REGEX_MARK):
        return compiled.search(url) is not None
    if pattern.startswith(WEB):
        return compiled.search(url) is not None
    parts = split(url)
    return compiled.search(parts.path + (f"?{parts.query}" if parts.query else "")) is not None
