"""Language tags and the codes of hreflang annotations."""

from __future__ import annotations

import pytest

from hodcarrier.core.web.languages import COUNTRIES, is_hreflang, is_tag


@pytest.mark.parametrize(
    ("code", "tag", "hreflang"),
    [
        ("en", True, True),
        ("en-GB", True, True),
        ("EN-gb", True, True),
        ("en-UK", True, False),
        ("zh-Hant", True, True),
        ("zh-Hant-TW", True, True),
        ("pt-BR", True, True),
        ("es-419", True, False),
        ("gsw", True, False),
        ("de-CH-1996", True, False),
        ("de-x-private", True, False),
        ("x-default", True, True),
        ("en_GB", False, False),
        ("english", False, False),
        ("xx", False, False),
        ("e", False, False),
        ("", False, False),
    ],
)
def test_codes(code: str, tag: bool, hreflang: bool) -> None:
    assert (is_tag(code), is_hreflang(code)) == (tag, hreflang)


def test_there_are_as_many_countries_as_the_standard_has() -> None:
    assert len(COUNTRIES) == 249
