"""Flaws in the structure of a document, on documents with and without them."""

from __future__ import annotations

import pytest

from hodcarrier.core.facts.page import PageFacts, collect


def facts(html: str) -> PageFacts:
    return collect(html.encode(), "https://shop.example/", "text/html; charset=utf-8")


CANONICAL = "<link rel=canonical href=/>"


@pytest.mark.parametrize(
    ("head", "breaker"),
    [
        (f"<title>T</title>{CANONICAL}", ""),
        (f"<title>T</title><div></div>{CANONICAL}", "div"),
        (f"<iframe src=/t></iframe>{CANONICAL}", "iframe"),
        (f"<noscript><img src=/t></noscript>{CANONICAL}", "img"),
        (f"words{CANONICAL}", "text"),
        (f"<!-- <div> -->{CANONICAL}", ""),
        (f"<script>document.write('<div>')</script>{CANONICAL}", ""),
        (f"<style>a > b {{}}</style><template><p></template>{CANONICAL}", ""),
        ("<div></div><link rel=stylesheet href=/s.css>", ""),
        ("<div></div><meta itemprop=name content=x>", ""),
    ],
)
def test_what_ends_the_head(head: str, breaker: str) -> None:
    assert facts(f"<!doctype html><html><head>{head}</head><body><p>x</body></html>").markup.head_breaker == breaker


def test_metadata_that_the_author_put_into_the_body_is_no_broken_head() -> None:
    assert facts(f"<!doctype html><head><title>T</title></head><body><div></div>{CANONICAL}").markup.head_breaker == ""


@pytest.mark.parametrize(
    ("body", "found"),
    [
        ("<ul><li>a</ul>", ()),
        ("<ul><li>a</li><p>b</p></ul>", ("ul > p",)),
        ("<ul><ul><li>a</ul></ul>", ("ul > ul",)),
        ("<ol><script></script><li>a</ol>", ()),
        ("<ul><!-- x --><li>a</ul>", ()),
        ("<li>a", ("body > li",)),
        ("<div role=list><li>a</div>", ()),
        ("<ul role=menu><a>b</a></ul>", ()),
    ],
)
def test_lists(body: str, found: tuple[str, ...]) -> None:
    assert facts(f"<!doctype html><body>{body}").markup.broken_lists == found


@pytest.mark.parametrize(
    ("body", "found"),
    [
        ("<div aria-hidden=true><a href=/>x</a></div>", ('<a href="/">',)),
        ("<div aria-hidden=true><a>x</a></div>", ()),
        ("<div aria-hidden=true><span tabindex=0>x</span></div>", ("<span>",)),
        ("<div aria-hidden=true inert><button>x</button></div>", ()),
        ("<div aria-hidden=true style='display: none'><button>x</button></div>", ()),
        ("<div aria-hidden=false><button>x</button></div>", ()),
        ("<fieldset disabled><div aria-hidden=true><input></div></fieldset>", ()),
        ("<input aria-hidden=true type=hidden>", ()),
    ],
)
def test_focus_in_what_is_hidden(body: str, found: tuple[str, ...]) -> None:
    assert facts(f"<!doctype html><body>{body}").markup.hidden_focus == found


ROWS = "<tr><td>Rope<td>12<tr><td>Twine<td>3<tr><td>Cord<td>8"


@pytest.mark.parametrize(
    ("body", "found"),
    [
        (f"<table>{ROWS}</table>", ("Rope | 12",)),
        (f"<table><tr><th>a<th>b{ROWS}</table>", ()),
        (f"<table>{ROWS.replace('12', 'thick')}</table>", ("Rope | thick",)),
        (f"<table>{ROWS.replace('8', 'thin')}</table>", ()),
        (f"<table><tr><td><table>{ROWS}</table></table>", ()),
        ("<table><tr><td>a<td>b<tr><td>c<tr><td>d<td>e</table>", ()),
        (f"<table>{ROWS.replace('<td>12', '<td colspan=1>12')}</table>", ()),
        (f"<table>{ROWS.replace('Cord', '<p>Cord</p>')}</table>", ()),
        (f"<table>{ROWS.replace('Cord', 'C' * 121)}</table>", ()),
    ],
)
def test_tables_without_headers(body: str, found: tuple[str, ...]) -> None:
    assert facts(f"<!doctype html><body>{body}").markup.headless_tables == found


@pytest.mark.parametrize(
    ("body", "found"),
    [
        ("<input name=a>", ('<input name="a">',)),
        ("<label><input name=a></label>", ()),
        ("<label for=b></label><input id=b>", ()),
        ("<label for=c></label><input id=b>", ('<input id="b">',)),
        ("<textarea title=x></textarea><select aria-labelledby=y></select>", ()),
        ("<input type=image><input type=reset><button>x</button>", ()),
        ("<div hidden><input></div>", ()),
    ],
)
def test_fields_without_a_label(body: str, found: tuple[str, ...]) -> None:
    assert facts(f"<!doctype html><body>{body}").forms.unlabelled == found


def test_small_text_is_counted_once_where_it_is_nested() -> None:
    body = "<div style='font-size:8px'>" + "a" * 50 + "<b style='font-size: 7pt'>" + "b" * 50 + "</b></div>" + "c" * 100
    assert facts(f"<!doctype html><body>{body}").markup.small_text_ratio == 0.5


def test_names_within_a_page_are_kept_as_prints() -> None:
    from hodcarrier.core.facts.markup import fragment_print, unpack_prints

    found = unpack_prints(facts("<p id=knöts><a name=top></a><a name></a><p id=knöts>").markup.fragments)
    assert found == {fragment_print("knöts"), fragment_print("top")}
