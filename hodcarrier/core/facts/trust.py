"""Facts of who stands behind a page: addresses, registrations, authors, dates."""

from __future__ import annotations

import re

import msgspec

from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.document import Document, attribute, is_inside
from hodcarrier.core.facts.references import clean
from hodcarrier.core.web.vocabulary import vocabulary

VERSION = 1
# What companies must say of their registration, in the languages of this catalogue's word lists. It stands in footers, and on pages that are
# named after it.
_REGISTRATION = re.compile(
    r"\bHR[AB] ?\d{2,}|\bVAT (?:registration )?(?:no|number|reg|id)\b[^<]{0,12}\d{3}|\bUSt-?Id[^<]{0,20}\d{6}|"
    r"\b[Cc]ompany (?:registration )?(?:no|number)\b[^<]{0,8}\d{4}|\b[Rr]egistered (?:in|office|charity)\b|\bSIRE[NT]\b[^<]{0,6}\d{3}|\bRCS \w+|"
    r"\b[Pp](?:artita|\.) ?IVA\b[^<]{0,6}\d{5}|\bKvK\b[^<]{0,10}\d{5}|\b[NC]IF\b[^<]{0,4}\w\d{5}|\bCHE-\d{3}|\bReg\. No\.? ?\d{3}"
)
_NAMED_AFTER = re.compile(r"imprint|impressum|legal|contact|kontakt|contatt|about|mentions|colofon|terms|agb|company", re.I)
_BYLINE = '[rel~="author"], [itemprop~="author"], [class~="author"], [class~="byline"]'
ARTICLE_WORDS_MIN = 150


class TrustFacts(msgspec.Struct, frozen=True, array_like=True):
    """What a page says of who stands behind it.

    ``postal``: where to find them (a postal address in the data, an ``<address>`` with a number, or details of a registration);
    ``article``: it is an article, by its data, its preview, or as the one ``<article>`` of a page with a date; ``author`` and ``dated``: it
    names who wrote it, and when.
    """

    postal: bool = False
    article: bool = False
    author: bool = False
    dated: bool = False
    postal_shown: str = ""

    @classmethod
    def collect(cls, document: Document, data: DataFacts) -> TrustFacts:
        """From a parsed document whose tree is still whole."""
        shown = _address(document)
        social = dict(document.social)
        known = vocabulary()
        articles = [thing for thing in data.things if known.is_a(thing.types, "Article")]
        dated = any(thing.has("datePublished", "dateModified", "dateCreated") for thing in data.things)
        dated = (
            dated
            or "article:published_time" in document.text
            or any("datetime" in n.attributes for n in document.elements.get("time", ()))
        )
        pieces = document.elements.get("article", ())
        alone = len(pieces) == 1 and dated and len(pieces[0].text_lexbor().split()) >= ARTICLE_WORDS_MIN
        article = bool(articles) or social.get("og:type", "").lower() == "article" or alone
        return cls(
            postal=bool(shown) or any("PostalAddress" in thing.types for thing in data.things) or _registered(document),
            article=article,
            author=article and (any(thing.has("author", "creator") for thing in data.things) or _has_byline(document)),
            dated=dated,
            postal_shown=shown,
        )


def _address(document: Document) -> str:
    """The first ``<address>`` that a letter could be sent to: it has a number, and is more than a telephone number. One in an article is its
    writer's, not the owner's (WHATWG HTML, 4.3.10)."""
    for node in document.elements.get("address", ()):
        text = clean(node.text(deep=True, separator=" "))
        if any(c.isdigit() for c in text) and sum(c.isalpha() for c in text) >= 12 and not is_inside(node, "article"):
            return text[:200]
    return ""


def _registered(document: Document) -> bool:
    if _NAMED_AFTER.search(document.url):
        return _REGISTRATION.search(document.text) is not None
    return any(_REGISTRATION.search(node.text_lexbor()) for node in document.elements.get("footer", ()))


def _has_byline(document: Document) -> bool:
    named = any(
        attribute(n, "name").strip().lower() == "author" and attribute(n, "content").strip()
        for n in document.elements.get("meta", ())
    )
    return named or "article:author" in document.text or document.tree.css_first(_BYLINE) is not None
