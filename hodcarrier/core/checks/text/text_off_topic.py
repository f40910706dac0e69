"""None of the terms that title and H1 share is used in the main text, H1 apart.

Terms are words of four letters or more; endings are left aside. Pages of up to 100 words in paragraphs pass: they are
thin, or lists; so do pages for contact, legal matters and the like, whose titles say what they are for."""

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
from hodcarrier.core.facts.kinds import PageKind
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(TextFacts, PageFacts),
    summary="Text does not match its title",
    terms=("relevance", "keywords", "topic"),
    why="Title and heading promise a subject that the text never names. Visitors doubt that they are in the right place, and search engines doubt what the page is about.",
    fix="Name the subject in the first sentences, or give the page the title that its text deserves.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"off": "The text uses none of {terms}"},
    cause="alone",
    cause_line="none of {terms}",
    limits={"silent_words_max": Limit(100, "words", "words in paragraphs up to which the check says nothing")},
    examples=(
        fails("off")(page(doc("<h1>Anchors</h1><p>" + "line " * 101, "<title>Anchors for boats</title>"))),
        passes(page(doc("<h1>Anchors</h1><p>An anchor. " + "line " * 101, "<title>Anchors for boats</title>"))),
        passes(page(doc("<h1>Anchors</h1><p>" + "line " * 100, "<title>Anchors for boats</title>"))),
        passes(page(doc("<h1>Anchors</h1><p>" + "line " * 101, "<title>Rope</title>"))),
        passes(
            page(doc("<h1>Anchors</h1><p>" + "line " * 101, "<title>Anchors for boats</title>")),
            plan={"thresholds": {"silent_words_max": 101}},
        ),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    text = page.text
    if (
        page.kind == PageKind.OTHER
        and text.effort[1] > limits["silent_words_max"]
        and text.topic
        and len(text.topic_missing) == len(text.topic)
    ):
        yield Fail("off", "", {"terms": ", ".join(f"“{term}”" for term in text.topic), "selector": "h1"})
