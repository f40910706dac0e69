"""A table of data without any header cell. A table counts as one of data when it has three rows or more of the same two or more short cells and
nothing in them but text, and a column of figures: tables that may be there for the layout pass."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Data tables without header cells",
    terms=("th", "table header", "accessibility"),
    why="Without header cells a screen reader reads figures without saying what they are, and search engines cannot take the table apart.",
    fix="Mark the cells that name rows or columns as th, with a scope.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.9.10; WCAG 2.2, 1.3.1",
    messages={"head": "The table that begins with “{cells}” has no th"},
    cause="element",
    cause_line="“{cells}” on {pages:page}",
    examples=(
        fails("head")(page(doc("<table><tr><td>Rope<td>12 m<tr><td>Twine<td>3 m<tr><td>Cord<td>8 m</table>"))),
        passes(page(doc("<table><tr><th>Rope<td>12 m<tr><th>Twine<td>3 m<tr><th>Cord<td>8 m</table>"))),
        passes(page(doc("<table><tr><td>Rope<td>12 m<tr><td>Twine<td>3 m</table>"))),
        passes(page(doc("<table><tr><td>Rope<td>Laid<tr><td>Twine<td>Spun<tr><td>Cord<td>Braided</table>"))),
        passes(page(doc("<table role=presentation><tr><td>a<td>1<tr><td>c<td>2<tr><td>e<td>3</table>"))),
        passes(page(doc("<table><tr><td><img src=/i.png alt=x><td>1<tr><td>c<td>2<tr><td>e<td>3</table>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for cells in page.markup.headless_tables:
        yield Fail("head", cells, {"cells": cells, "selector": "table:not(:has(th))"})
