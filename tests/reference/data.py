"""How the site is broken for the checks of structured data."""

from __future__ import annotations

import json
from typing import Any

from tests.reference.breaking import ABOUT, HOME, KNOTS, LAID, Break, b, into_head, swap
from tests.reference.site import ADDRESS, ORIGIN

PRODUCT = '"@type": "Product", "name": "Laid rope of three strands"'


def block(thing: dict[str, Any]) -> str:
    return f'<script type="application/ld+json">{json.dumps({"@context": "https://schema.org", **thing})}</script>'


def more(thing: dict[str, Any]) -> Any:
    """A further thing on the page about the yard."""
    return into_head(ABOUT, block(thing))


EVENT = {"@type": "Event", "name": "Open yard", "startDate": "2027-05-01"}

TABLE: dict[str, Break] = {
    "data-none": b(swap("/privacy", '<script type="application/ld+json">', '<script type="text/plain">'), also=""),
    "data-json-invalid": b(into_head(ABOUT, '<script type="application/ld+json">{"@type": "Event",}</script>')),
    "data-type-missing": b(more({"name": "Open yard"})),
    "data-type-unknown": b(more({"@type": "Regatta", "name": "Open yard"})),
    "data-property-unknown": b(more({**EVENT, "location": "Pier 4", "colour": "blue"})),
    "data-value": b(more({**EVENT, "location": "Pier 4", "startDate": "1 May 2027"})),
    "data-required-product": b(more({"@type": "Product", "name": "About the yard and its people"})),
    "data-required-article": b(more({"@type": "Article", "author": "Rigging desk", "datePublished": "2026-05-04"})),
    "data-required-event": b(more(EVENT)),
    "data-required-recipe": b(more({"@type": "Recipe", "name": "Ship's biscuit"})),
    "data-required-job": b(more({"@type": "JobPosting", "title": "Rigger"})),
    "data-required-video": b(more({"@type": "VideoObject", "name": "Knots"})),
    "data-required-breadcrumb": b(swap(LAID, '{"@type": "ListItem", "position": 1, ', '{"@type": "ListItem", ')),
    "data-required-faq": b(more({"@type": "FAQPage", "mainEntity": [{"@type": "Question", "name": "Why?"}]})),
    "data-required-review": b(more({"@type": "Review", "author": "A buyer", "itemReviewed": {"@type": "Thing", "name": "Rope"}})),
    "data-required-business": b(more({"@type": "Store", "name": "The yard", "address": ADDRESS})),
    "data-org-missing": b(
        swap(HOME, '{"@type": "Organization", "name": "Tidal Rope"', '{"@type": "Person", "name": "Tidal Rope"'),
        also="data-property-unknown",
    ),
    "data-org-address": b(
        swap(
            HOME,
            '"address": {"@type": "PostalAddress", "streetAddress": "Harbour Street 4", "addressLocality": "Milltown", "addressCountry": "GB"}, ',
            "",
        )
    ),
    "data-article-missing": b(swap(KNOTS, '"@type": "Article"', '"@type": "CreativeWork"')),
    "data-breadcrumb-missing": b(swap("/guides/care", '"@type": "BreadcrumbList"', '"@type": "ItemList"')),
    "data-unlike-page": b(swap(LAID, '"price": "4.20"', '"price": "4.80"')),
    "data-image-broken": b(swap(LAID, f'"image": "{ORIGIN}/img/ropes/laid.webp"', f'"image": "{ORIGIN}/img/gone.webp"')),
    "data-twice": b(
        into_head(
            LAID,
            block(
                {
                    "@type": "Product",
                    "name": "Laid rope of three strands",
                    "sku": "7",
                    "offers": {"@type": "Offer", "price": "4.2", "priceCurrency": "GBP"},
                }
            ),
        )
    ),
}
