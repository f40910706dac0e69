"""An indexable page without a meta description."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    about="indexable",
    needs=(HeadFacts,),
    summary="Meta description missing",
    terms=(
        "description",
        "snippet",
    ),
    why="The meta description is the text below the title in search results. Without one, search engines show an excerpt of the page, often the menu.",
    fix="Write one or two sentences that say what visitors find on the page. If hundreds are missing, let the template generate them from the first paragraph.",
    mend=inside('<meta name="description" content="What this page offers, in one or two sentences">'),
    effort=Effort.MEDIUM,
    standard="WHATWG HTML, 4.2.5.1",
    messages={"missing": "No meta description"},
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
    if not page.head.descriptions:
        yield Fail("missing", "", {"selector": "head"})
