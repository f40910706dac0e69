"""A thing of the kind VideoObject lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
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
    summary="Video data incomplete",
    terms=("VideoObject", "rich results", "video"),
    why="Results with a video need a name, a still and the day it was published. Videos that lack one are not shown as such.",
    fix="Add the properties named here to every video.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org VideoObject",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(page(ld('{"@context": "https://schema.org", "@type": "VideoObject", "name": "Knots"}'))),
        passes(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "VideoObject", "name": "Knots", "thumbnailUrl": "https://shop.example/i.png", "uploadDate": "2026-11-01"}'
                )
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "VideoObject", "@id": "/#x"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from lacks_of(page.data.things, "VideoObject", "name", "thumbnailUrl|thumbnail", "uploadDate")
