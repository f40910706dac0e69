"""Indexable pages that share their first H1. Where all of them are parts of one series, or versions of one another in other
languages, they pass."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    GroupView,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.GROUP,
    needs=(TextFacts,),
    summary="Duplicate H1",
    terms=(
        "same heading",
        "duplicate content",
    ),
    why="Pages with the same heading look alike to people who come from a search, and compete for the same words.",
    fix="Let each heading name what is on that page and on no other.",
    element="h1",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"same": "{count} pages share the H1 “{heading}”"},
    cause="group",
    cause_line="“{heading}” on {findings} pages",
    examples=(
        fails("same", "same")(page(doc("<h1>Rope</h1><a href=/b>b</a>")), page(doc("<h1>Rope</h1>"), "/b")),
        passes(page(doc("<h1>Rope</h1><a href=/b>b</a>")), page(doc("<h1>Tide</h1>"), "/b")),
        passes(page(doc("<a href=/b>b</a>")), page(doc("<p>x"), "/b")),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return page.text.h1


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    data = {"heading": group.key, "count": len(group.members), "others": list(group.members[:20])}
    yield Fail("same", "", data, cause=group.key)
