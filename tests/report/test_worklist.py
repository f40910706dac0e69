"""The work list: nothing in it is taken for markup, code stands in fences that hold it, and an empty one says so."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

import pytest
from markdown_it import MarkdownIt

from hodcarrier.core.states import Effort, Severity
from hodcarrier.report.worklist import WorkCause, WorkCheck, Worklist, WorkPlace, draw_worklist, write_worklist

HOSTILE = "<script>alert(1)</script> `x` *y* [z](javascript:1) | #"


def found(text: str = "Rope", before: str = "<a href=/x>", after: str = "<a href=/y>") -> Worklist:
    place = WorkPlace("https://a.example/", text, "line 12", "main > a", before, after)
    check = WorkCheck(
        "link-broken", text, Severity.HIGH, Effort.SMALL, 9, "+1.2 points", text, text, text, [WorkCause(text, 9, [place], 8)], 3
    )
    return Worklist("a.example", datetime(2026, 12, 1, tzinfo=UTC), "Health is 80.0 of 100.", [check])


def code_in(markdown: str) -> list[str]:
    return [token.content for token in MarkdownIt().parse(markdown) if token.type == "fence"]


def test_it_says_what_where_and_how() -> None:
    text = write_worklist(found())
    assert "# Fixes for a.example" in text and "- [ ] Rope" in text and "https://a.example/, line 12: Rope" in text
    assert "and 8 more places" in text and "And 3 more causes." in text
    assert code_in(text) == ["- <a href=/x>\n", "+ <a href=/y>\n"]
    page = draw_worklist(found())
    assert "&lt;a href=/y&gt;" in page and "8 more places" in page and "3 more causes" in page


@pytest.mark.parametrize("code", ["``` \n<b>", "a\n````\nb", "`"])
def test_code_stays_in_its_fence(code: str) -> None:
    before, after = code_in(write_worklist(found(before=code)))
    assert [line[2:].strip() for line in before.splitlines()] == [line.strip() for line in code.splitlines()]
    assert after == "+ <a href=/y>\n"


def test_texts_are_never_taken_for_markup() -> None:
    drawn = MarkdownIt().render(write_worklist(found(HOSTILE)))
    assert "<script" not in drawn and "<em>y" not in drawn and "href=" not in drawn.replace("a href=/", "")
    assert "<script>a" not in draw_worklist(found(HOSTILE))


@pytest.mark.parametrize("draw", [write_worklist, draw_worklist])
def test_nothing_to_fix_is_said(draw: Any) -> None:
    assert "all checks pass" in draw(Worklist("a.example", datetime(2026, 12, 1, tzinfo=UTC), "", []))
