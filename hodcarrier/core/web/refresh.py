"""When and where a document sends its reader on by itself (WHATWG HTML, 4.2.4.3: shared declarative refresh steps)."""

from __future__ import annotations

import re

# A visitor does not see the page before it gives way to the next one, which is what search engines take for a redirect.
AT_ONCE_S = 1
_FORM = re.compile(r"[\t\n\f\r ]*+(?=[\d.])(\d*+)[\d.]*+(?:(?=[\t\n\f\r ;,])[\t\n\f\r ]*+[;,]?[\t\n\f\r ]*+(.*))?", re.S)
_URL = re.compile(r"url[\t\n\f\r ]*+=[\t\n\f\r ]*+", re.I)


def read_refresh(content: str) -> tuple[int, str] | None:
    """Seconds until the document gives way, and to what, as written: empty for itself. ``None`` when the text asks for nothing."""
    found = _FORM.fullmatch(content)
    if found is None:
        return None
    seconds, rest = int(found.group(1)[:9] or 0), found.group(2) or ""
    named = _URL.match(rest)
    if named:
        rest = rest[named.end() :]
    if rest[:1] in ("'", '"'):
        rest = rest[1:].partition(rest[0])[0]
    return seconds, rest.strip("\t\n\f\r ")
