"""The canonical carries a fragment, which names a place in a page and no page."""

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
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.CANONICAL,
    needs=(HeadFacts,),
    summary="Canonical with a fragment",
    terms=(
        "rel=canonical",
        "hash",
        "anchor",
    ),
    why="Search engines cut off what follows the # or ignore the canonical. A fragment in a canonical is a sign that the URL was taken from somewhere it does not belong.",
    fix="Write the canonical without the # and what follows it.",
    effort=Effort.SMALL,
    standard="RFC 6596, 3; RFC 3986, 3.5",
    messages={"fragment": "The canonical is “{value}”"},
    cause="template",
    examples=(
        fails("fragment")(page(doc(head='<link rel=canonical href="https://shop.example/#top">'))),
        passes(page(doc(head="<link rel=canonical href=https://shop.example/>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for canonical in page.head.canonicals:
        if canonical.in_head and "#" in canonical.text:
            yield Fail("fragment", "", {"value": canonical.text, "selector": 'link[rel~="canonical" i]'})
            return
