"""Which query parameters are taken for session ids."""

from __future__ import annotations

import pytest

from hodcarrier.core.web.parameters import SessionParameter, session_parameters

S = "https://shop.example"
A, B = "k3j2h4k5j6h7k8j9", "z9y8x7w6v5u4t3s2"


@pytest.mark.parametrize(
    ("pages", "names"),
    [
        ([(f"{S}/?sid=1", "")], ["sid"]),
        ([(f"{S}/?a=1&PHPSESSID=x", "")], ["PHPSESSID"]),
        ([(f"{S}/a;jsessionid=1A2B?x=1", "")], ["jsessionid"]),
        ([(f"{S}/?t={A}", "same"), (f"{S}/?t={B}", "same")], ["t"]),
        ([(f"{S}/?q=1&t={A}", "same"), (f"{S}/?q=1&t={B}", "same")], ["t"]),
        # another page with every value: an order number, not a session
        ([(f"{S}/?t={A}", "one"), (f"{S}/?t={B}", "two")], []),
        # other parameters differ as well, so the text says nothing about this one
        ([(f"{S}/?q=1&t={A}", "same"), (f"{S}/?q=2&t={B}", "same")], []),
        # short, or words
        ([(f"{S}/?t=a1", "same"), (f"{S}/?t=b2", "same")], []),
        ([(f"{S}/?t={A}", "same"), (f"{S}/?t={B}", "same"), (f"{S}/?t=plain", "same")], []),
        # pages that were not fetched have no text
        ([(f"{S}/?t={A}", ""), (f"{S}/?t={B}", "")], []),
        ([(f"{S}/a", "x"), (f"{S}/a?", "x")], []),
    ],
)
def test_session_parameters(pages: list[tuple[str, str]], names: list[str]) -> None:
    assert [p.name for p in session_parameters(pages)] == names


def test_the_most_frequent_comes_first_with_an_example() -> None:
    pages = [(f"{S}/1?sid=a", ""), (f"{S}/2?cfid=b", ""), (f"{S}/3?cfid=c", "")]
    assert session_parameters(pages) == [
        SessionParameter("cfid", 2, f"{S}/2?cfid=b"),
        SessionParameter("sid", 1, f"{S}/1?sid=a"),
    ]
