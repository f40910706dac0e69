"""A property in data that use the words of schema.org is none of them, or none of the thing's types have it. Things with a type that is not
known pass, as do properties of other vocabularies."""

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
from hodcarrier.core.facts.things import called
from hodcarrier.core.web.vocabulary import vocabulary

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Unknown properties in structured data",
    terms=("schema.org", "typo", "vocabulary"),
    why="A property that the type does not have is passed over, so what you meant to say is not said.",
    fix="Correct the spelling, or put the property on the thing that it belongs to.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org",
    messages={
        "unknown": "schema.org has no property {property}; it stands on {thing}",
        "foreign": "{thing} has no property {property}; {owners} have",
    },
    cause="template",
    examples=(
        fails("unknown")(page(ld('{"@context": "https://schema.org", "@type": "Product", "colour": "red"}'))),
        fails("foreign")(page(ld('{"@context": "https://schema.org", "@type": "Product", "price": "4.20"}'))),
        fails("foreign")(page(doc('<div itemscope itemtype="https://schema.org/Product"><b itemprop=price>4</b></div>'))),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Product", "color": "red", "ex:twist": "z"}'))),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Produkt", "colour": "red"}'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    known = vocabulary()
    for thing in page.data.things:
        kinds = frozenset[str]().union(*(known.kinds(name) for name in thing.types)) if thing.known else frozenset()
        if not kinds or not all(name in known.types for name in thing.types) or "Role" in kinds:
            continue
        for name in thing.values:
            if ":" in name or "/" in name or name.endswith(("-input", "-output")):
                continue
            about = known.properties.get(name)
            data = {"property": name, "thing": called(thing), "form": thing.form, "block": thing.block}
            if about is None:
                yield Fail("unknown", f"{thing.types[0]} {name}", data)
            elif not about.of & kinds:
                yield Fail("foreign", f"{thing.types[0]} {name}", {**data, "owners": ", ".join(sorted(about.of)[:4])})
