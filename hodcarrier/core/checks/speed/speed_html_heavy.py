"""The decoded HTML is larger than the limit."""

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
    doc_of_size,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="HTML too large",
    terms=(
        "page size",
        "page weight",
    ),
    why="The browser has to download and parse all of the HTML before the page is complete.",
    fix="Move inline styles, scripts and images out of the document, and split long lists into pages.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"heavy": "{kib} KiB of HTML; up to {limit} KiB is fine"},
    cause="template",
    limits={"html_bytes_max": Limit(204800, "bytes", "largest document that is still in order")},
    examples=(
        fails("heavy")(page(doc_of_size(204801))),
        passes(page(doc_of_size(204800))),
        passes(page(doc("<p>" + "a" * 204800)), plan={"thresholds": {"html_bytes_max": 300000}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    size = page.markup.html_bytes
    if size > limits["html_bytes_max"]:
        yield Fail("heavy", "", {"kib": round(size / 1024), "limit": round(limits["html_bytes_max"] / 1024)})
