"""A paragraph has more words than the limit."""

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
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(TextFacts,),
    summary="Long paragraphs",
    terms=("readability", "wall of text"),
    why="A block of this size fills a phone's screen more than once. Many leave before they have read it.",
    fix="Break it up where the thought changes, and give longer parts a heading.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"long": "The paragraph that begins “{start}” has {words:word}; up to {limit} are fine"},
    cause="alone",
    cause_line="{words:word}",
    limits={"paragraph_words_max": Limit(250, "words", "longest paragraph that is still in order; 100 or more")},
    examples=(
        fails("long")(page(doc("<p>" + "rope " * 251))),
        passes(page(doc("<p>" + "rope " * 250))),
        passes(page(doc("<p>" + "rope " * 251)), plan={"thresholds": {"paragraph_words_max": 251}}),
        passes(page(doc("<p>" + "rope " * 200 + "<p>" + "rope " * 200))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for words, start in page.text.long_paragraphs:
        if words > limits["paragraph_words_max"]:
            data = {"start": start[:60], "words": words, "limit": int(limits["paragraph_words_max"]), "selector": "p"}
            yield Fail("long", start, data)
