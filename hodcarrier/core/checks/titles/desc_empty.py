"""An indexable page whose meta description holds only white space."""

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

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DESCRIPTION,
    about="indexable",
    needs=(HeadFacts,),
    summary="Meta description empty",
    terms=(
        "description",
        "snippet",
    ),
    why="The meta description is there but empty, so search engines show arbitrary text from the page instead.",
    fix="Write a description for this page, or let the template fall back to the first paragraph.",
    mend=attribute("content", "What this page offers, in one or two sentences"),
    effort=Effort.MEDIUM,
    standard="WHATWG HTML, 4.2.5.1",
    messages={"empty": "The meta description is empty"},
    cause="template",
    examples=(
        fails("empty")(page(doc(head='<meta name=description content=" ">'))),
        passes(page(doc(head='<meta name=description content="Rope by the metre">'))),
        passes(page(doc(head=""))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    descriptions = page.head.descriptions
    if descriptions and not any(item.text for item in descriptions):
        yield Fail("empty", "", {"snippet": '<meta name="description" content="">', "selector": "meta[name=description]"})
