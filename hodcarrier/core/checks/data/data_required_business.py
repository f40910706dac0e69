"""A thing of the kind LocalBusiness lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
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
    lacks_of,
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Local business data incomplete",
    terms=("LocalBusiness", "local SEO", "NAP", "address"),
    why="Maps and local results match a business by its name, address and telephone number. Without them the data cannot be tied to the place.",
    fix="Add the properties named here, spelled as they are in the business's other listings.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org LocalBusiness",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(page(ld('{"@context": "https://schema.org", "@type": "Store", "name": "Ropes", "address": "Pier 4"}'))),
        passes(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "Store", "name": "Ropes", "address": {"@type": "PostalAddress", "streetAddress": "Pier 4"}, "telephone": "+44 20 7946 0000"}'
                )
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "LocalBusiness", "@id": "/#x"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from lacks_of(page.data.things, "LocalBusiness", "name", "address", "telephone")
