"""The document has no title element at all (titles inside SVG do not count)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(HeadFacts,),
    summary="Title missing",
    terms=(
        "title tag",
        "page title",
    ),
    why="The title is the link people click in search results and the label of the browser tab. Without one, search engines make one up.",
    fix="Add a unique title element to the head of every page that says what the page offers.",
    mend=inside("<title>What this page offers</title>"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.2",
    messages={"missing": "No title element"},
    cause="template",
    examples=(
        fails("missing")(page(doc(head=""))),
        fails("missing")(page(doc("<svg><title>Icon</title></svg>", ""))),
        passes(page(doc(head="<title>Rope for small boats</title>"))),
        passes(page(doc(head="<title></title>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.head.titles:
        yield Fail("missing", "", {"selector": "head"})
