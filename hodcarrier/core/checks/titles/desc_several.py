"""More than one meta description in the head."""

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
    about="indexable",
    needs=(HeadFacts,),
    summary="Multiple meta descriptions",
    terms=(
        "meta description",
        "duplicate description element",
    ),
    why="Search engines choose one of several descriptions, or none, and it may not be the one you wrote for the page.",
    fix="Keep one. A second one often comes from a plug-in that adds what the template has already.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"several": "{count} descriptions: {descriptions}"},
    cause="template",
    examples=(
        fails("several")(page(doc(head="<meta name=description content=Rope><meta name=Description content=Tide>"))),
        passes(page(doc(head="<meta name=description content=Rope>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    inside = [item.text for item in page.head.descriptions if item.in_head]
    if len(inside) > 1:
        texts = " | ".join(text[:160] for text in inside[:4])
        yield Fail("several", "", {"count": len(inside), "descriptions": texts, "selector": 'head > meta[name="description" i]'})
