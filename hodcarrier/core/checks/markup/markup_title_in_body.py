"""A second title element stands in the body of a page that has one in its head; one in SVG does not count. A page whose only title stands in
the body belongs to title-ignored."""

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

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.TITLE,
    needs=(HeadFacts,),
    summary="Second title in the body",
    terms=("title element", "duplicate title"),
    why="Browsers take the first title and ignore this one. It is usually left over from an included file, and tools that read the page differently may show it.",
    fix="Remove the title element from the body or from the file that is included there.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.2",
    messages={"second": "The body holds another title: “{title}”"},
    cause="template",
    examples=(
        fails("second")(page(doc("<title>Rope, again</title>"))),
        passes(page(doc("<title>Rope for small boats</title>", ""))),
        passes(page(doc("<svg><title>Icon</title></svg>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    inside = [title for title in page.head.titles if title.in_head]
    outside = [title.text for title in page.head.titles if not title.in_head]
    if inside and outside:
        yield Fail("second", "", {"title": outside[0], "selector": "body title"})
