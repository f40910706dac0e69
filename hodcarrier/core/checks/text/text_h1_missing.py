"""An indexable page without an H1 element."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    about="indexable",
    needs=(TextFacts,),
    summary="H1 missing",
    terms=(
        "heading",
        "main heading",
    ),
    why="The H1 tells visitors and search engines what the page is about, and screen reader users navigate by it.",
    fix="Mark up the visible headline of the page as H1.",
    mend=inside("<h1>What this page is about</h1>"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.3.6",
    messages={"missing": "No H1"},
    cause="template",
    examples=(
        fails("missing")(page(doc("<h2>Rope</h2>"))),
        passes(page(doc("<h1>Rope</h1>"))),
        passes(page(doc("<h1></h1>"))),
        passes(page(doc("<p>x", "<meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not any(heading.level == 1 for heading in page.text.headings):
        yield Fail("missing", "", {"selector": "body"})
