"""Main terms: counted as a plain reading counts them, in each place, in any script."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.terms import PageTerms, Term, occurrences, phrases, read_terms

HEAD = "<title>Kedge anchor, galvanised</title><meta name=description content='An anchor for small boats'>"
BODY = (
    "<h1>Kedge anchor</h1><p>A folding kedge anchor for small boats. The kedge anchor holds in sand, and small boats need one.</p>"
    "<h2>How an anchor holds</h2><img src=/a.png alt='Kedge anchor on sand'><nav>anchor anchor anchor</nav>"
)


def terms_of(body: str = BODY, focus: str = "", anchors: tuple[str, ...] = ("kedge anchor", "home")) -> PageTerms:
    return read_terms(f"{HEAD}{body}".encode(), "https://a.example/shop/kedge-anchor", "text/html; charset=utf-8", anchors, focus)


def term(found: PageTerms, text: str) -> Term:
    return next(each for each in found.terms if each.text == text)


def test_terms_are_counted_in_each_place() -> None:
    found = term(terms_of(), "kedge anchor")
    assert (found.words, found.count, found.title, found.h1, found.headings, found.alts, found.anchors) == (2, 3, 1, 1, 1, 1, 1)
    assert term(terms_of(), "anchor").headings == 2


def test_navigation_is_not_text() -> None:
    assert term(terms_of(), "anchor").count == 4


def test_a_term_does_not_go_over_the_end_of_a_sentence() -> None:
    found = terms_of("<p>Ropes and boats. Anchors and boats. Anchors.</p><p>boats. Anchors</p>")
    assert {each.text for each in found.terms if each.words == 2} == set()


def test_empty_words_and_figures_begin_and_end_no_term() -> None:
    found = terms_of("<p>the rope of the sea 2024 the rope of the sea 2024</p>")
    assert [each.text for each in found.terms] == ["rope"]


def test_a_focus_term_is_sought_everywhere() -> None:
    focus = terms_of(focus="  Kedge ANCHOR ").focus
    assert focus
    assert (focus.term.text, focus.term.count, focus.description, focus.beginning, focus.url) == ("kedge anchor", 3, 0, 3, 1)
    assert terms_of(focus="small boats").focus.description == 1  # type: ignore[union-attr]
    assert terms_of(focus=" ,. ").focus is None


def test_scripts_without_blanks_are_divided_by_a_dictionary() -> None:
    found = terms_of("<p>折りたたみ式の錨です。</p><p>折りたたみ式の錨。</p>")
    texts = [each.text for each in found.terms]
    assert "折りたたみ" in texts and "折りたたみ式" in texts and "の" not in texts


@pytest.mark.parametrize("body", ["", "<p></p>", "\x00<p>\ufffe", "<table><td><p>" * 50])
def test_nothing_is_wrong_with_odd_documents(body: str) -> None:
    assert terms_of(body, focus="x").words >= 0


@given(
    st.lists(st.sampled_from(["rope", "tar", "knot."]), max_size=40),
    st.lists(st.sampled_from(["rope", "tar"]), min_size=1, max_size=3),
)
def test_occurrences_are_those_of_a_plain_search(words: list[str], wanted: list[str]) -> None:
    text = " ".join(words)
    plain = len(re.findall(rf"(?<![\w.])(?={re.escape(' '.join(wanted))}(?![\w]))", text))
    assert occurrences(phrases(text), wanted) == plain
