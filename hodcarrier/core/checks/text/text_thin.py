"""Fewer words in the main text of an indexable page than the limit.

Pages of a contact, legal, login, cart or listing kind, told by their path, are judged by a lower limit and say so. The
start page of a folder (a path that ends in a slash) counts as a listing.
"""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.text import TextFacts
from hodcarrier.core.web.urls import split

UTILITY = re.compile(
    r"(contact|impress?um|legal|privacy|terms|cookies|login|sign-in|account|cart|basket|checkout|search|tag|category|/$)", re.I
)

AT_ROPE = {"start": ["https://shop.example/rope"]}
AT_CONTACT = {"start": ["https://shop.example/contact"]}

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(TextFacts, HeadFacts),
    summary="Thin content",
    terms=(
        "word count",
        "low content",
    ),
    why="Pages with very little text seldom answer what people search for and seldom rank.",
    fix="Cover what visitors ask about this subject, or merge the page with another one. If it is short on purpose, waive the finding.",
    effort=Effort.LARGE,
    standard="Good practice",
    messages={
        "thin": "{words:word} in the main content; at least {limit} are recommended",
        "utility": "{words:word}; at least {limit} are recommended for a page of this kind",
    },
    cause="alone",
    cause_line="{words:word}",
    limits={
        "words_min": Limit(200, "words", "fewest words of main text that are in order"),
        "words_min_utility": Limit(30, "words", "the same for contact, legal, login, cart and listing pages"),
    },
    examples=(
        fails("thin")(page(doc("<h1>Rope</h1><p>" + "line " * 198), "/rope"), plan=AT_ROPE),
        passes(page(doc("<h1>Rope</h1><p>" + "line " * 199), "/rope"), plan=AT_ROPE),
        fails("utility")(page(doc("<h1>Write</h1><p>" + "line " * 28), "/contact"), plan=AT_CONTACT),
        passes(page(doc("<h1>Write</h1><p>" + "line " * 29), "/contact"), plan=AT_CONTACT),
        passes(page(doc("<p>x", "<meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    utility = bool(UTILITY.search(split(page.url).path))
    name = "words_min_utility" if utility else "words_min"
    words = page.text.words
    if page.indexable and words < limits[name]:
        yield Fail("utility" if utility else "thin", "", {"words": words, "limit": int(limits[name])})
