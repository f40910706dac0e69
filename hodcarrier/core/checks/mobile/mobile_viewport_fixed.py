"""The viewport has a fixed width in pixels."""

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

WIDTH = re.compile(r"(?:^|[,;\s])width\s*=\s*\d", re.I)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.VIEWPORT,
    needs=(HeadFacts,),
    summary="Fixed viewport width",
    terms=(
        "viewport",
        "responsive",
    ),
    why="Phones draw the page at that width and shrink it, so that people have to zoom and scroll sideways.",
    fix="Write width=device-width instead of a number.",
    mend=attribute("content", "width=device-width, initial-scale=1"),
    effort=Effort.SMALL,
    standard="CSS Viewport Module Level 1",
    messages={"fixed": "The viewport is “{value}”"},
    cause="template",
    examples=(
        fails("fixed")(page(doc(head='<meta name=viewport content="width=1024">'))),
        passes(page(doc(head='<meta name=viewport content="width=device-width">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.head.viewport and WIDTH.search(page.head.viewport):
        yield Fail("fixed", "", {"value": page.head.viewport, "selector": 'meta[name="viewport" i]'})
