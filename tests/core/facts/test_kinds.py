"""What kind of page a page is: whole words, and never by the path alone."""

from __future__ import annotations

import pytest

from hodcarrier.core.facts.kinds import PageKind, kind_of

SHOP = "https://shop.example"


@pytest.mark.parametrize(
    ("path", "title", "heading", "kind"),
    [
        ("/contact", "Contact · Rope shop", "Write to us", "contact"),
        ("/en/contact-us.html", "Contact us", "", "contact"),
        ("/contact", "Rope for small boats", "Rope", ""),
        ("/x", "Contact us | Rope shop", "Contact us", "contact"),
        ("/x", "Contact lenses for divers", "Contact lenses", ""),
        ("/privacy-policy/", "Privacy policy", "", "legal"),
        ("/terms", "Our terms", "Terms of use", "legal"),
        ("/impressum", "Impressum", "Impressum", "legal"),
        ("/vintage-ropes", "Vintage ropes", "Vintage ropes", ""),
        ("/heritage", "Our heritage", "Heritage", ""),
        ("/cartoons", "Cartoons", "Cartoons", ""),
        ("/ropes/", "Ropes", "Ropes", ""),
        ("/research", "Research", "Research", ""),
        ("/cart", "Your cart", "", "cart"),
        ("/warenkorb", "Warenkorb", "", "cart"),
        ("/search", "Search results for rope", "", "search"),
        ("/account", "Welcome", "Hello", ""),
    ],
)
def test_kinds(path: str, title: str, heading: str, kind: str) -> None:
    assert kind_of(SHOP + path, title, [heading] if heading else [], 3, 20, False) == kind


def test_a_password_field_makes_a_login_page_of_one_with_such_a_path() -> None:
    assert kind_of(SHOP + "/my-account", "Welcome", [], 3, 20, True) == PageKind.ACCOUNT
    assert kind_of(SHOP + "/welcome", "Welcome", [], 3, 20, True) == PageKind.OTHER


@pytest.mark.parametrize(("links", "words", "kind"), [(8, 96, "listing"), (8, 97, ""), (7, 10, ""), (300, 900, "listing")])
def test_a_list_is_told_by_its_links(links: int, words: int, kind: str) -> None:
    assert kind_of(SHOP + "/ropes", "Ropes", ["Ropes"], links, words, False) == kind
