"""A thing of the kind Article lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
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
    summary="Article data without a headline",
    terms=("Article", "NewsArticle", "BlogPosting", "rich results"),
    why="The headline is what results, carousels and readers aloud show of an article. Without it the data say nothing.",
    fix="Set headline to the title of the article, as it stands in its H1.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org Article",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(page(ld('{"@context": "https://schema.org", "@type": "BlogPosting", "author": "Rigging desk"}'))),
        passes(page(ld('{"@context": "https://schema.org", "@type": "BlogPosting", "headline": "Knots"}'))),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Article", "@id": "/#x"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from lacks_of(page.data.things, "Article", "headline|name")
