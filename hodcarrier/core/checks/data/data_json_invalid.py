"""A JSON-LD block is not JSON (RFC 8259)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.data import DataFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(DataFacts,),
    summary="Structured data cannot be parsed",
    terms=(
        "JSON-LD",
        "schema",
        "rich results",
    ),
    why="One syntax error, and search engines skip the whole block: no price, no ratings, no date in the results.",
    fix="Correct the error named here. Generate the block with a JSON library instead of joining text.",
    effort=Effort.SMALL,
    standard="JSON-LD 1.1; RFC 8259",
    messages={"invalid": "A JSON-LD block is not valid JSON: {error}"},
    cause="template",
    examples=(
        fails("invalid")(page(doc('<script type="application/ld+json">{"@type": "Product",}</script>'))),
        passes(page(doc('<script type="application/ld+json">{"@type": "Product"}</script>'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for error in page.data.errors:
        yield Fail("invalid", "", {"error": error, "selector": 'script[type="application/ld+json"]'})
