"""A thing of the kind Event lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
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
    summary="Event data incomplete",
    terms=("Event", "rich results", "startDate"),
    why="Calendars and results of events need to know what takes place, when and where. Events without these are left out.",
    fix="Add the properties named here. The location of an event on the web is a VirtualLocation with its address.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org Event",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(
            page(ld('{"@context": "https://schema.org", "@type": "Event", "name": "Regatta", "startDate": "2027-05-01"}'))
        ),
        passes(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "Event", "name": "Regatta", "startDate": "2027-05-01", "location": "Pier 4"}'
                )
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Event", "@id": "/#x"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from lacks_of(page.data.things, "Event", "name", "startDate", "location")
