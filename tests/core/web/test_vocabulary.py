"""The vocabulary of schema.org as it ships."""

from __future__ import annotations

from hodcarrier.core.web.vocabulary import vocabulary


def test_a_type_is_all_that_it_is_a_kind_of() -> None:
    known = vocabulary()
    assert known.kinds("Restaurant") == {"Restaurant", "FoodEstablishment", "LocalBusiness", "Organization", "Place", "Thing"}
    assert known.is_a(("Rope", "BlogPosting"), "Article") and not known.is_a(("Rope",), "Thing")
    assert known.kinds("Rope") == frozenset()


def test_every_name_that_is_used_is_there() -> None:
    known = vocabulary()
    assert all(parent in known.types for parents in known.types.values() for parent in parents)
    assert all(owner in known.types for about in known.properties.values() for owner in about.of)
    assert {"Thing", "Product", "3DModel"} <= set(known.types) and "StupidType" not in known.types
    assert known.properties["price"].of >= {"Offer"} and "InStock" in known.members["ItemAvailability"]
    assert known.properties["reviews"].old and not known.properties["review"].old
    assert known.source.startswith("schema-dts ")
