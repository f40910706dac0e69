"""A heading is more than one level below the heading before it. Going back up by several levels is in order."""

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
from hodcarrier.core.catalogue.mending import renamed
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.HEADINGS,
    needs=(TextFacts,),
    summary="Heading levels skipped",
    terms=(
        "H2",
        "H3",
        "heading hierarchy",
        "accessibility",
    ),
    why="Screen reader users navigate by headings. A skipped level suggests that a section is missing.",
    fix="Choose the heading level by the structure of the text, and its size in the stylesheet.",
    mend=renamed("h{next}"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.3.11; WCAG 2.2, 1.3.1",
    messages={"skips": "H{before} is followed by H{level}: “{text}”"},
    cause="template",
    examples=(
        fails("skips")(page(doc("<h1>Rope</h1><h3>Splices</h3>"))),
        passes(page(doc("<h1>Rope</h1><h2>Knots</h2><h3>Splices</h3><h2>Care</h2>"))),
        passes(page(doc("<h2>Rope</h2>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    before = 0
    for heading in page.text.headings:
        if before and heading.level > before + 1:
            data = {"text": heading.text, "level": heading.level, "before": before, "selector": f"h{heading.level}"}
            yield Fail("skips", f"h{before} h{heading.level} {heading.text}", data)
        before = heading.level
