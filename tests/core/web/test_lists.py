"""Lists of addresses, as text and as tables."""

import pytest

from hodcarrier.core.web.lists import read_list

A, B = "https://shop.example/a", "https://shop.example/b,c?x=1;2"


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("", []),
        (f"{A}\n\n  https://shop.example/d  \n{A}", [A, "https://shop.example/d"]),
        ("shop.example/a\n", ["shop.example/a"]),
        (f"\ufeffURL,Visits\n{A},12\n", [A]),
        (f'Visits;URL\n12;{A}\n3;"https://shop.example/d"\n', [A, "https://shop.example/d"]),
        (f'"{B}",12', [B]),
        (f"# ours\n{A}\t5\t2", [A]),
        ("no addresses here\nnor here", []),
        (f"{A}\r\n{A}2\r\n", [A, A + "2"]),
    ],
)
def test_lists(text: str, expected: list[str]) -> None:
    assert read_list(text).addresses == expected


@pytest.mark.parametrize(
    ("text", "unusable", "words"),
    [
        (f"URL,Visits\n{A},12\n# ours\n\n", [], ""),
        (f"{A}\n/contact\n", [(2, "/contact")], "1 line holds no full web address and cannot be used (line 2: “/contact”)."),
        ("URL;Visits\nsoon;3\n", [(2, "soon;3")], "1 line holds no full web address and cannot be used (line 2: “soon;3”)."),
        ("no address\n", [(1, "no address")], "1 line holds no full web address and cannot be used (line 1: “no address”)."),
        (
            "/a.html\n/b\n/c\n",
            [(1, "/a.html"), (2, "/b"), (3, "/c")],
            "3 lines hold no full web address and cannot be used (line 1: “/a.html”; line 2: “/b”; line 3: “/c”).",
        ),
        (
            "/a.html\n/b\n/c\n/d\n",
            [(1, "/a.html"), (2, "/b"), (3, "/c"), (4, "/d")],
            "4 lines hold no full web address and cannot be used (line 1: “/a.html”; line 2: “/b”; line 3: “/c”; …).",
        ),
    ],
)
def test_lines_that_cannot_be_used_are_told(text: str, unusable: list[tuple[int, str]], words: str) -> None:
    found = read_list(text)
    assert found.unusable == unusable and found.words == words
