"""Parts of one series are told by the number in their URLs."""

from __future__ import annotations

import pytest

from hodcarrier.core.web.series import in_one_series


@pytest.mark.parametrize(
    ("one", "other", "together"),
    [
        ("/rope", "/rope?page=2", True),
        ("/rope?page=2", "/rope?page=3", True),
        ("/rope/", "/rope/page/2/", True),
        ("/rope?size=m", "/rope?size=m&page=2", True),
        ("/rope?page=2&size=m", "/rope?size=m", True),
        ("/rope/page-2", "/rope", True),
        ("/rope", "/rope/", False),
        ("/rope", "/tide?page=2", False),
        ("/rope-2", "/rope-3", False),
        ("/rope/2", "/rope/3", False),
        ("/rope?colour=2", "/rope?colour=3", False),
        ("/homepage/2024/x", "/homepage/2023/x", False),
    ],
)
def test_series(one: str, other: str, together: bool) -> None:
    host = "https://shop.example"
    assert in_one_series(host + one, host + other) is together is in_one_series(host + other, host + one)
