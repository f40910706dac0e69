"""What an answer without a content type is taken for."""

from __future__ import annotations

import pytest

from hodcarrier.core.web.sniff import sniff


@pytest.mark.parametrize(
    ("declared", "body", "kind"),
    [
        ("", b"<!DOCTYPE html><p>x", "text/html"),
        ("", b"\n\t <HTML>", "text/html"),
        ("", b"\xef\xbb\xbf<title>x", "text/html"),
        ("", b"<!-- first --><p>", "text/html"),
        ("*/*", b"<p class=x>", "text/html"),
        ("unknown/unknown", b"<h1>a</h1>", "text/html"),
        ("", b"<h2>no tag of the list</h2>", ""),
        ("", b"<pre>no <p> at the beginning</pre>", ""),
        ("", b"words, then <p>", ""),
        ("", b"", ""),
        ("text/plain", b"<!DOCTYPE html><p>x", "text/plain"),
        ("image/png", b"<h1>a page</h1>", "image/png"),
    ],
)
def test_only_what_was_not_declared_is_sniffed(declared: str, body: bytes, kind: str) -> None:
    assert sniff(declared, body) == kind
