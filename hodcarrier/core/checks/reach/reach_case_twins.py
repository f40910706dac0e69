"""Indexable pages whose URLs differ only by the case of letters, and whose texts are the same."""

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
    summary="Same page in upper and lower case",
    terms=(
        "case-sensitive URL",
        "duplicate URLs",
    ),
    why="Search engines find the page several times and divide its weight.",
    fix="Redirect all forms to the one in lower case, and use it in all links.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"twins": "{count} URLs answer with the same text: {others}"},
    cause="template",
    cause_line="{pages:page} answer under several URLs, such as {others}",
    examples=(
        fails("twins", "twins")(
            page(doc("<a href=/a>a</a><a href=/A>a</a>")), page(doc("<p>Rope"), "/a"), page(doc("<p>Rope"), "/A")
        ),
        passes(page(doc("<a href=/a>a</a><a href=/A>a</a>")), page(doc("<p>Rope"), "/a"), page(doc("<p>Tide"), "/A")),
        passes(page(doc("<a href=/a>a</a>")), page(doc("<p>Rope"), "/a")),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return f"{page.url.lower()} {page.text.text_hash}" if page.text.words else ""


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if len(group.members) > 1:
        yield Fail("twins", "", {"count": len(group.members), "others": ", ".join(group.members[:6])})
