"""The canonical is not an absolute URL. It works, but a copy of the page under another address names that address."""

import re
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
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.head import HeadFacts

ABSOLUTE = re.compile(r"\s*https?://", re.I)

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.CANONICAL,
    needs=(HeadFacts,),
    summary="Canonical is a relative URL",
    terms=(
        "rel=canonical",
        "absolute URL",
    ),
    why="A relative canonical is resolved against the address the page was fetched from. On a staging host or under http it names the wrong page.",
    fix="Write the whole URL, with https and the host.",
    mend=attribute("href", "{absolute}"),
    effort=Effort.SMALL,
    standard="RFC 6596, 3; good practice",
    messages={"relative": "The canonical is “{value}”"},
    cause="template",
    examples=(
        fails("relative")(page(doc(head="<link rel=canonical href=/>"))),
        fails("relative")(page(doc(head="<link rel=canonical href=//shop.example/>"))),
        passes(page(doc(head="<link rel=canonical href=https://shop.example/>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for canonical in page.head.canonicals:
        if canonical.in_head and canonical.url and not ABSOLUTE.match(canonical.text):
            yield Fail("relative", "", {"value": canonical.text, "selector": 'link[rel~="canonical" i]'})
            return
