"""The title element that counts, the first, holds only white space."""

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
from hodcarrier.core.catalogue.mending import content
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.TITLE,
    needs=(HeadFacts,),
    summary="Title empty",
    terms=(
        "title tag",
        "page title",
    ),
    why="An empty title is as bad as none: search engines make one up.",
    fix="Write a title for this page. If a template generates it, find the field that is empty here.",
    mend=content("What this page offers"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.2",
    messages={"empty": "The title element is empty"},
    cause="template",
    examples=(
        fails("empty")(page(doc(head="<title>  </title>"))),
        fails("empty")(page(doc(head="<title></title><title>Rope</title>"))),
        passes(page(doc(head="<title>Rope</title>"))),
        passes(page(doc(head=""))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    titles = page.head.titles
    if titles and not titles[0].text:
        yield Fail("empty", "", {"snippet": "<title></title>", "selector": "title"})
