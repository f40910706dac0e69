"""Indexable pages that share a description. Where all of them are parts of one series, or versions of one another in other
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
    summary="Duplicate meta descriptions",
    terms=(
        "same description",
        "duplicate content",
    ),
    why="Identical descriptions make different pages look the same in search results.",
    fix="Write a description for each page, or let the template generate it from the page's own text.",
    element='meta[name="description" i]',
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"same": "{count} pages share the description “{description}”"},
    cause="group",
    revision=2,
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
        passes(
            page(doc('<a href="/cy">cy</a>', VERSIONS + '<meta name=description content="Rope for small boats">')),
            page(doc("", VERSIONS + '<meta name=description content="Rope for small boats">'), "/cy"),
        ),
        fails("same", "same", "same")(
            page(
                doc('<a href="/cy">cy</a><a href="/b">b</a>', VERSIONS + '<meta name=description content="Rope for small boats">')
            ),
            page(doc("", VERSIONS + '<meta name=description content="Rope for small boats">'), "/cy"),
            page(doc("", '<meta name=description content="Rope for small boats">'), "/b"),
        ),
        passes(
            page(
                doc('<a href="/?page=2">2</a><a href="/page/3/">3</a>', '<meta name=description content="Rope for small boats">')
            ),
            page(doc("", '<meta name=description content="Rope for small boats">'), "/?page=2"),
            page(doc("", '<meta name=description content="Rope for small boats">'), "/page/3/"),
        ),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return page.head.description


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield Fail(
        "same", "", {"description": group.key, "count": len(group.members), "others": list(group.members[:20])}, cause=group.key
    )
