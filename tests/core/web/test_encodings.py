"""Which encoding a document is in, and where it was declared (WHATWG HTML, 13.2.3.2)."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.web.encodings import decode, sniff

META = b"<!doctype html><meta charset="


@pytest.mark.parametrize(
    ("body", "content_type", "encoding", "source"),
    [
        (b"plain", "text/html", "utf-8", "default"),
        (b"caf\xe9", "text/html", "windows-1252", "default"),
        ("café".encode(), "text/html", "utf-8", "default"),
        (b"x", "text/html; charset=UTF-8", "utf-8", "header"),
        (b"x", "text/html; charset=latin1", "windows-1252", "header"),
        (b"x", 'text/html; charset="koi8-r"', "koi8-r", "header"),
        (b"x", "text/html; CHARSET = Shift_JIS", "shift_jis", "header"),
        (b"x", "text/html; charset=no-such", "utf-8", "default"),
        (META + b"windows-1251>", "text/html", "windows-1251", "meta"),
        (META + b'"iso-8859-2">', "text/html", "iso-8859-2", "meta"),
        (META + b"utf-16>", "text/html", "utf-8", "meta"),
        (b'<meta http-equiv="content-type" content="text/html; charset=big5">', "text/html", "big5", "meta"),
        (b"<!-- <meta charset=big5> -->" + META + b"gbk>", "text/html", "gbk", "meta"),
        (b" " * 1024 + META + b"big5>", "text/html", "utf-8", "default"),
        (META + b"big5>", "text/html; charset=euc-kr", "euc-kr", "header"),
        (b"\xef\xbb\xbfx", "text/html; charset=big5", "utf-8", "bom"),
        (b"\xff\xfex\x00", "text/html", "utf-16le", "bom"),
        (b"\xfe\xff\x00x", "text/html", "utf-16be", "bom"),
        (b"", "", "utf-8", "default"),
        (b'<meta name=description content="all about charset=koi8-r"><p>', "text/html", "utf-8", "default"),
        (b'<meta name=description content="charset=koi8-r"><meta charset=big5>', "text/html", "big5", "meta"),
        (b'<meta content="text/html; charset=koi8-r"><p>', "text/html", "utf-8", "default"),
        (b'<meta content="text/html; charset=koi8-r" http-equiv=Content-Type>', "text/html", "koi8-r", "meta"),
        (b'<p title="<meta charset=big5>">', "text/html", "utf-8", "default"),
        (b"<p title='>'<meta charset=big5>>", "text/html", "utf-8", "default"),
        (b"<?php <meta charset=big5> ?>", "text/html", "utf-8", "default"),
        (b"<!-->" + META + b"gbk>", "text/html", "gbk", "meta"),
        (b"<metadata charset=big5><meta/charset=gbk>", "text/html", "gbk", "meta"),
        (b"<meta charset=gbk charset=big5>", "text/html", "gbk", "meta"),
        (b"<meta charset=no-such>" + META + b"big5>", "text/html", "big5", "meta"),
        (b"<meta charset=x-user-defined>", "text/html", "windows-1252", "meta"),
        (b"<meta charset=big5", "text/html", "big5", "meta"),
        (b"x", "text/html; xcharset=big5", "utf-8", "default"),
    ],
)
def test_declarations(body: bytes, content_type: str, encoding: str, source: str) -> None:
    assert sniff(body, content_type) == (encoding, source)


@pytest.mark.parametrize(
    ("body", "encoding", "text"),
    [
        ("naïve".encode(), "utf-8", "naïve"),
        (b"\xef\xbb\xbfx", "utf-8", "x"),
        (b"\xff\xfex\x00", "utf-16le", "x"),
        ("канат".encode("koi8-r"), "koi8-r", "канат"),
        (b"a\xffb", "utf-8", "a\ufffdb"),
        (b"x", "no-such", "x"),
    ],
)
def test_decoding(body: bytes, encoding: str, text: str) -> None:
    assert decode(body, encoding) == text


@given(st.binary(max_size=200), st.text(max_size=30))
def test_any_bytes_under_any_type_are_read(body: bytes, content_type: str) -> None:
    encoding, source = sniff(body, content_type)
    assert source in ("bom", "header", "meta", "default")
    assert isinstance(decode(body, encoding), str)


@given(st.text(alphabet=st.characters(blacklist_categories=("Cs",)), max_size=60))
def test_utf8_comes_back_as_it_was(text: str) -> None:
    assert decode(text.encode(), "utf-8") == text.removeprefix("\ufeff")
