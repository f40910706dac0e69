"""Fewer words in the main text of an indexable page than the limit.

Pages of a contact, legal, login, cart, search or listing kind (:mod:`hodcarrier.core.facts.kinds`) are judged by a lower limit and say so.
"""

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
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.text import TextFacts

LIST = "<h1>Ropes</h1><ul>" + "".join(f"<li><a href=/r{n}>Rope number {n}</a>" for n in range(10)) + "</ul>"
AT_ROPE = {"start": ["https://shop.example/rope"]}
AT_CONTACT = {"start": ["https://shop.example/contact"]}

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    about="indexable",
    needs=(TextFacts, PageFacts),
    revision=2,
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
        fails("utility")(page(doc("<h1>Contact</h1><p>" + "line " * 28), "/contact"), plan=AT_CONTACT),
        passes(page(doc("<h1>Contact</h1><p>" + "line " * 29), "/contact"), plan=AT_CONTACT),
        fails("thin")(
            page(doc("<h1>Vintage ropes</h1><p>" + "line " * 28), "/vintage-ropes/"),
            plan={"start": ["https://shop.example/vintage-ropes/"]},
        ),
        fails("thin")(page(doc("<h1>Rope</h1><p>" + "line " * 28), "/contact"), plan=AT_CONTACT),
        passes(page(doc(LIST), "/rope"), plan=AT_ROPE),
        passes(page(doc("<p>x", "<meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    words = page.text.words
    if words >= max(limits["words_min"], limits["words_min_utility"]):
        return
    utility = page.kind != ""
    name = "words_min_utility" if utility else "words_min"
    if words < limits[name]:
        yield Fail("utility" if utility else "thin", "", {"words": words, "limit": int(limits[name])})
