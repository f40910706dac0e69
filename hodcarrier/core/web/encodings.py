"""Which character encoding a document is in (WHATWG HTML, 13.2.3.2: encoding sniffing)."""

from __future__ import annotations

import re
from enum import StrEnum

import webencodings

_META = re.compile(rb"<meta\s[^>]*?charset\s*=\s*[\"']?\s*([^\s\"'/>;]+)", re.I)
_COMMENT = re.compile(rb"<!--.*?-->", re.S)
_CONTENT_TYPE = re.compile(r"charset\s*=\s*[\"']?([^\s\"';]+)", re.I)
_MARKS = ((b"\xef\xbb\xbf", "utf-8"), (b"\xff\xfe", "utf-16le"), (b"\xfe\xff", "utf-16be"))


class EncodingSource(StrEnum):
    """Where the character encoding of a document was declared (WHATWG HTML, 13.2.3.2)."""

    MARK = "bom"
    HEADER = "header"
    META = "meta"
    DEFAULT = "default"


def sniff(body: bytes, content_type: str) -> tuple[str, EncodingSource]:
    """The encoding's standard name and where it was declared.

    The ``meta`` scan reads the first 1,024 bytes, as the standard asks; without any declaration UTF-8 is taken when the
    bytes are valid UTF-8 and windows-1252 otherwise.
    """
    for mark, name in _MARKS:
        if body.startswith(mark):
            return name, EncodingSource.MARK
    found = _CONTENT_TYPE.search(content_type)
    if found and (label := webencodings.lookup(found.group(1))):
        return label.name, EncodingSource.HEADER
    meta = _META.search(_COMMENT.sub(b"", body[:1024]))
    if meta and (label := webencodings.lookup(meta.group(1).decode("ascii", "replace"))):
        return ("utf-8" if label.name.startswith("utf-16") else label.name), EncodingSource.META
    try:
        body.decode("utf-8")
    except UnicodeDecodeError:
        return "windows-1252", EncodingSource.DEFAULT
    return "utf-8", EncodingSource.DEFAULT


def decode(body: bytes, encoding: str) -> str:
    """The text of a document; bytes that fit no character become U+FFFD."""
    if encoding == "utf-8":
        return body.removeprefix(b"\xef\xbb\xbf").decode("utf-8", "replace")
    text, _ = webencodings.decode(body, webencodings.lookup(encoding) or webencodings.UTF8, "replace")
    return str(text)
