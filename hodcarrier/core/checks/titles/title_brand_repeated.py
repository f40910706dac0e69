"""A phrase of two words or more, or the part that follows a separator, stands twice in the title."""

import re
from collections.abc import Iterator
from itertools import pairwise

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.head import HeadFacts

PARTS = re.compile(r"\s+[|·•–—-]\s+|\s*[|:»]\s*")
WORDS = re.compile(r"\w+")


def repeated(title: str) -> str:
    """A part between separators, or two words in a row, that stand twice; empty when there are none."""
    parts = [part.strip() for part in PARTS.split(title) if part.strip()]
    lower = [part.lower() for part in parts]
    for i, part in enumerate(lower):
        if part in lower[:i] and len(part) > 3:
            return parts[i]
    words = WORDS.findall(title)
    pairs = [(one.lower(), two.lower()) for one, two in pairwise(words)]
    for i, pair in enumerate(pairs):
        if pair in pairs[: max(0, i - 1)] and min(map(len, pair)) > 3:
            return " ".join(words[i : i + 2])
    return ""


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
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
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if phrase := repeated(page.head.title):
        yield Fail("twice", "", {"phrase": phrase, "title": page.head.title, "selector": "title"})
