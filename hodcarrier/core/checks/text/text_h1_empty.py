"""An indexable page whose H1 elements hold neither text nor alternative text."""

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
from hodcarrier.core.catalogue.mending import content
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.MAIN_HEADING,
    about="indexable",
    needs=(TextFacts,),
    summary="H1 empty",
    terms=(
        "heading",
        "main heading",
    ),
    why="An empty H1 says nothing about the page, and screen readers still stop at it.",
    fix="Add text to the heading, or remove the element.",
    mend=content("What this page is about"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.3.6",
    messages={"empty": "The H1 has no text"},
    cause="template",
    examples=(
        fails("empty")(page(doc("<h1> </h1>"))),
        passes(page(doc("<h1>Rope</h1>"))),
        passes(page(doc("<h1><img alt=Rope src=/r.png></h1>"))),
        passes(page(doc("<h1></h1><h1>Rope</h1>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    mains = [heading for heading in page.text.headings if heading.level == 1]
    if mains and not any(heading.text for heading in mains):
        yield Fail("empty", "", {"snippet": "<h1></h1>", "selector": "h1"})
