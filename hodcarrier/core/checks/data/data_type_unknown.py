"""A type in data that use the words of schema.org is none of them. Types of other vocabularies pass."""

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
from hodcarrier.core.web.vocabulary import vocabulary

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Unknown types in structured data",
    terms=("@type", "schema.org", "typo"),
    why="Search engines know the types of schema.org only. A misspelled or made-up one counts for nothing.",
    fix="Take the type of schema.org that comes nearest. Mind capital letters: Product, not product.",
    element='script[type^="application/ld+json" i], [itemtype], [typeof]',
    effort=Effort.SMALL,
    standard="schema.org",
    messages={"unknown": "schema.org has no type {type}"},
    cause="template",
    examples=(
        fails("unknown")(page(ld('{"@context": "https://schema.org", "@type": "Produkt", "name": "Rope"}'))),
        fails("unknown")(page(doc('<div itemscope itemtype="https://schema.org/product"></div>'))),
        passes(page(ld('{"@context": "https://schema.org", "@type": ["Product", "ex:Rope"], "name": "Rope"}'))),
        passes(page(ld('{"@context": "https://other.example", "@type": "Produkt"}'))),
        passes(page(doc('<div itemscope itemtype="https://other.example/Rope"></div>'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    types = vocabulary().types
    members = vocabulary().members
    seen = dict.fromkeys(name for thing in page.data.things if thing.known for name in thing.types)
    for name in seen:
        if name not in types and name not in members and ":" not in name and "/" not in name:
            yield Fail("unknown", name, {"type": name})
