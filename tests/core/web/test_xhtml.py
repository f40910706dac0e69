"""XHTML is read as XML: what stands in it makes the elements that browsers make of it."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.page import collect
from hodcarrier.core.web.xhtml import NotWellFormed, to_html

HEAD = '<html xmlns="http://www.w3.org/1999/xhtml" xml:lang="en" lang="en"><head><title>Rope</title><script src="/s.js"/></head>'


def test_elements_that_close_themselves_hold_nothing() -> None:
    """Read as HTML, the script would swallow the page and the anchor all that follows."""
    document = collect(
        (HEAD + '<body><a href="/a"/><h1>Knots &amp; hitches&nbsp;&#x2014;</h1><p/></body></html>').encode(),
        "https://shop.example/",
        "application/xhtml+xml; charset=utf-8",
    )
    assert document.text.h1 == "Knots & hitches —"
    assert [(link.kind, link.text) for link in document.links.all if link.kind == "anchor"] == [("anchor", "")]
    assert document.language.lang == "en" and document.markup.xml_error == ""


def test_cdata_and_namespaces() -> None:
    html = to_html(
        b'<x:html xmlns:x="http://www.w3.org/1999/xhtml"><x:p><![CDATA[a < b]]></x:p><x:style>a > b {}</x:style></x:html>'
    )
    assert html == "<!doctype html><html><p>a &lt; b</p><style>a > b {}</style></html>"


def test_the_declared_encoding_counts() -> None:
    assert "канат" in to_html("<p>канат</p>".encode("koi8-r"), "koi8-r")
    assert "é" in to_html('<?xml version="1.0" encoding="iso-8859-1"?><p>é</p>'.encode("latin-1"))


@pytest.mark.parametrize(
    "body",
    [
        b"<p>",
        b"<p></q>",
        b"",
        b"plain",
        b"<a>" * 3000,
        b'<!DOCTYPE p [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><p>&b;</p>',
        b'<!DOCTYPE p [<!ENTITY a SYSTEM "file:///etc/hostname">]><p>&a;</p>',
    ],
)
def test_what_is_no_xml_is_told_with_its_place(body: bytes) -> None:
    with pytest.raises(NotWellFormed) as told:
        to_html(body)
    assert told.value.line >= 1 and told.value.column >= 1


@given(st.binary(max_size=80))
def test_any_bytes_are_read_or_refused(body: bytes) -> None:
    found = collect(body, "https://shop.example/", "application/xhtml+xml")
    assert found.url == "https://shop.example/"
