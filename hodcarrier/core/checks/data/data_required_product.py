"""A thing of the kind Product lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
part of another one, pass."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    lack,
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.things import lacking, of_kind, parts_of

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Product data incomplete",
    terms=("Product", "rich results", "offers", "price"),
    why="Search engines show price, availability and stars only of products whose data are whole. Without these properties the result stays plain.",
    fix="Add what is named here to the template of products. An offer needs a price and its currency.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org Product and Offer",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(page(ld('{"@context": "https://schema.org", "@type": "Product", "name": "Rope"}'))),
        passes(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "Product", "name": "Rope", "offers": {"@type": "Offer", "price": "4.20", "priceCurrency": "EUR"}}'
                )
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Product", "@id": "/#x"}'))),
        passes(page(doc())),
        fails("lacks")(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "Product", "name": "Rope", "offers": {"@type": "Offer", "price": 4}}'
                )
            )
        ),
        fails("lacks")(page(doc('<div itemscope itemtype="https://schema.org/Product"><b itemprop=name>Rope</b></div>'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for thing in of_kind(page.data.things, "Product"):
        missing = lacking(thing, "name", "offers|review|aggregateRating|hasVariant")
        for offer in parts_of(page.data.things, thing, "offers"):
            if "AggregateOffer" in offer.types:
                missing = missing or lacking(offer, "lowPrice|offers", "priceCurrency|offers")
            elif offer.types:
                missing = missing or lacking(offer, "price|priceSpecification", "priceCurrency|priceSpecification")
        if missing:
            yield lack(thing, missing)
