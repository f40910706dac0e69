"""A JSON-LD block is not JSON (RFC 8259)."""

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
from hodcarrier.core.facts.data import DataFacts

BLOCK = '<script type="application/ld+json">'

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.DATA,
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
    messages={"invalid": "JSON-LD block {block} is not valid JSON: {error}"},
    cause="template",
    revision=2,
    examples=(
        fails("invalid")(page(doc('<script type="application/ld+json">{"@type": "Product",}</script>'))),
        fails("invalid", "invalid")(page(doc(f"{BLOCK}{{</script>{BLOCK}{{}}</script>{BLOCK}[NaN]</script>"))),
        fails("invalid")(page(doc(BLOCK + '{"name": "two\nlines"}</script>'))),
        fails("invalid")(page(doc('<script type="application/ld+json; charset=utf-8">{,}</script>'))),
        passes(page(doc(BLOCK + '{"@type": "Product"}</script>'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    # Files of earlier releases do not say which of the blocks is wrong.
    blocks = page.data.wrong_blocks or ((1, ""),) * len(page.data.errors)
    for error, (number, digest) in zip(page.data.errors, blocks, strict=True):
        yield Fail("invalid", digest, {"error": error, "block": number, "selector": 'script[type^="application/ld+json"]'})
