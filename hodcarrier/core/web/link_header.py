"""The ``Link`` header (RFC 8288), as far as canonicals and versions in other languages need it."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.web.urls import is_web, normalize

_ITEM = re.compile(r"<([^<>]*)>((?:\s*;\s*[\w*-]+(?:\s*=\s*(?:\"[^\"]*\"|[^\s;,]+))?)*)")
_REL = re.compile(r";\s*rel\s*=\s*(?:\"([^\"]*)\"|([^\s;,]+))", re.I)
_LANGUAGE = re.compile(r";\s*hreflang\s*=\s*(?:\"([^\"]*)\"|([^\s;,]+))", re.I)


def canonical_from_header(values: Iterable[str], base: str) -> str:
    """The normalised URL that a ``Link`` header names as canonical; empty if none does."""
    return next((url for url, _ in _named(values, "canonical", base) if is_web(url)), "")


def alternates_from_header(values: Iterable[str], base: str) -> list[tuple[str, str]]:
    """Language codes as written and normalised URLs of the versions that ``Link`` headers name."""
    found = []
    for url, parameters in _named(values, "alternate", base):
        if language := _LANGUAGE.search(parameters):
            found.append(((language.group(1) or language.group(2) or "").strip(), url))
    return found


def _named(values: Iterable[str], wanted: str, base: str) -> Iterator[tuple[str, str]]:
    """The targets of one relation, with their parameters."""
    for value in values:
        for target, parameters in _ITEM.findall(value):
            rel = _REL.search(parameters)
            if rel and wanted in (rel.group(1) or rel.group(2) or "").lower().split():
                try:
                    yield normalize(target, base), parameters
                except InvalidUrl:
                    continue
