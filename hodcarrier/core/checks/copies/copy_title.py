"""Indexable pages that share a title. Where all of them are parts of one series, or versions of one another in other
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
from hodcarrier.core.facts.head import HeadFacts

VERSIONS = "<link rel=alternate hreflang=en href=/><link rel=alternate hreflang=cy href=/cy>"

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.GROUP,
    needs=(HeadFacts,),
    summary="Duplicate titles",
    terms=(
        "same title",
        "title tag",
        "duplicate content",
    ),
    why="Pages with the same title compete for the same searches, and people cannot tell them apart in the results.",
    fix="Give each page a title that says how it differs from the others listed here.",
    element="title",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"same": "{count} pages share the title “{title}”"},
    cause="group",
    revision=2,
    cause_line="“{title}” on {findings} pages",
    examples=(
        fails("same", "same")(
            page(doc('<a href="/b">b</a>', "<title>Rope for small boats</title>")),
            page(doc("", "<title>Rope for small boats</title>"), "/b"),
        ),
        passes(
            page(doc('<a href="/b">b</a>', "<title>Rope for small boats</title>")),
            page(doc("", "<title>Anchors for small boats</title>"), "/b"),
        ),
        passes(
            page(doc('<a href="/b">b</a>', "<title>Rope for small boats</title>")),
            page(doc("", "<title>Rope for small boats</title><meta name=robots content=noindex>"), "/b"),
        ),
        passes(
            page(doc('<a href="/cy">cy</a>', VERSIONS + "<title>Rope for small boats</title>")),
            page(doc("", VERSIONS + "<title>Rope for small boats</title>"), "/cy"),
        ),
        fails("same", "same", "same")(
            page(doc('<a href="/cy">cy</a><a href="/b">b</a>', VERSIONS + "<title>Rope for small boats</title>")),
            page(doc("", VERSIONS + "<title>Rope for small boats</title>"), "/cy"),
            page(doc("", "<title>Rope for small boats</title>"), "/b"),
        ),
        passes(
            page(doc('<a href="/?page=2">2</a><a href="/page/3/">3</a>', "<title>Rope for small boats</title>")),
            page(doc("", "<title>Rope for small boats</title>"), "/?page=2"),
            page(doc("", "<title>Rope for small boats</title>"), "/page/3/"),
        ),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return page.head.title


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield Fail("same", "", {"title": group.key, "count": len(group.members), "others": list(group.members[:20])}, cause=group.key)
