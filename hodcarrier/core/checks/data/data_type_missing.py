"""A thing in the data has no type: a node of JSON-LD without @type, an itemscope without itemtype. What only refers to another thing passes."""

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

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Structured data without a type",
    terms=("@type", "itemtype", "schema.org"),
    why="Without a type nobody can tell what the properties mean, and search engines pass over the thing.",
    fix="Add the type of schema.org that fits: @type in JSON-LD, itemtype in microdata.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="JSON-LD 1.1, 3.5; WHATWG HTML, 5.2.2",
    messages={"part": "The {property} of {thing} has no type", "top": "A thing with {properties} has no type"},
    cause="template",
    examples=(
        fails("top")(page(ld('{"@context": "https://schema.org", "name": "Rope"}'))),
        fails("part")(page(ld('{"@context": "https://schema.org", "@type": "Product", "brand": {"name": "Ropes"}}'))),
        fails("top")(page(doc("<div itemscope><b itemprop=name>Rope</b></div>"))),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Product", "brand": {"@id": "#b"}}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    things = page.data.things
    for number, thing in enumerate(things):
        if thing.types or not thing.values:
            continue
        if thing.part_of < 0:
            told = ", ".join(list(thing.values)[:4])
            yield Fail("top", told, {"properties": told, "form": thing.form, "block": thing.block})
        elif things[thing.part_of].types:
            owner = things[thing.part_of]
            name = next((name for name, values in owner.values.items() if number in values), "")
            yield Fail(
                "part",
                f"{owner.types[0]} {name}",
                {"property": name, "thing": called(owner), "form": thing.form, "block": thing.block},
            )
