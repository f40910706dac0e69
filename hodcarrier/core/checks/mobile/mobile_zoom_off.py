"""The viewport forbids zooming: user-scalable=no or 0, or a maximum-scale below 2 (WCAG 2.2, 1.4.4)."""

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

OFF = re.compile(r"user-scalable\s*=\s*(?:no|0)(?![.\d])|maximum-scale\s*=\s*(?:0|1)(?:\.\d+)?(?!\d)", re.I)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.VIEWPORT,
    needs=(HeadFacts,),
    summary="Zoom disabled on mobile",
    terms=(
        "user-scalable",
        "maximum-scale",
        "accessibility",
    ),
    why="People who need larger text cannot zoom in.",
    fix="Remove user-scalable and maximum-scale from the viewport meta element.",
    mend=attribute("content", "width=device-width, initial-scale=1"),
    effort=Effort.SMALL,
    standard="WCAG 2.2, 1.4.4",
    messages={"off": "The viewport is set to: {content}"},
    cause="template",
    examples=(
        fails("off")(page(doc(head='<meta name=viewport content="width=device-width, user-scalable=no">'))),
        fails("off")(page(doc(head='<meta name=viewport content="maximum-scale=1.0">'))),
        passes(page(doc(head='<meta name=viewport content="maximum-scale=2">'))),
        passes(page(doc(head='<meta name=viewport content="width=device-width, maximum-scale=10">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    viewport = page.head.viewport or ""
    if OFF.search(viewport):
        yield Fail("off", "", {"content": viewport, "selector": "meta[name=viewport]"})
