"""Something else than an item stands in a list, or an item stands in none (WHATWG HTML, 4.4.5 to 4.4.8). Elements with roles of their own pass."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Broken lists",
    terms=("ul", "ol", "li", "accessibility"),
    why="Screen readers announce a wrong number of items or none at all, and browsers repair such lists each in its own way.",
    fix="Put every part of a list into a li element, and every li element into a list.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.4.5 to 4.4.8; WCAG 2.2, 1.3.1",
    messages={
        "inside": "An element stands in a list without being an item: {place}",
        "loose": "A list item stands outside a list: {place}",
    },
    cause="element",
    cause_line="{place} on {pages:page}",
    examples=(
        fails("inside")(page(doc("<ul><li>Rope</li><div>Twine</div></ul>"))),
        fails("inside")(page(doc("<ol><a href=/a>Rope</a></ol>"))),
        fails("loose")(page(doc("<div><li>Rope</li></div>"))),
        passes(page(doc("<ul><li>Rope<ul><li>Thin</ul></ul><menu><li>Cut</menu>"))),
        passes(page(doc("<ul role=tablist><div>Rope</div></ul>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for place in page.markup.broken_lists:
        yield Fail("loose" if place.endswith("> li") else "inside", place, {"place": place, "selector": place})
