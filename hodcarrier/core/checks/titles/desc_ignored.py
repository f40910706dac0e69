"""A meta description stands outside the real head, where search engines do not read it."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DESCRIPTION,
    needs=(HeadFacts,),
    summary="Meta description outside the head",
    terms=(
        "meta description",
        "description in body",
    ),
    why="Search engines read meta elements in the head only. What stands in the body counts as if it were not there.",
    fix="Move the description into the head. If it is there in the source, an element before it has ended the head early: move that one into the body.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.5 and 13.2.6.4.4",
    messages={"outside": "The description “{description}” stands outside the head"},
    cause="template",
    examples=(
        fails("outside")(page(doc("<meta name=description content=Rope>"))),
        fails("outside")(page(doc(head="<div></div><meta name=description content=Rope>"))),
        passes(page(doc(head="<meta name=description content=Rope>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    outside = [item.text for item in page.head.descriptions if not item.in_head]
    if outside:
        yield Fail("outside", "", {"description": outside[0][:200], "selector": 'body meta[name="description" i]'})
