"""The paragraphs of a page read harder than the limit by LIX: words a sentence, and the share of words of more than six letters in percent.

LIX needs no syllables and was compared across these languages (Björnsson, 1983). Pages with fewer than 200 words in paragraphs pass, and those
whose language is not certain."""

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

# Those of the comparison that are written with blanks and Latin letters.
LANGUAGES = frozenset({"da", "de", "en", "es", "fr", "it", "nb", "no", "nn", "pt", "sv"})
WORDS_MIN = 200
HARD = (
    "<p>" + "Comprehensive considerations regarding sustainable manufacturing processes of particularly durable ropes " * 20 + "."
)
EASY = "<p>" + "The rope is strong and light, and you can wash it in the sea. It will dry in the sun. " * 14
# Sentences of 15 words, 15 of every 30 of them long: 15 + 50.
EXACT = (
    "<p>"
    + (
        "Sailors without stronger anchors usually prefer heavier twisted cordage when the open weather is bad. "
        "The rope that we twist is stronger than any and survives several difficult northern winters. "
    )
    * 7
)


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(TextFacts,),
    summary="Hard to read",
    terms=("readability", "LIX", "plain language"),
    why="Long sentences and long words cost readers. Texts like this are left unread by people in a hurry and by those who read in a second language.",
    fix="Halve the longest sentences, and use the shorter word where there is one. A text for specialists may stay as it is: waive it.",
    effort=Effort.MEDIUM,
    standard="LIX; Björnsson, Readability of Newspapers in 11 Languages (1983)",
    messages={"hard": "LIX is {lix}; up to {limit} reads well"},
    cause="alone",
    cause_line="LIX {lix}",
    limits={"lix_max": Limit(65, "LIX", "hardest text that is still in order")},
    examples=(
        fails("hard")(page(doc(HARD))),
        passes(page(doc(HARD)), plan={"thresholds": {"lix_max": 400}}),
        passes(page(doc(EASY))),
        passes(page(doc("<p>Considerably complicated descriptions."))),
        passes(page(doc(EXACT))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    sentences, words, long = page.text.effort
    if page.text.language not in LANGUAGES or words < WORDS_MIN or not sentences:
        return
    lix = words / sentences + 100 * long / words
    if lix > limits["lix_max"]:
        yield Fail(
            "hard", "", {"lix": round(lix, 1), "limit": round(limits["lix_max"], 1), "words": words, "sentences": sentences}
        )
