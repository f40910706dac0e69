"""What is read of scripts, style sheets and images."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.files import is_raster, is_text, plain_type, read_file

PNG = bytes.fromhex("89504e470d0a1a0a0000000d49484452000000320000001e0802000000")
WHERE = "https://shop.example/assets/x"


def test_an_image_tells_its_format_and_its_pixels() -> None:
    found = read_file(PNG, WHERE + ".jpg", "image/jpeg", False)
    assert (found.type, found.width, found.height, found.digest) == ("image/png", 50, 30, "")
    assert read_file(PNG, WHERE, "image/png", True).digest == read_file(PNG, WHERE + "?2", "image/gif", True).digest != ""


@pytest.mark.parametrize(
    ("text", "kind", "waste"),
    [
        ("var a=1", "text/javascript", 0),
        ("/* note */var a=1", "application/javascript", 10 / 17),
        ("a {\n  color: red;\n}\n", "text/css", 0.4),
        ("", "text/css", 0),
    ],
)
def test_white_space_and_comments_are_measured(text: str, kind: str, waste: float) -> None:
    assert read_file(text.encode(), WHERE, kind, True).waste == pytest.approx(waste, abs=0.001)
    assert read_file(text.encode(), WHERE, kind, False).waste == -1


def test_a_style_sheet_names_the_first_source_of_each_font() -> None:
    css = """/* @font-face { src: url(no.woff) } */ a { background: url(b.png) }
    @font-face { font-family: a; src: local("A"), url("a.woff2") format("woff2"), url(a.woff) }
    @FONT-FACE { src: url(data:font/woff2;base64,AA==) } @font-face { src: url( /b.woff2 ) } @font-face { font-family: none }"""
    found = read_file(css.encode(), WHERE, "text/css", True).fonts
    assert [url for url in found if "no.woff" not in url] == [
        "https://shop.example/assets/a.woff2",
        "https://shop.example/b.woff2",
    ]


@pytest.mark.parametrize(
    ("inside", "scripted"),
    [
        ("<script/>", True),
        ("<g onclick='x'/>", True),
        ("<a href='javascript:x'/>", True),
        ("<a href='/x'/>", False),
        ("<description>on</description>", False),
        ("<g", False),
    ],
)
def test_scripts_in_drawings(inside: str, scripted: bool) -> None:
    body = f'<svg xmlns="http://www.w3.org/2000/svg">{inside}</svg>'.encode()
    assert read_file(body, WHERE, "image/svg+xml", True).scripted is scripted


@given(st.binary(max_size=300), st.sampled_from(["image/png", "image/svg+xml", "text/css", "text/javascript", "font/woff2", ""]))
def test_no_bytes_break_the_reading(body: bytes, declared: str) -> None:
    found = read_file(body, WHERE, declared, True)
    assert found.width >= 0 and found.height >= 0 and -1 <= found.waste <= 1


@given(
    st.sampled_from([b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff", b"GIF89a", b"RIFF\0\0\0\0WEBPVP8 ", b"\0\0\0\x1cftypavif"]),
    st.binary(max_size=60),
)
def test_no_image_that_breaks_off_breaks_the_reading(start: bytes, rest: bytes) -> None:
    read_file(start + rest, WHERE, "image/png", False)


def test_names_tell_how_a_file_is_read() -> None:
    assert is_raster(WHERE + ".JPG?v=2") and not is_raster(WHERE + ".svg") and not is_raster(WHERE)
    assert is_text(WHERE + ".mjs") and is_text(WHERE + ".svg") and not is_text(WHERE + ".json")
    assert plain_type("image/jpg") == "image/jpeg" and plain_type("font/woff2") == "font/woff2"
