"""Query parameters that look like session ids: they make many addresses of one page, and a plan may drop them."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass

from hodcarrier.core.web.urls import drop_parameters

SESSION_NAMES = frozenset(
    {"jsessionid", "phpsessid", "sid", "sessionid", "session_id", "session", "aspsessionid", "cfid", "cftoken"}
)
_TOKEN = re.compile(r"(?=.*\d)(?=.*[A-Za-z])[0-9A-Za-z._~-]{16,}")
_PAIR = re.compile(r"[?&;]([^=&;?/#]+)=([^&;/#]*)")


@dataclass(frozen=True, slots=True)
class SessionParameter:
    """A parameter that looks like a session id, how many addresses carry it, and one of them."""

    name: str
    addresses: int
    example: str


def session_parameters(pages: Iterable[tuple[str, str]]) -> list[SessionParameter]:
    """Parameters of (URL, hash of its text or empty) that look like session ids, the most frequent first.

    One of the usual names is enough. Any other name must carry long mixed values only, and two addresses that differ in
    its value alone must have shown the same text: an order number is as long, but leads to another page each time.
    """
    urls: dict[str, list[str]] = defaultdict(list)
    plain: set[str] = set()
    texts: dict[tuple[str, str, str], set[str]] = defaultdict(set)
    for url, text in pages:
        for name, value in _PAIR.findall(url):
            urls[name].append(url)
            if not _TOKEN.fullmatch(value):
                plain.add(name)
            elif text:
                texts[name, drop_parameters(url, frozenset({name})), text].add(value)
    same = {name for (name, _, _), values in texts.items() if len(values) > 1}
    found = [
        SessionParameter(name, len(carriers), carriers[0])
        for name, carriers in urls.items()
        if name.lower() in SESSION_NAMES or (name in same and name not in plain)
    ]
    return sorted(found, key=lambda p: (-p.addresses, p.name))
