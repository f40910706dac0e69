"""The data of a product name it otherwise than the page does, or give a price that the page does not show.

A name is another one when fewer than half of its words are on the page. Prices are compared on pages that show prices at all: a script may
write them. Microdata and RDFa stand in the text itself and pass."""

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
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts

ROPE = (
    '{"@context": "https://schema.org", "@type": "Product", "name": "Rope, laid",'
    ' "offers": {"@type": "Offer", "price": "4.20", "priceCurrency": "EUR"}}'
)


def shown(text: str) -> str:
    """A sample page of a laid rope that shows a text."""
    return ld(ROPE).replace("<h1>Rope</h1>", f"<h1>Rope, laid</h1>{text}")


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Data that the page does not show",
    terms=("mismatch", "price", "rich results", "guidelines"),
    why="Search engines compare data with the page. Where they differ, rich results are taken away, and buyers meet another price than they were promised.",
    fix="Feed page and data from one source. Look for a cache that holds one of them longer.",
    effort=Effort.MEDIUM,
    standard="schema.org Product; guidelines of search engines",
    messages={
        "name": "The data name the product “{value}”; the page does not",
        "price": "The data give the price {value}; the page shows none like it",
    },
    cause="template",
    examples=(
        fails("price")(page(shown("<p>4.50 €"))),
        fails("name")(page(ld(ROPE).replace("Rope</h1>", "Anchor</h1>"))),
        passes(page(shown("<p>Only 4,20 €"))),
        passes(page(shown("<p>Only four<script src=/a.js></script>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for name, value in page.data.unseen:
        yield Fail(name, f"{name} {value}", {"value": value, "selector": 'script[type="application/ld+json"]'})
