"""What an answer without a content type is.

Source: WHATWG MIME Sniffing, 7.1: identifying a resource with an unknown MIME type. Only HTML is told from the rest.
"""

from __future__ import annotations

import re

_TAGS = rb"!doctype html|html|head|script|iframe|h1|div|font|table|a|style|title|b|body|br|p"
_HTML = re.compile(rb"[\t\n\x0c\r ]*<(?:(?:" + _TAGS + rb")[ >]|!--)", re.I)
UNKNOWN = frozenset({"", "unknown/unknown", "application/unknown", "*/*"})


def sniff(declared: str, body: bytes) -> str:
    """The type of an answer: as declared, or ``text/html`` when none was declared and the body begins as HTML does."""
    if declared in UNKNOWN and _HTML.match(body.removeprefix(b"\xef\xbb\xbf")):
        return "text/html"
    return declared
