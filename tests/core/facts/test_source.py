"""Places in the source: lines, elements as written, and selectors that find one element alone."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.source import SNIPPET_MAX, Source, Spot

DOCUMENT = """<!doctype html>
<html lang=en><head>
<title>A <img src=no.png></title>
<!-- <img src="a.png"> --><script>var x='<img src="a.png">'</script>
</head><body>
<p>One <a href="/x">x</a> two <a href='/x' class=b>y</a></p><p>Three it's</p>
<img src="a.png" title=it's><img
  src="a.png"  alt='q"'>
<ul id=list><li>a<ul><li>b</ul></ul>
<b title="a &amp; b">c</b><table><tr><td>1</table>
</body></html>"""


def find(selector: str, holds: str = "", number: int = 1) -> Spot:
    spot = Source(DOCUMENT.encode(), "utf-8").find(selector, holds, number)
    assert spot is not None
    return spot


@pytest.mark.parametrize(
    ("selector", "expected"),
    [
        ("title", Spot(3, 1, "<title>A <img src=no.png></title>", "title")),
        ("html", Spot(2, 1, "<html lang=en>", "html")),
        ("head", Spot(2, 15, "<head>", "head")),
        ('img[src="a.png"]', Spot(7, 1, '<img src="a.png" title=it\'s>', "body > img:nth-of-type(1)")),
        ("img[alt]", Spot(7, 29, '<img\n  src="a.png"  alt=\'q"\'>', "img[alt]")),
        ('[class="b"]', Spot(6, 31, "<a href='/x' class=b>y</a>", '[class="b"]')),
        ('b[title="a & b"]', Spot(10, 1, '<b title="a &amp; b">c</b>', 'b[title="a & b"]')),
        ("li", Spot(9, 13, "<li>…", '[id="list"] > li')),
        ("tbody", Spot(0, 0, "", "tbody")),
    ],
)
def test_an_element_is_found_where_it_is_written(selector: str, expected: Spot) -> None:
    assert find(selector) == expected


def test_of_several_the_one_that_holds_a_text_or_has_the_number_is_meant() -> None:
    assert find("p", "Three  it's").column == find("p", number=2).column == 61
    assert find("p").column == 1 == find("p", "nowhere").column
    assert find("a", "y").snippet == "<a href='/x' class=b>y</a>"
    assert find("[title]", "a & b").line == 10, "an attribute may hold it"


def test_alike_elements_are_told_apart_by_their_order() -> None:
    source = Source(b"<p>a</p>\n<p>b</p>\n<p>c</p>", "utf-8")
    assert [(spot.line, spot.snippet) for n in (1, 2, 3) if (spot := source.find("p", number=n))] == [
        (1, "<p>a</p>"),
        (2, "<p>b</p>"),
        (3, "<p>c</p>"),
    ]


def test_lines_are_counted_by_any_line_end() -> None:
    source = Source(b"<html>\r\n<head>\r<title>x</title>\n<meta name=a>", "utf-8")
    assert [spot.line for tag in ("head", "title", "meta") if (spot := source.find(tag))] == [2, 3, 4]
    assert source.line(3) == Spot(3, 1, "<title>x</title>", "")
    assert source.line(4, 7) == Spot(4, 7, "<meta name=a>", "")
    assert source.line(0) is source.line(5) is None


def test_long_elements_are_cut() -> None:
    long = Source(f'<p class="{"a" * 900}">b</p><p>{"c " * 900}</p>'.encode(), "utf-8")
    first, second = long.find("p"), long.find("p", number=2)
    assert first is not None and len(first.snippet) == SNIPPET_MAX + 1 and first.snippet.endswith("…")
    assert second is not None and second.snippet == "<p>…"


def test_a_text_is_found_over_white_space() -> None:
    source = Source(b"<p>One\n  two <b>three</b></p>", "utf-8")
    assert source.find_text("One two") == Spot(1, 4, "One\n  two", "")
    assert source.find_text("two three") is None and source.find_text("  ") is None


@pytest.mark.parametrize("selector", ["", "a[[", "nothing", "p:nth-of-type(9)"])
def test_what_a_selector_does_not_find(selector: str) -> None:
    assert Source(DOCUMENT.encode(), "utf-8").find(selector) is None


def test_elements_with_odd_names_break_nothing() -> None:
    source = Source(b"<a\"b><p>one</p><p>two</p></a\"b><x'y id='a\"b'><p>three", "utf-8")
    for number in (1, 2, 3):
        spot = source.find("p", number=number)
        assert spot is not None and spot.line == 1 and spot.snippet.startswith("<p>")


def test_the_encoding_of_the_page_is_used() -> None:
    spot = Source("<p>ž</p><title>ž</title>".encode("iso-8859-2"), "iso-8859-2").find("p")
    assert spot is not None and spot.snippet == "<p>ž</p>"


TAGS = st.sampled_from(
    ["p", "a", "b", "li", "ul", "div", "table", "td", "title", "img", "!--", "/p", "/a", "/div", "script", "form"]
)
PIECES = st.one_of(
    TAGS.map(lambda t: f"<{t}>"),
    st.builds(lambda t, v: f'<{t} id="{v}" x={v}>', TAGS, st.sampled_from(["1", "a", "é", "&amp;"])),
    st.sampled_from(["text", "\n", "\r\n", "-->", "</script>", "</title>", "<", ">", '"', "\x00"]),
)


@given(st.lists(PIECES, max_size=40).map("".join))
def test_any_document_gives_places_that_are_there(text: str) -> None:
    source = Source(text.encode(), "utf-8")
    lines = source.text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    for tag in ("p", "a", "b", "li", "div", "td", "img", "title", "script", "form"):
        for number in (1, 2, 3):
            spot = source.find(tag, number=number)
            if spot is None or not spot.line:
                continue
            assert lines[spot.line - 1][spot.column - 1 :].lower().startswith(f"<{tag}"), (tag, spot)
            if "\n" not in spot.snippet and "\r" not in spot.snippet:
                assert lines[spot.line - 1][spot.column - 1 :].startswith(spot.snippet.removesuffix("…"))
