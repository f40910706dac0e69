"""An indexable page has no link to another page of the site that may be followed."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    about="indexable",
    needs=(LinkFacts,),
    summary="Pages without outgoing links",
    terms=(
        "dead end",
        "internal linking",
    ),
    why="Visitors can only go back, and search engines go no further from here.",
    fix="Add the navigation, and links to pages on the subject.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"dead": "No link to another page of the site"},
    cause="template",
    examples=(
        fails("dead")(page(doc("<p>Rope"))),
        fails("dead")(page(doc("<a href=/>here</a><a href=https://other.example/>o</a>"))),
        passes(page(doc("<a href=/a>a</a>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not any(target.internal and link.url != page.url for link, target in page.outlinks):
        yield Fail("dead")
