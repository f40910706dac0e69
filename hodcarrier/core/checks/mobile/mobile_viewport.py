"""The document has no viewport meta element."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(HeadFacts,),
    summary="Viewport not set for mobile",
    terms=(
        "meta viewport",
        "mobile-friendly",
        "responsive",
    ),
    why="Phones show the page in its desktop layout, only tiny. Search engines assess a site by its mobile version.",
    fix="Add a viewport meta element with width=device-width to the head of the template, and check that the layout is responsive.",
    mend=inside('<meta name="viewport" content="width=device-width, initial-scale=1">'),
    effort=Effort.MEDIUM,
    standard="CSS Viewport Module Level 1",
    messages={"missing": "No viewport meta element"},
    cause="template",
    examples=(
        fails("missing")(page(doc(head="<title>Rope</title>"))),
        passes(page(doc(head='<meta name=viewport content="width=device-width">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.head.viewport is None:
        yield Fail("missing", "", {"selector": "head"})
