"""A thing of the kind Recipe lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
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
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Recipe data incomplete",
    terms=("Recipe", "rich results", "image"),
    why="Recipe results show an image. A recipe without an image or a name appears as a plain text result.",
    fix="Add the name and at least one image of the dish.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org Recipe",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(page(ld('{"@context": "https://schema.org", "@type": "Recipe", "name": "Soup"}'))),
        passes(
            page(
                ld('{"@context": "https://schema.org", "@type": "Recipe", "name": "Soup", "image": "https://shop.example/i.png"}')
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Recipe", "@id": "/#x"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from lacks_of(page.data.things, "Recipe", "name", "image")
