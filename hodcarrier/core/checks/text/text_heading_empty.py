"""A heading below H1 holds no text and no picture with an alternative text."""

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
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.HEADINGS,
    needs=(TextFacts,),
    summary="Empty headings",
    terms=(
        "heading",
        "h2",
        "accessibility",
    ),
    why="Screen readers announce a heading and then say nothing. It is often a heading that was only used to make room.",
    fix="Remove the element, or write what the section is about.",
    effort=Effort.SMALL,
    standard="WCAG 2.2, 1.3.1; WHATWG HTML, 4.3.6",
    messages={"empty": "{count:heading} without text, the first an H{level}"},
    cause="template",
    examples=(
        fails("empty")(page(doc("<h1>Rope</h1><h2></h2>"))),
        passes(page(doc("<h1>Rope</h1><h2><img src=/i.png alt=Tide></h2>"))),
        passes(page(doc("<h1></h1>"))),
        passes(page(doc("<h1>Rope</h1>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    empty = [heading.level for heading in page.text.headings if not heading.text and heading.level > 1]
    if empty:
        yield Fail("empty", "", {"count": len(empty), "level": empty[0], "selector": f"h{empty[0]}:empty"})
