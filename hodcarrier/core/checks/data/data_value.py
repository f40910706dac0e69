"""A value in data that use the words of schema.org does not have the form its property asks for.

Looked at are dates and times, durations (ISO 8601), currencies (ISO 4217), countries in two letters (ISO 3166-1), numbers, prices, addresses
with blanks in them, and members of enumerations; of properties that also take a text, only prices and ratings."""

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
    fails,
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.things import called
from hodcarrier.core.web.codes import COUNTRIES, CURRENCIES, NUMBER, is_duration, is_moment, is_time
from hodcarrier.core.web.vocabulary import vocabulary

CURRENCY = frozenset({"priceCurrency", "salaryCurrency", "currency"})
AMOUNTS = frozenset({"price", "lowPrice", "highPrice", "ratingValue"})
GOOD = (
    '{"@context": "https://schema.org", "@graph": [{"@type": "Event", "startDate": "2027-05-01T18:30+01:00", "doorTime": "18:00"},'
    ' {"@type": "Offer", "price": 1299, "priceCurrency": "EUR", "availability": "https://schema.org/InStock", "url": "/ropes"},'
    ' {"@type": "Recipe", "cookTime": "PT30M"}, {"@type": "PostalAddress", "addressCountry": "GB"}]}'
)


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Wrong values in structured data",
    terms=("ISO 8601", "ISO 4217", "date format", "price format", "schema.org"),
    why="Programs read these values. A date as people write it, or a price with a currency sign, is not understood and is dropped.",
    fix="Write the value as it is shown here. Let the template format it, so that every page is right.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org; ISO 8601; ISO 4217; ISO 3166-1",
    messages={
        "moment": "{property} is “{value}”; a date looks like 2027-05-01 or 2027-05-01T18:30+01:00",
        "duration": "{property} is “{value}”; a duration looks like PT1H30M",
        "currency": "{property} is “{value}”; a currency has three letters, such as EUR",
        "country": "{property} is “{value}”, which is no country’s code",
        "number": "{property} is “{value}”; a number looks like 1299.00",
        "url": "{property} is “{value}”, which is no URL",
        "member": "{property} is “{value}”; it may be {members}",
    },
    cause="template",
    examples=(
        fails("moment")(page(ld('{"@context": "https://schema.org", "@type": "Event", "startDate": "1 May 2027"}'))),
        fails("moment")(page(ld('{"@context": "https://schema.org", "@type": "Event", "startDate": "2027-02-30"}'))),
        fails("duration")(page(ld('{"@context": "https://schema.org", "@type": "Recipe", "cookTime": "30 min"}'))),
        fails("currency", "number")(
            page(ld('{"@context": "https://schema.org", "@type": "Offer", "price": "4,20 €", "priceCurrency": "Euro"}'))
        ),
        fails("country")(page(ld('{"@context": "https://schema.org", "@type": "PostalAddress", "addressCountry": "UK"}'))),
        fails("url")(page(ld('{"@context": "https://schema.org", "@type": "Product", "url": "see our shop"}'))),
        fails("member")(page(ld('{"@context": "https://schema.org", "@type": "Offer", "availability": "in stock"}'))),
        passes(page(ld(GOOD))),
        passes(page(ld('{"@context": "https://schema.org", "@type": "PostalAddress", "addressCountry": "Wales"}'))),
        passes(page(ld('{"@context": "https://other.example", "@type": "Event", "startDate": "1 May 2027"}'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    known = vocabulary()
    for thing in page.data.things:
        if not thing.known or not thing.types:
            continue
        for name in thing.values:
            about = known.properties.get(name)
            for value in thing.texts(name) if about is not None else ():
                if about is not None and (wrong := _wrong(name, value, about.values)):
                    members = ", ".join(sorted(known.members.get(next(iter(about.values)), ()))[:4])
                    data = {"property": name, "value": value, "thing": called(thing), "form": thing.form, "members": members}
                    yield Fail(wrong, f"{thing.types[0]} {name}", data)
                    break


def _wrong(name: str, value: str, kinds: frozenset[str]) -> str:
    """What is wrong with a value, as the key of a message; empty when nothing is."""
    if name in CURRENCY:
        return "" if value in CURRENCIES else "currency"
    if name == "addressCountry":
        return "country" if len(value) == 2 and value.upper() not in COUNTRIES else ""
    if name in AMOUNTS or kinds <= {"Number", "Integer", "Float"}:
        return "" if NUMBER.fullmatch(value) else "number"
    if kinds <= {"Date", "DateTime"}:
        return "" if is_moment(value) else "moment"
    if kinds <= {"Date", "DateTime", "Time"}:
        return "" if is_moment(value) or is_time(value) else "moment"
    if kinds == {"Duration"}:
        return "" if is_duration(value) else "duration"
    if kinds == {"URL"}:
        return "url" if " " in value else ""
    members = vocabulary().members.get(next(iter(kinds))) if len(kinds) == 1 else None
    return "member" if members and value.rpartition("/")[2] not in members else ""
