"""What commands print of a crawl under way."""

from __future__ import annotations

from typing import Any

import pytest

from hodcarrier.cli.output import course, duration, emit, progress_line
from hodcarrier.core.progress import Progress
from hodcarrier.core.words import signed


@pytest.mark.parametrize(
    ("figures", "line"),
    [
        ({}, "0 pages · 0 waiting · 0 known · 0.0/s"),
        (
            {"pages_done": 1, "queued": 2, "known": 1234, "per_s": 4.5},
            "1 page · 2 waiting · 1,234 known · 4.5/s · time left unknown",
        ),
        ({"pages_done": 9, "left_s": 75, "answers": {}}, "9 pages · 0 waiting · 0 known · 0.0/s · 1 min 15 s left"),
        (
            {"answers": {"timeout": 2, "2xx": 1000, "4xx": 3}, "slower": 2.5, "left_s": None},
            "0 pages · 0 waiting · 0 known · 0.0/s · 2xx 1,000, 4xx 3, timeout 2 · 2.5 times slower than planned",
        ),
    ],
)
def test_progress_in_one_line(figures: dict[str, Any], line: str) -> None:
    assert progress_line(Progress(**figures)) == line


@pytest.mark.parametrize(
    ("seconds", "words"), [(0, "0 s"), (59.4, "59 s"), (60, "1 min 0 s"), (3599, "59 min 59 s"), (7260, "2 h 1 min")]
)
def test_spans_of_time(seconds: float, words: str) -> None:
    assert duration(seconds) == words


def test_health_is_drawn_and_changes_are_signed() -> None:
    assert course(None) == "no page was scored"
    assert (course(0, 4), course(50, 4), course(100, 4)) == ("▯▯▯▯", "▮▮▯▯", "▮▮▮▮")
    assert (signed(None), signed(-1.25), signed(2)) == ("", "−1.2", "+2.0")


@pytest.mark.parametrize(
    ("text", "shown"),
    [
        ("2026-11-26T14:05:09.123456+00:00", "26 Nov 2026, 14:05"),
        ("2026-11-26T14:05:09Z", "26 Nov 2026, 14:05"),
        ("2026-11-26T00:30:00+02:00", "25 Nov 2026, 22:30"),
        ("2026-11-06", "06 Nov 2026"),
        ("2026-11-26 is a day", "2026-11-26 is a day"),
        ("/guides/2026-11-26", "/guides/2026-11-26"),
    ],
)
def test_days_and_moments_are_shown_as_people_read_them(text: str, shown: str, capsys: pytest.CaptureFixture[str]) -> None:
    emit([{"when": text}], "table", [("when", "When")])
    assert shown in capsys.readouterr().out
    emit([{"when": text}], "json", [("when", "When")])
    assert text in capsys.readouterr().out
