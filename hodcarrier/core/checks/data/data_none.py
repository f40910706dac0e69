"""An indexable page holds no structured data that could be read (JSON-LD)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.data import DataFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(DataFacts,),
    summary="No structured data",
    terms=(
        "schema.org",
        "JSON-LD",
        "rich results",
    ),
    why="Without it search engines show the page as plain text: no price, no rating, no breadcrumb.",
    fix="Let the template describe what the page shows: Product, Article, BreadcrumbList, Organization.",
    element="head",
    effort=Effort.MEDIUM,
    standard="schema.org; JSON-LD 1.1",
    messages={"none": "No structured data"},
    cause="template",
    examples=(
        fails("none")(page(doc())),
        passes(page(doc('<script type="application/ld+json">{"@type": "Product"}</script>'))),
        passes(page(doc(head="<meta name=robots content=noindex>"))),
        passes(page(doc("<div itemscope itemtype=https://schema.org/Product></div>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.data.types and not page.data.errors and not page.data.other_forms:
        yield Fail("none")
