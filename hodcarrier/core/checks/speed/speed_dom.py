"""The document has more elements than the limit."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
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
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Too many elements",
    terms=(
        "DOM size",
        "node count",
    ),
    why="The browser keeps every element in memory and looks at all of them whenever the layout changes. Phones become slow.",
    fix="Show long lists in parts, and remove wrappers that only hold one element.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"many": "{count} elements; up to {limit} is fine"},
    cause="template",
    limits={"elements_max": Limit(1500, "elements", "most elements of a document that are still in order")},
    examples=(
        fails("many")(page(doc("<i></i>" * 1496))),
        passes(page(doc("<i></i>" * 1495))),
        passes(page(doc("<i></i>" * 1496)), plan={"thresholds": {"elements_max": 2000}}),
        passes(page(doc())),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.markup.elements > limits["elements_max"]:
        yield Fail("many", "", {"count": page.markup.elements, "limit": int(limits["elements_max"])})
