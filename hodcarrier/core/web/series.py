"""Pages of one series: the parts of a list or an article that is divided over several pages, told by their URLs."""

from __future__ import annotations

import re

_PARAMETER = re.compile(r"(?<=[?&])(?:page|paged|pg|p|seite|pagina|pageno|page_no|pagenum|start|offset)=\d+(?:&|$)", re.I)
_SEGMENT = re.compile(r"/(?:page|seite|pagina|p)[/_-]?\d+(?=/|\?|$)", re.I)


def in_one_series(one: str, other: str) -> bool:
    """Whether two URLs are of one series: at least one of them carries a number of a page, and they are alike without it."""
    return series_of(one) == series_of(other) and any(_is_numbered(url) for url in (one, other))


def _is_numbered(url: str) -> bool:
    return bool(_PARAMETER.search(url) or _SEGMENT.search(url))


def series_of(url: str) -> str:
    """What the URLs of all pages of one series have in common: the URL without the number of its page."""
    stem = _PARAMETER.sub("", url).rstrip("?&")
    stem = _SEGMENT.sub("", stem)
    return stem.rstrip("/") if stem != url else url.rstrip("/")
