"""The only title stands outside the real head, where search engines may not read it; titles inside SVG do not count. A second one in the
body belongs to markup-title-in-body."""

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
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.TITLE,
    needs=(HeadFacts,),
    summary="Title outside the head",
    terms=(
        "title in body",
        "page title",
    ),
    why="The head ended before the title, often because of an element that does not belong there. Search engines may overlook a title in the body.",
    fix="Move the title to the top of the head, and move the element that ends the head early into the body.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.2 and 13.2.6.4.4",
    messages={"outside": "The title “{title}” stands outside the head"},
    revision=2,
    cause="template",
    examples=(
        fails("outside")(page(doc("<title>Rope for small boats</title>", ""))),
        fails("outside")(page(doc(head="<p>Rope</p><title>Rope for small boats</title>"))),
        passes(page(doc())),
        passes(page(doc("<svg><title>Icon</title></svg>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    outside = [title.text for title in page.head.titles if not title.in_head]
    if outside and not any(title.in_head for title in page.head.titles):
        yield Fail("outside", "", {"title": outside[0], "selector": "body title"})
