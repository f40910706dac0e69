"""A canonical that is no web address: not a URL at all, or one with a scheme that no search engine fetches, such as ``file:``."""

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
    when=When.CANONICAL,
    needs=(HeadFacts,),
    summary="Canonical is not a valid URL",
    terms=(
        "rel=canonical",
        "invalid canonical",
    ),
    why="Search engines ignore a canonical that is not an http or https URL, so the page effectively has none. It is often a file path from the machine that built the site.",
    fix="Set the public base URL in the build configuration and publish the pages again.",
    element='link[rel~="canonical" i]',
    effort=Effort.SMALL,
    standard="RFC 6596, 3; WHATWG URL",
    messages={"unusable": "The canonical is “{value}”, which is not an http or https URL"},
    cause="template",
    examples=(
        fails("unusable")(page(doc(head='<link rel=canonical href="file:///srv/site/index.html">'))),
        fails("unusable")(page(doc(head='<link rel=canonical href="https://[half">'))),
        passes(page(doc(head='<link rel=canonical href="https://shop.example/">'))),
        passes(page(doc(head='<link rel=canonical href="/">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for canonical in page.head.canonicals:
        if canonical.in_head and not canonical.url:
            yield Fail("unusable", "", {"value": canonical.text})
            return
