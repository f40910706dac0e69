"""Links to the pages by which a site says who stands behind it, told by their text or the last part of their address.

The word lists cover some languages only: of a site in another one nothing can be said.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from enum import StrEnum

from hodcarrier.core.facts.values import Link
from hodcarrier.core.web.urls import split


class Signpost(StrEnum):
    """What a link promises."""

    CONTACT = "contact"
    ABOUT = "about"
    PRIVACY = "privacy"
    IMPRINT = "imprint"


LANGUAGES = frozenset({"en", "de", "fr", "es", "it", "nl", "cy"})
_WORDS: dict[Signpost, str] = {
    Signpost.CONTACT: r"contact\w*|kontakt\w*|contatt\w*|contacto|cysylltu|get in touch|write to us|customer service|kundenservice|find us|anfahrt",
    Signpost.ABOUT: r"about|who we are|our (?:story|team|company|history)|company|team|ueber uns|über uns|wir über uns|unternehmen|qui sommes.nous|"
    r"à propos|a propos|quienes somos|quiénes somos|sobre nosotros|nosotros|chi siamo|azienda|over ons|wie zijn wij|amdanom ni|amdanom",
    Signpost.PRIVACY: r"privacy|data protection|datenschutz\w*|confidentialit[ée]|vie privée|données personnelles|privacidad|protección de datos|"
    r"riservatezza|privacybeleid|preifatrwydd",
    Signpost.IMPRINT: r"imprint|impressum|legal notice|legal information|legal|company details|mentions l[ée]gales|aviso legal|note legali|colofon|"
    r"hysbysiad cyfreithiol|terms(?: and conditions)?|agb",
}
_PATTERNS = {post: re.compile(rf"(?<!\w)(?:{words})(?!\w)", re.I) for post, words in _WORDS.items()}
_EXTENSION = re.compile(r"\.\w{2,5}$")
TEXT_MAX = 60


def speaks(lang: str) -> bool:
    """Whether there are word lists for a language, by its code."""
    return lang.lower().replace("_", "-").partition("-")[0] in LANGUAGES


def points_to(post: Signpost, link: Link) -> bool:
    """Whether a link leads to such a page. Texts that are longer than a link's name are left aside."""
    segment = next((part for part in reversed(split(link.url).path.split("/")) if part), "")
    said = _EXTENSION.sub("", segment).replace("-", " ").replace("_", " ")
    pattern = _PATTERNS[post]
    return bool((len(link.text) <= TEXT_MAX and pattern.search(link.text)) or pattern.search(said))


def has_signpost(post: Signpost, links: Iterable[Link]) -> bool:
    """Whether one of the links leads to such a page."""
    return any(points_to(post, link) for link in links)
