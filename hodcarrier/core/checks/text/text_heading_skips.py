"""A heading is more than one level below the heading before it. Going back up by several levels is in order."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(TextFacts,),
    summary="Heading levels skipped",
    terms=(
        "H2",
        "H3",
        "heading hierarchy",
        "accessibility",
    ),
    why="People who move through a page by its headings miss a step and wonder what they have overlooked.",
    fix="Choose the level by the order of the text and the size by the style sheet.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.3.11; WCAG 2.2, 1.3.1",
    messages={"skips": "After an H{before} comes an H{level}: “{text}”"},
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
