"""Indexable pages whose URLs differ only by their query, and whose texts are the same."""

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
    severity=Severity.MEDIUM,
    subject=Subject.GROUP,
    needs=(TextFacts,),
    summary="Same page under several queries",
    terms=(
        "URL parameters",
        "duplicate URLs",
        "faceted navigation",
    ),
    why="Every combination of parameters is a copy of the page in the eyes of search engines. They spend their visits on copies.",
    fix="Name the plain URL as canonical of all of them, and link to it without parameters. In the plan, parameters that change nothing can be dropped.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"twins": "{count} URLs answer with the same text: {others}"},
    cause="template",
    cause_line="{pages:page} answer under several URLs, such as {others}",
    examples=(
        fails("twins", "twins")(
            page(doc("<a href=/a>a</a><a href=/a?x=1>a</a>")), page(doc("<p>Rope"), "/a"), page(doc("<p>Rope"), "/a?x=1")
        ),
        passes(page(doc("<a href=/a>a</a><a href=/a?x=1>a</a>")), page(doc("<p>Rope"), "/a"), page(doc("<p>Tide"), "/a?x=1")),
        passes(
            page(doc("<a href=/a>a</a><a href=/a?x=1>a</a>")),
            page(doc("<p>Rope"), "/a"),
            page(doc("<p>Rope", "<link rel=canonical href=/a>"), "/a?x=1"),
        ),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return f"{page.url.partition('?')[0]} {page.text.text_hash}" if page.text.words else ""


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if any("?" in url for url in group.members):
        yield Fail("twins", "", {"count": len(group.members), "others": ", ".join(group.members[:6])})
