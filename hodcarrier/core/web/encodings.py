"""Which character encoding a document is in (WHATWG HTML, 13.2.3.2: encoding sniffing)."""

from __future__ import annotations

import re
from collections.abc import Mapping
from enum import StrEnum

import webencodings

PRESCAN_BYTES = 1024
_CONTENT_TYPE = re.compile(r"(?:^|;)\s*charset\s*=\s*[\"']?([^\s\"';]+)", re.I)
# Of the prescan (WHATWG HTML, 13.2.3.2): comments, metas, other tags, and what else begins with "<".
_COMMENT = re.compile(rb"<!--(?:-?>|.*?-->)", re.S)
_META = re.compile(rb"<meta(?=[\t\n\f\r /])", re.I)
_TAG = re.compile(rb"</?[a-z][^\t\n\f\r >]*", re.I)
_OTHER = re.compile(rb"<[!/?][^>]*>?")
_ATTRIBUTE = re.compile(
    rb"[\t\n\f\r /]*+(?!>)(=?[^\t\n\f\r />=]*+)(?:[\t\n\f\r ]*+=[\t\n\f\r ]*+"
    rb"(?:\"([^\"]*)\"|'([^']*)'|([^\t\n\f\r >\"'][^\t\n\f\r >]*+)|(?=>)))?"
)
_IN_CONTENT = re.compile(r"charset[\t\n\f\r ]*+=[\t\n\f\r ]*+(?:\"([^\"]*)\"|'([^']*)'|([^\t\n\f\r ;\"'][^\t\n\f\r ;]*+))", re.I)
_MARKS = ((b"\xef\xbb\xbf", "utf-8"), (b"\xff\xfe", "utf-16le"), (b"\xfe\xff", "utf-16be"))


class EncodingSource(StrEnum):
    """Where the character encoding of a document was declared (WHATWG HTML, 13.2.3.2). ``late``: in a meta element after the first
    1,024 bytes, which browsers come upon when they have begun to read in another encoding."""

    MARK = "bom"
    HEADER = "header"
    META = "meta"
    LATE = "late"
    DEFAULT = "default"


def sniff(body: bytes, content_type: str) -> tuple[str, EncodingSource]:
    """The encoding's standard name and where it was declared.

    The ``meta`` scan reads the first 1,024 bytes, as the standard asks; without any declaration UTF-8 is taken when the
    bytes are valid UTF-8 and windows-1252 otherwise.
    """
    for mark, name in _MARKS:
        if body.startswith(mark):
            return name, EncodingSource.MARK
    if name := of_header(content_type):
        return name, EncodingSource.HEADER
    if name := prescan(body[:PRESCAN_BYTES]):
        return name, EncodingSource.META
    try:
        body.decode("utf-8")
    except UnicodeDecodeError:
        return "windows-1252", EncodingSource.DEFAULT
    return "utf-8", EncodingSource.DEFAULT


def of_header(content_type: str) -> str:
    """The encoding that a Content-Type header declares; empty when it declares none that is known."""
    found = _CONTENT_TYPE.search(content_type)
    known = webencodings.lookup(found.group(1)) if found else None
    return str(known.name) if known else ""


def prescan(head: bytes) -> str:
    """The encoding that a meta element in the beginning of a document declares; empty when none does."""
    at = 0
    while (at := head.find(b"<", at)) >= 0:
        if head.startswith(b"<!--", at):
            comment = _COMMENT.match(head, at)
            if comment is None:
                return ""
            at = comment.end()
        elif meta := _META.match(head, at):
            attributes, at = _attributes(head, meta.end())
            if name := of_meta(dict(reversed(attributes))):
                return name
        elif tag := _TAG.match(head, at):
            _, at = _attributes(head, tag.end())
        elif other := _OTHER.match(head, at):
            at = other.end()
        else:
            at += 1
    return ""


def _attributes(head: bytes, at: int) -> tuple[list[tuple[str, str]], int]:
    """The attributes of a tag as they stand, names in lower case, and where they end."""
    found = []
    while (attribute := _ATTRIBUTE.match(head, at)) and attribute.end() > at and attribute.group(1):
        value = next((part for part in attribute.groups()[1:] if part is not None), b"")
        found.append((attribute.group(1).decode("latin-1").lower(), value.decode("latin-1")))
        at = attribute.end()
    return found, at


def of_meta(attributes: Mapping[str, str | None]) -> str:
    """The encoding that a meta element with these attributes declares, by its charset, or by its content where it stands for a
    Content-Type; empty when it declares none. UTF-16, which a meta element cannot be read in, stands for UTF-8."""
    label = attributes.get("charset")
    if label is None:
        if (attributes.get("http-equiv") or "").strip().lower() != "content-type":
            return ""
        declared = _IN_CONTENT.search(attributes.get("content") or "")
        label = next((part for part in declared.groups() if part is not None), "") if declared else ""
    known = webencodings.lookup(label)
    if known is None:
        return ""
    return {"utf-16le": "utf-8", "utf-16be": "utf-8", "x-user-defined": "windows-1252"}.get(known.name, str(known.name))


def decode(body: bytes, encoding: str) -> str:
    """The text of a document; bytes that fit no character become U+FFFD."""
    if encoding == "utf-8":
        return body.removeprefix(b"\xef\xbb\xbf").decode("utf-8", "replace")
    text, _ = webencodings.decode(body, webencodings.lookup(encoding) or webencodings.UTF8, "replace")
    return str(text)
