"""More than the limit of the title's letters are capitals. Scripts without capitals have none; titles of few letters are left out, as abbreviations are."""

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
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.head import HeadFacts

LETTERS_MIN = 12

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.TITLE,
    about="indexable",
    needs=(HeadFacts,),
    summary="Title in capitals",
    terms=(
        "all caps",
        "uppercase title",
    ),
    why="A title in capitals is hard to read among others and looks like advertising. Search engines may rewrite it.",
    fix="Write the title as a sentence, with capitals only where names and beginnings need them.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"shouting": "{percent} % of the letters of “{title}” are capitals"},
    cause="alone",
    cause_line="“{title}”",
    limits={"capitals_percent_max": Limit(60, "%", "largest part of the letters that may be capitals")},
    examples=(
        fails("shouting")(page(doc(head="<title>ROPE FOR SMALL BOATS</title>"))),
        fails("shouting")(page(doc(head="<title>" + "A" * 61 + "b" * 39 + "</title>"))),
        passes(page(doc(head="<title>" + "A" * 60 + "b" * 40 + "</title>"))),
        passes(page(doc(head="<title>NASA FAQ</title>"))),
        passes(page(doc(head="<title>小舟のための綱と錨</title>"))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    letters = [c for c in page.head.title if c.isupper() or c.islower()]
    capitals = sum(c.isupper() for c in letters)
    if len(letters) >= LETTERS_MIN and 100 * capitals > limits["capitals_percent_max"] * len(letters):
        yield Fail(
            "shouting", "", {"title": page.head.title, "percent": round(100 * capitals / len(letters)), "selector": "title"}
        )
