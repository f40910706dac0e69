"""Structured data in its three forms gives the same things."""

from __future__ import annotations

import json
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.page import collect
from hodcarrier.core.facts.things import THINGS_MAX, Thing, called, lacking, of_kind, parts_of

WHERE = "https://shop.example/rope"


def things(body: str) -> tuple[Thing, ...]:
    return collect(f"<!doctype html><body>{body}".encode(), WHERE, "text/html").data.things


def ld(value: Any) -> tuple[Thing, ...]:
    return things(f'<script type="application/ld+json">{json.dumps(value)}</script>')


SCHEMA = {"@context": "https://schema.org"}


def plain(found: tuple[Thing, ...]) -> list[tuple[tuple[str, ...], dict[str, list[str | int]], int]]:
    return [(thing.types, dict(sorted(thing.values.items())), thing.part_of) for thing in found]


def test_the_three_forms_say_the_same() -> None:
    wanted = [(("Product",), {"brand": [1], "name": ["Rope"]}, -1), (("Brand",), {"name": ["Laid"]}, 0)]
    assert plain(ld({**SCHEMA, "@type": "Product", "name": "Rope", "brand": {"@type": "Brand", "name": "Laid"}})) == wanted
    micro = (
        '<div itemscope itemtype="https://schema.org/Product"><b itemprop=name>Rope</b>'
        '<i itemprop=brand itemscope itemtype="http://schema.org/Brand"><meta itemprop=name content=Laid></i></div>'
    )
    assert plain(things(micro)) == wanted
    lite = (
        '<div vocab="https://schema.org/" typeof=Product><b property=name>Rope</b>'
        "<i property=brand typeof=Brand><b property=name>Laid</b></i></div>"
    )
    assert plain(things(lite)) == wanted


def test_values_of_elements_are_those_of_the_standard() -> None:
    found = things(
        '<p itemscope itemtype="https://schema.org/Event"><a itemprop=url href=/r>here</a><time itemprop=startDate datetime=2027-05-01>May</time>'
        "<img itemprop=image src=/i.png><data itemprop=duration value=PT2H>two hours</data><link itemprop=eventStatus href=/s></p>"
    )
    said = {"url": ["/r"], "startDate": ["2027-05-01"], "image": ["/i.png"], "duration": ["PT2H"], "eventStatus": ["/s"]}
    assert found[0].values == said


def test_things_that_name_one_another_are_tied() -> None:
    graph = [{"@type": "Article", "@id": "#a", "author": {"@id": "#p"}}, {"@type": "Person", "@id": "#p", "name": "Desk"}]
    article, person = ld({**SCHEMA, "@graph": graph})
    assert list(parts_of((article, person), article, "author")) == [person]
    (alone,) = ld({**SCHEMA, "@type": "Article", "author": {"@id": "#elsewhere"}})
    assert alone.values == {"author": ["#elsewhere"]}


def test_numbers_truth_and_values_with_a_language_are_texts() -> None:
    (found,) = ld(
        {**SCHEMA, "@type": "Offer", "price": 4.2, "isFamilyFriendly": True, "name": {"@value": "Rope", "@language": "en"}}
    )
    assert found.values == {"price": ["4.2"], "isFamilyFriendly": ["true"], "name": ["Rope"]}


def test_other_vocabularies_are_told_apart() -> None:
    (found,) = ld({"@context": "https://other.example", "@type": "Produkt", "name": "Rope"})
    assert not found.known and list(of_kind((found,), "Product")) == []
    (found,) = ld({"@context": {"@vocab": "http://schema.org/"}, "@type": "schema:Product", "name": "Rope"})
    assert found.known and found.types == ("Product",)


def test_more_things_than_anybody_needs_are_left_out() -> None:
    assert len(ld([{**SCHEMA, "@type": "Thing", "name": str(n)} for n in range(THINGS_MAX + 50)])) == THINGS_MAX


JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.text(max_size=8),
    lambda inner: (
        st.lists(inner, max_size=3)
        | st.dictionaries(
            st.sampled_from(["@type", "@id", "@graph", "@value", "@list", "@context", "name", "offers"]), inner, max_size=4
        )
    ),
    max_leaves=20,
)


@given(JSON)
def test_no_json_breaks_the_reading(value: Any) -> None:
    found = ld(value)
    for number, thing in enumerate(found):
        assert thing.part_of < len(found) and thing.part_of != number
        assert all(isinstance(v, str) or 0 <= v < len(found) for values in thing.values.values() for v in values)


def test_what_a_thing_lacks_and_what_it_is_called() -> None:
    (found,) = ld({**SCHEMA, "@type": "Product", "name": "Rope", "sku": ""})
    assert called(found) == "Product “Rope”"
    assert lacking(found, "name", "sku", "offers|review") == "sku, offers or review"
