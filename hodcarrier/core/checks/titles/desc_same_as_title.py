"""The meta description repeats the title and says nothing else."""

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
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.DESCRIPTION,
    about="indexable",
    needs=(HeadFacts,),
    summary="Meta description repeats the title",
    terms=(
        "meta description",
        "duplicate",
    ),
    why="Search results then show the same text twice, and people learn nothing more about the page.",
    fix="Write a sentence that goes on where the title ends: what is on the page, for whom, at what price.",
    mend=attribute("content", "What this page offers, in one or two sentences"),
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"same": "The description is the title: “{title}”"},
    cause="template",
    examples=(
        fails("same")(
            page(doc(head='<title>Rope for small boats</title><meta name=description content="Rope for small  Boats">'))
        ),
        passes(page(doc(head='<title>Rope</title><meta name=description content="Rope for small boats">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    title, text = (" ".join(text.lower().split()) for text in (page.head.title, page.head.description))
    if title and title == text:
        yield Fail("same", "", {"title": page.head.title, "selector": 'meta[name="description" i]'})
