"""What a refresh asks for (WHATWG HTML, 4.2.4.3)."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.web.refresh import read_refresh


@pytest.mark.parametrize(
    ("content", "asked"),
    [
        ("5", (5, "")),
        ("5;", (5, "")),
        ("0; url=/b", (0, "/b")),
        ("0;URL = '/b' and more", (0, "/b")),
        ('0,url="/b', (0, "/b")),
        ("1 /b", (1, "/b")),
        ("1;/b c", (1, "/b c")),
        ("1; 'quoted'", (1, "quoted")),
        ("1;; /b", (1, "; /b")),
        (".9; url=/b", (0, "/b")),
        ("1.9.9; url=/b", (1, "/b")),
        ("2; urgent", (2, "urgent")),
        ("  3", (3, "")),
        ("refreshing soon", None),
        ("; url=/b", None),
        ("5url=/b", None),
        ("-1; url=/b", None),
        ("", None),
    ],
)
def test_contents(content: str, asked: tuple[int, str] | None) -> None:
    assert read_refresh(content) == asked


@given(st.text(max_size=40))
def test_any_text_is_read(content: str) -> None:
    asked = read_refresh(content)
    assert asked is None or asked[0] >= 0
