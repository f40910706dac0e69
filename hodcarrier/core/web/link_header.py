"""The ``Link`` header (RFC 8288), as far as a canonical needs it."""

from __future__ import annotations

import re
from collections.abc import Iterable

from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.web.urls import is_web, normalize

_ITEM = re.compile(r"<([^<>]*)>((?:\s*;\s*[\w*-]+(?:\s*=\s*(?:\"[^\"]*\"|[^\s;,]+))?)*)")
_REL = re.compile(r";\s*rel\s*=\s*(?:\"([^\"]*)\"|([^\s;,]+))", re.I)


def canonical_from_header(values: Iterable[str], base: str) -> str:
    """The normalised URL that a ``Link`` header names as canonical; empty if none does."""
    for value in values:
        for target, parameters in _ITEM.findall(value):
            rel = _REL.search(parameters)
            if rel and "canonical" in (rel.group(1) or rel.group(2)).lower().split():
                try:
                    url = normalize(target, base)
                except InvalidUrl:
                    continue
                if is_web(url):
                    return url
    return ""
