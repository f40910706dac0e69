"""Traps: addresses that a site makes without end. The guard stops a pattern at its limit; it is told as a finding."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass, field

from hodcarrier.core.web.parameters import SESSION_NAMES
from hodcarrier.core.web.urls import split

SESSION_PAGES_MAX = 50
REPEATS_MAX = 3
SAME_SEGMENT_MAX = 4
SEGMENTS_MAX = 40
EXAMPLES_MAX = 5
_DIGITS = re.compile(r"\d+")
_SESSION = re.compile(r"(?:(?=[^/]*\d)(?=[^/]*[a-z])[0-9a-z]{24,}|\(?[SA]\([0-9a-z]{16,}\)\)?)", re.I)
_SESSION_SUFFIX = re.compile(r";(?:jsessionid|phpsessid|sid|sessionid)=[^/;]*", re.I)


def pattern_of(url: str) -> str:
    """The shape of an address: runs of digits become ``#``, session-like segments ``~``, query values are left out.

    Words are kept, so that ``/rope/knots`` and ``/rope/anchors`` are two patterns and ``/calendar/2026/11`` and
    ``/calendar/2026/12`` one.
    """
    parts = split(url)
    path = _SESSION_SUFFIX.sub("~", parts.path)
    path = "/".join("~" if _SESSION.fullmatch(segment) else _DIGITS.sub("#", segment) for segment in path.split("/"))
    if not parts.query:
        return path
    names = sorted({pair.partition("=")[0] for pair in parts.query.split("&")})
    shown = ["~" if name.lower() in SESSION_NAMES else name for name in names]
    return path + "?" + "&".join(shown)


def repeats(url: str) -> bool:
    """Whether the path goes round in circles: a run of one to four segments more than three times in a row, one segment more
    than four times at all, or more than forty segments."""
    segments = [s for s in split(url).path.split("/") if s]
    if len(segments) <= REPEATS_MAX:
        return False
    if len(segments) > SEGMENTS_MAX or max(Counter(segments).values()) > SAME_SEGMENT_MAX:
        return True
    for size in range(1, 5):
        need = size * (REPEATS_MAX + 1)
        for at in range(len(segments) - need + 1):
            run = segments[at : at + size]
            if all(segments[at + size * n : at + size * (n + 1)] == run for n in range(1, REPEATS_MAX + 1)):
                return True
    return False


@dataclass
class TrapGuard:
    """Counts pages per pattern and says when one is full. ``full`` maps a pattern to its limit and some examples left out."""

    pattern_pages_max: int
    query_pages_max: int
    counts: dict[str, int] = field(default_factory=dict)
    full: dict[str, tuple[int, list[str]]] = field(default_factory=dict)

    def admit(self, url: str) -> str:
        """Count an address; gives why it is left out, or empty text when it may be fetched."""
        if repeats(url):
            self._left_out("path that repeats itself", 0, url)
            return "its path repeats itself"
        pattern = pattern_of(url)
        limit = self._limit(pattern)
        count = self.counts.get(pattern, 0)
        if count >= limit:
            self._left_out(pattern, limit, url)
            return f"more than {limit:,} pages like {pattern}"
        self.counts[pattern] = count + 1
        return ""

    def _limit(self, pattern: str) -> int:
        if "~" in pattern:
            return min(SESSION_PAGES_MAX, self.pattern_pages_max)
        return min(self.query_pages_max, self.pattern_pages_max) if "?" in pattern else self.pattern_pages_max

    def _left_out(self, pattern: str, limit: int, url: str) -> None:
        _, examples = self.full.setdefault(pattern, (limit, []))
        if len(examples) < EXAMPLES_MAX:
            examples.append(url)
