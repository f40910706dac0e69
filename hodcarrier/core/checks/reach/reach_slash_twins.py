"""Indexable pages whose URLs differ only by a slash at the end, and whose texts are the same."""

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
    summary="Same page with and without trailing slash",
    terms=(
        "trailing slash",
        "duplicate URLs",
    ),
    why="Search engines find the page twice and divide its weight. Visits are counted twice as well.",
    fix="Choose one form, redirect the other to it permanently, and use it in all links.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"twins": "{count} URLs answer with the same text: {others}"},
    cause="template",
    cause_line="{pages:page} answer under several URLs, such as {others}",
    examples=(
        fails("twins", "twins")(
            page(doc("<a href=/a>a</a><a href=/a/>a</a>")), page(doc("<p>Rope"), "/a"), page(doc("<p>Rope"), "/a/")
        ),
        passes(page(doc("<a href=/a>a</a><a href=/a/>a</a>")), page(doc("<p>Rope"), "/a"), page(doc("<p>Tide"), "/a/")),
        passes(page(doc("<a href=/a>a</a><a href=/b>b</a>")), page(doc("<p>Rope"), "/a"), page(doc("<p>Rope"), "/b")),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return f"{page.url.rstrip('/')} {page.text.text_hash}" if page.text.words else ""


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if len({url.rstrip("/") for url in group.members}) == 1:
        yield Fail("twins", "", {"count": len(group.members), "others": ", ".join(group.members[:6])})
