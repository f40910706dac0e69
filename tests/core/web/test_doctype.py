"""Doctypes and the mode they make browsers draw in (WHATWG HTML, 13.2.6.4.1)."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.web.doctype import doctype_of

STRICT = '<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.0 Strict//EN" "http://www.w3.org/TR/xhtml1/DTD/xhtml1-strict.dtd">'


@pytest.mark.parametrize(
    ("text", "there", "quirks"),
    [
        ("<!doctype html><p>", True, False),
        ("\ufeff<!DOCTYPE HTML>", True, False),
        ("<!doctypehtml>", True, False),
        (" \n<!-- a --><!doctype html>", True, False),
        ("<!--><!doctype html>", True, False),
        ("<!-- a > --!><!doctype html>", True, False),
        ('<?xml version="1.0" encoding="utf-8"?>\n' + STRICT, True, False),
        ("<![CDATA[x]]><!doctype html>", True, False),
        ('<!doctype html SYSTEM "about:legacy-compat">', True, False),
        ('<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01//EN">', True, False),
        ('<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01 Transitional//EN">', True, True),
        ('<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01 Transitional//EN" "http://www.w3.org/TR/html4/loose.dtd">', True, False),
        ("<!DOCTYPE HTML PUBLIC '-//W3C//DTD HTML 3.2 Final//EN'>", True, True),
        ("<!doctype>", True, True),
        ("<!doctype svg>", True, True),
        ("<p>text<!doctype html>", False, True),
        ("<!-- never closed <!doctype html>", False, True),
        ("x<!doctype html>", False, True),
        ("", False, True),
    ],
)
def test_modes(text: str, there: bool, quirks: bool) -> None:
    assert doctype_of(text) == (there, quirks)


@given(st.text(alphabet="<!->?dD octype\nhtml\"'", max_size=60))
def test_what_stands_before_decides_for_any_text(text: str) -> None:
    there, quirks = doctype_of(text)
    assert there or quirks


def test_many_comments_take_no_longer_than_their_length() -> None:
    assert doctype_of("<!---->" * 50_000 + "<p>") == (False, True)
