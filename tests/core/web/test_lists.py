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
    assert read_list(text) == expected
