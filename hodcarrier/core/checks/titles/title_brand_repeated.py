"""A phrase of two words or more, or the part that follows a separator, stands twice in the title."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
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

PARTS = re.compile(r"\s+[|·•–—-]\s+|\s*[|:»]\s*")
PHRASE = re.compile(r"\b(\w{4,}\s+\w{4,})\b.*\b\1\b", re.I)


def repeated(title: str) -> str:
    """A part between separators, or two words in a row, that stand twice; empty when there are none."""
    parts = [part.strip() for part in PARTS.split(title) if part.strip()]
    lower = [part.lower() for part in parts]
    for i, part in enumerate(lower):
        if part in lower[:i] and len(part) > 3:
            return parts[i]
    found = PHRASE.search(title)
    return found.group(1) if found else ""


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.TITLE,
    about="indexable",
    needs=(HeadFacts,),
    summary="Phrase repeated in the title",
    terms=(
        "title tag",
        "brand name twice",
        "keyword stuffing",
    ),
    why="Search engines show about 60 characters of a title. What stands there twice takes the place of something people could use, and looks careless.",
    fix="Name the brand or the phrase once. It often comes twice because the template adds a name that editors have written already.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"twice": "“{phrase}” stands twice in “{title}”"},
    cause="template",
    examples=(
        fails("twice")(page(doc(head="<title>Rope | Tide Shop | Tide Shop</title>"))),
        fails("twice")(page(doc(head="<title>Small boat rope, small boat rope prices</title>"))),
        fails("twice")(page(doc(head="<title>Ropes · Knotwell · Knotwell</title>"))),
        passes(page(doc(head="<title>Rope by rope: a guide | Tide Shop</title>"))),
        passes(page(doc(head="<title>The old and the new</title>"))),
        passes(page(doc(head="<title>email.message: Representing an email message</title>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if phrase := repeated(page.head.title):
        yield Fail("twice", "", {"phrase": phrase, "title": page.head.title, "selector": "title"})
