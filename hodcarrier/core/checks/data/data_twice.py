"""The data describe one thing twice, by its type and its name or @id, and give two values for a property that has one."""

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
from hodcarrier.core.facts.things import Thing, called, parts_of

SINGLE = ("price", "priceCurrency", "sku", "ratingValue", "telephone", "datePublished", "startDate")
TWO = (
    '{"@context": "https://schema.org", "@graph": [{"@type": "Product", "name": "Rope", "sku": "A", "offers": {"@type": "Offer", "price": "4.20"}},'
    ' {"@type": "Product", "name": "Rope", "sku": "A", "offers": {"@type": "Offer", "price": "4.50"}}]}'
)


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Two descriptions that contradict each other",
    terms=("duplicate structured data", "conflict", "plugin", "schema.org"),
    why="Search engines choose one of the two, or trust neither. Usually an extension adds data that the template has already.",
    fix="Keep one source of the data and switch the other off.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org",
    messages={"twice": "{thing} has the {property} “{one}” and “{other}”"},
    cause="template",
    examples=(
        fails("twice")(page(ld(TWO))),
        passes(page(ld(TWO.replace("4.20", "4.50")))),
        passes(page(ld(TWO.replace('"Rope"', '"Twine"', 1)))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    things = page.data.things
    firsts: dict[tuple[str, str], Thing] = {}
    for thing in things:
        name = thing.id or next(iter(thing.texts("name")), "")
        if thing.part_of >= 0 or not thing.types or not name:
            continue
        first = firsts.setdefault((thing.types[0], name.casefold()), thing)
        for prop in SINGLE if first is not thing else ():
            one, other = _value(things, first, prop), _value(things, thing, prop)
            if one and other and one != other:
                data = {"thing": called(thing), "property": prop, "one": one, "other": other}
                yield Fail("twice", f"{called(thing)} {prop}", data)


def _value(things: tuple[Thing, ...], thing: Thing, name: str) -> str:
    """The value of a property, or of the thing's offer or rating; numbers are written alike."""
    inside = [part for part_name in ("offers", "aggregateRating") for part in parts_of(things, thing, part_name)]
    text = next((value for part in (thing, *inside) for value in part.texts(name)), "")
    try:
        return f"{float(text):g}"
    except ValueError:
        return text
