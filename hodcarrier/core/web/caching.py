"""How long a browser may keep an answer (RFC 9111)."""

from __future__ import annotations

import re
from email.utils import parsedate_to_datetime

_DIRECTIVE = re.compile(r"\s*([\w-]+)\s*(?:=\s*(?:\"([^\"]*)\"|([^\s,;]*)))?\s*(?:,|;|$)")


def directives(cache_control: str) -> dict[str, str]:
    """The directives of a ``Cache-Control``, names in lower case; the first of several alike counts."""
    found: dict[str, str] = {}
    for name, quoted, plain in _DIRECTIVE.findall(cache_control):
        found.setdefault(name.lower(), quoted or plain)
    return found


def freshness_s(cache_control: str, expires: str, date: str) -> int | None:
    """For how many seconds an answer is fresh to a browser (RFC 9111, 4.2.1); ``None`` when it does not say. 0 for what is never to be used
    without asking."""
    named = directives(cache_control)
    if "no-store" in named or "no-cache" in named:
        return 0
    if named.get("max-age", "").isdigit():
        return int(named["max-age"])
    if not expires:
        return None
    try:
        until = parsedate_to_datetime(expires)
        since = parsedate_to_datetime(date) if date else None
    except (ValueError, TypeError, IndexError):
        return 0  # an invalid date means already expired (RFC 9111, 5.3)
    if since is None or (until.tzinfo is None) != (since.tzinfo is None):
        return None
    return max(0, int((until - since).total_seconds()))
