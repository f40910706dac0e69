"""An id stands on more than one element of the document (WHATWG DOM, 4.9: ids are unique in a tree)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Duplicate IDs",
    terms=(
        "id attribute",
        "HTML validation",
    ),
    why="Links and labels that refer to the ID reach only the first element.",
    fix="Give the second element a different ID, or none.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 3.2.6",
    messages={"twice": "The ID “{id}” is used on more than one element"},
    cause="template",
    examples=(
        fails("twice")(page(doc("<p id=a>x<p id=a>y"))),
        passes(page(doc("<p id=a>x<p id=b>y"))),
        passes(page(doc("<p id=a>x<p id=A>y"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for name in page.markup.twice_ids:
        yield Fail("twice", name, {"id": name, "selector": f'[id="{name}"]'})
