"""The path of the URL has underscores between words."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.web.urls import split

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    summary="Underscores in the URL",
    terms=(
        "hyphen",
        "URL structure",
    ),
    why="Search engines read words joined by underscores as one word, so the path helps less than it could.",
    fix="Separate words with hyphens in new URLs. For old ones weigh the gain against a redirect; it is seldom worth changing them alone.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"underscore": "The path has underscores: {path}"},
    cause="template",
    examples=(
        fails("underscore")(page(doc(), "/small_boats"), plan={"start": ["https://shop.example/small_boats"]}),
        passes(page(doc(), "/small-boats"), plan={"start": ["https://shop.example/small-boats"]}),
        passes(page(doc(), "/?a_b=1"), plan={"start": ["https://shop.example/?a_b=1"]}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    path = split(page.url).path
    if "_" in path:
        yield Fail("underscore", "", {"path": path})
