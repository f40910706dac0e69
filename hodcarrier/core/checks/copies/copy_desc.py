"""Indexable pages that share a description. Pages of one paged series and language alternates of one another are left out."""

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
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.GROUP,
    needs=(HeadFacts, LanguageFacts),
    summary="Duplicate meta descriptions",
    terms=(
        "same description",
        "duplicate content",
    ),
    why="Identical descriptions make different pages look the same in search results.",
    fix="Write a description for each page, or let the template generate it from the page's own text.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"same": "{count} pages share the description “{description}”"},
    cause="group",
    cause_line="“{description}” on {findings} pages",
    examples=(
        fails("same", "same")(
            page(doc('<a href="/b">b</a>', '<meta name=description content="Rope for small boats">')),
            page(doc("", '<meta name=description content="Rope for small boats">'), "/b"),
        ),
        passes(
            page(doc('<a href="/b">b</a>', '<meta name=description content="Rope for small boats">')),
            page(doc("", '<meta name=description content="Anchors for small boats">'), "/b"),
        ),
        passes(
            page(doc('<a href="/b">b</a>', '<meta name=description content="Rope for small boats">')),
            page(doc("", '<meta name=description content="Rope for small boats"><meta name=robots content=noindex>'), "/b"),
        ),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return "" if page.language.alternates else page.head.description


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield Fail(
        "same", "", {"description": group.key, "count": len(group.members), "others": list(group.members[:20])}, cause=group.key
    )
