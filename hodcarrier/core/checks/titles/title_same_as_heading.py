"""The title and the first H1 are the same text, letter by letter but for case and spacing."""

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
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.TITLE,
    about="indexable",
    needs=(
        HeadFacts,
        TextFacts,
    ),
    summary="Title and H1 identical",
    terms=(
        "title tag",
        "heading",
        "H1",
    ),
    why="Title and heading may agree, but two different texts let the page answer two ways of asking, and the title can name the brand.",
    fix="Keep the heading, and let the title add what a searcher needs: the kind of thing, the place, the name of the site.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"same": "Title and H1 are both “{title}”"},
    cause="template",
    examples=(
        fails("same")(page(doc("<h1>Rope for small boats</h1>"))),
        fails("same")(page(doc("<h1>ROPE for  small boats</h1>"))),
        passes(page(doc("<h1>Rope</h1>"))),
        passes(page(doc("<p>Rope for small boats"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    title, heading = (" ".join(text.lower().split()) for text in (page.head.title, page.text.h1))
    if title and title == heading:
        yield Fail("same", "", {"title": page.head.title, "selector": "title"})
