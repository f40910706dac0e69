"""What kind of page a page is, as far as its facts say so for certain: pages of some kinds are short, and rightly so.

A path names a kind only with a whole segment (``/vintage-ropes`` and ``/heritage`` hold the letters of other words), and is believed only
when the title or a heading says so too.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from enum import StrEnum

from hodcarrier.core.web.urls import split


class PageKind(StrEnum):
    """A kind of page whose purpose needs few words; empty: any other."""

    CONTACT = "contact"
    LEGAL = "legal"
    ACCOUNT = "account"
    CART = "cart"
    SEARCH = "search"
    LISTING = "listing"
    OTHER = ""


# As people write them in paths and titles, in the languages of this catalogue's word lists.
_PHRASES: dict[PageKind, tuple[str, ...]] = {
    PageKind.CONTACT: ("contact", "contact us", "contacts", "kontakt", "contacto", "contatti", "contactez nous", "cysylltu"),
    PageKind.LEGAL: (
        "imprint",
        "impressum",
        "legal",
        "legal notice",
        "privacy",
        "privacy policy",
        "terms",
        "terms and conditions",
        "terms of service",
        "terms of use",
        "cookies",
        "cookie policy",
        "datenschutz",
        "agb",
        "mentions legales",
        "aviso legal",
        "preifatrwydd",
    ),
    PageKind.ACCOUNT: ("login", "log in", "sign in", "signin", "register", "account", "my account", "anmelden", "connexion"),
    PageKind.CART: ("cart", "basket", "shopping cart", "checkout", "warenkorb", "panier", "carrito", "carrello", "basged"),
    PageKind.SEARCH: ("search", "search results", "suche", "recherche", "buscar", "ricerca", "chwilio"),
}
_KIND_OF = {phrase: kind for kind, phrases in _PHRASES.items() for phrase in phrases}
_EXTENSION = re.compile(r"\.(?:html?|php|aspx?|jsp)$", re.I)
_WORDS = re.compile(r"[^\W_]+")
# A list has many links, and hardly any text beside them.
LISTED_MIN = 8
WORDS_PER_LINK_MAX = 12


def kind_of(url: str, title: str, headings: Sequence[str], links: int, words: int, has_password: bool) -> PageKind:
    """The kind of a page. ``links`` are those of its main content, ``words`` its words, ``headings`` its main headings."""
    named = [
        _KIND_OF[phrase] for segment in split(url).path.split("/") if (phrase := _phrase(_EXTENSION.sub("", segment))) in _KIND_OF
    ]
    said = [_kind_said(text) for text in (title, *headings)]
    for kind in named:
        if kind in said or (kind == PageKind.ACCOUNT and has_password):
            return kind
    if any(_phrase(heading) in _KIND_OF for heading in headings) and said[0] and said[0] in said[1:]:
        return said[0]
    if links >= LISTED_MIN and words <= links * WORDS_PER_LINK_MAX:
        return PageKind.LISTING
    return PageKind.OTHER


def _phrase(text: str) -> str:
    return " ".join(_WORDS.findall(text.lower()))


def _kind_said(text: str) -> PageKind:
    """The kind that a title or heading names in whole words; the longest phrase decides."""
    said = f" {_phrase(text)} "
    found = [phrase for phrase in _KIND_OF if f" {phrase} " in said]
    return _KIND_OF[max(found, key=len)] if found else PageKind.OTHER
