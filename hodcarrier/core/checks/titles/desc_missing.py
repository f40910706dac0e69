"""An indexable page without a meta description."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(HeadFacts,),
    summary="Meta description missing",
    terms=(
        "description",
        "snippet",
    ),
    why="The description is the two lines under the title in search results. Without it a snatch of the page is shown, often a menu.",
    fix="Write one or two sentences that answer what the reader finds here. Where hundreds are missing, let the template make them from the first paragraph.",
    effort=Effort.MEDIUM,
    standard="WHATWG HTML, 4.2.5.1",
    messages={"missing": "There is no meta description"},
    cause="template",
    examples=(
        fails("missing")(page(doc(head="<title>Rope</title>"))),
        passes(page(doc(head='<meta name=description content="Rope by the metre">'))),
        passes(page(doc(head="<meta name=robots content=noindex>"))),
        passes(page(doc(head='<meta name=Description content="">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.indexable and not page.head.descriptions:
        yield Fail("missing", "", {"selector": "head"})
