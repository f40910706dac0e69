"""Errors of parsing: where they are, what is wrong, and that no bytes break the telling."""

from __future__ import annotations

import string

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.parse_errors import _WORDS, KEPT_MAX, parse_errors

TOP = "<!doctype html>\n<title>T</title>\n"


@pytest.mark.parametrize(
    ("html", "line", "problem"),
    [
        ("<p id=a id=b>x", 3, "An attribute stands twice on one element; the second is ignored"),
        ("<p>\n</b>", 4, "</b> closes nothing that is open"),
        ("<p>Salt & vinegar &copy", 3, "A character reference has no semicolon"),
        ('<a href=x title="t"rel=next>x</a>', 3, "No blank stands between two attributes"),
        ("<table><tr><p>x</table>", 3, "<p> stands in a table outside a cell and is moved in front of it"),
        ("<div><b>x</div>", 3, "</div> closes an element while others in it are open"),
        ("<i/>x", 3, "<i/> is read as <i>: only void elements close themselves"),
    ],
)
def test_errors_are_told_with_their_line(html: str, line: int, problem: str) -> None:
    found = parse_errors(TOP + html)
    assert (line, problem) in [(error.line, error.problem) for error in found]
    assert all(error.remedy and error.column >= 1 for error in found)


@pytest.mark.parametrize(
    "html", ["<p>Rope", "<ul><li>a<li>b</ul>", "<!-- a -- b --->", "<br/><img src=x alt>", "<p>a<p>b<table><tr><td>c</table>"]
)
def test_what_the_standard_allows_is_no_error(html: str) -> None:
    assert parse_errors(TOP + html) == ()


@given(st.text(max_size=200))
def test_no_text_breaks_the_telling(text: str) -> None:
    assert all("{" not in error.problem and error.line >= 1 for error in parse_errors(text.replace("{", "")))


def test_many_errors_are_cut_and_sentences_fill() -> None:
    assert len(parse_errors(TOP + "<p a a>" * (KEPT_MAX + 10))) == KEPT_MAX
    for problem, remedy in _WORDS.values():
        assert {name for _, name, _, _ in string.Formatter().parse(problem + remedy) if name} <= {
            "name",
            "gotName",
            "startName",
            "endName",
            "originalName",
            "newName",
            "expectedName",
        }
