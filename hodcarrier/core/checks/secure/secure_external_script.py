"""A page loads scripts of other hosts without a digest that they must match (Subresource Integrity)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import attributes
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.FILES,
    needs=(MarkupFacts,),
    summary="Scripts of others without integrity",
    terms=("subresource integrity", "SRI", "third party", "supply chain"),
    why="Whoever controls that host can change what runs on your pages, forms and passwords included.",
    fix="Serve the script yourself, or add integrity and crossorigin. For scripts that change by design, weigh what they may see.",
    mend=attributes(integrity="sha384-…", crossorigin="anonymous"),
    effort=Effort.MEDIUM,
    standard="W3C Subresource Integrity",
    messages={"unpinned": "{url} has no integrity attribute"},
    cause="element",
    cause_line="{url} on {pages:page}",
    examples=(
        fails("unpinned")(page(doc("<script src=https://cdn.other.example/w.js></script>"))),
        passes(page(doc("<script src=https://cdn.other.example/w.js integrity=sha256-x></script>"))),
        passes(page(doc("<script src=/w.js></script><script src=https://static.shop.example/w.js></script>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for url in page.markup.unpinned:
        yield Fail("unpinned", url, {"url": url, "selector": f'script[src="{url}"]'})
