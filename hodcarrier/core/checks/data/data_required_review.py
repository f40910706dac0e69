"""A thing of the kind Review lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
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
from hodcarrier.core.facts.things import Thing, lacking, of_kind, parts_of

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Review data incomplete",
    terms=("Review", "AggregateRating", "stars", "rich results"),
    why="Stars are shown only when it is said who rated what, and how. Ratings without a number or a count are ignored.",
    fix="A review needs an author, a rating and the thing it is about. An average needs its value and the number of ratings.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org Review and AggregateRating",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(page(ld('{"@context": "https://schema.org", "@type": "Review", "author": "A buyer"}'))),
        passes(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "Review", "author": "A buyer", "reviewRating": {"@type": "Rating", "ratingValue": 4}, "itemReviewed": {"@type": "Product", "name": "Rope"}}'
                )
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Review", "@id": "/#x"}'))),
        passes(page(doc())),
        fails("lacks")(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "Product", "aggregateRating": {"@type": "AggregateRating", "ratingValue": 4}}'
                )
            )
        ),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    things = page.data.things
    found = [
        (thing, _lacks(things, thing)) for kind in ("Review", "AggregateRating") for thing in of_kind(things, kind, parts=True)
    ]
    for thing, missing in found:
        if missing:
            yield lack(thing, missing)


def _lacks(things: tuple[Thing, ...], thing: Thing) -> str:
    alone = ("itemReviewed",) if thing.part_of < 0 else ()
    if "AggregateRating" in thing.types:
        return lacking(thing, "ratingValue", "ratingCount|reviewCount", *alone)
    missing = lacking(thing, "author", "reviewRating", *alone)
    ratings = list(parts_of(things, thing, "reviewRating"))
    return missing or ("ratingValue" if ratings and not any(rating.has("ratingValue") for rating in ratings) else "")
