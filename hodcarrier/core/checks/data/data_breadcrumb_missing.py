"""An indexable page that is so many clicks from the start describes no path to itself."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(DataFacts,),
    across=True,
    summary="No breadcrumb data",
    terms=("BreadcrumbList", "rich results", "navigation"),
    why="Results of deeper pages show the path of the site instead of a bare address when the data have it.",
    fix="Let the template describe the path as a BreadcrumbList, and show it on the page.",
    element="head",
    effort=Effort.SMALL,
    standard="schema.org BreadcrumbList",
    messages={"missing": "{depth:click} from the start, and no BreadcrumbList"},
    cause="template",
    limits={"breadcrumb_clicks_max": Limit(1, "clicks", "distance from the start up to which a page needs no path")},
    examples=(
        fails("missing")(page(doc("<a href=/a>a</a>")), page(doc("<a href=/b>b</a>"), "/a"), page(doc(), "/b")),
        passes(page(doc("<a href=/a>a</a>")), page(doc(), "/a")),
        passes(
            page(doc("<a href=/a>a</a>")),
            page(doc("<a href=/b>b</a>"), "/a"),
            page(ld('{"@context": "https://schema.org", "@type": "BreadcrumbList", "itemListElement": []}'), "/b"),
        ),
        passes(
            page(doc("<a href=/a>a</a>")),
            page(doc("<a href=/b>b</a>"), "/a"),
            page(doc(), "/b"),
            plan={"thresholds": {"breadcrumb_clicks_max": 2}},
        ),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.depth is None or page.depth <= limits["breadcrumb_clicks_max"]:
        return
    if not any("BreadcrumbList" in thing.types for thing in page.data.things) and "BreadcrumbList" not in page.data.types:
        yield Fail("missing", "", {"depth": page.depth})
