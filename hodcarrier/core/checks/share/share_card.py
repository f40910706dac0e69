"""The page has neither data for previews (og:title) nor a card of its own kind (twitter:card)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.preview import PreviewFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(PreviewFacts,),
    summary="No data for previews",
    terms=(
        "Open Graph",
        "card",
        "social media",
    ),
    why="Services that show a preview of a shared link find nothing meant for it, and show the bare address or any sentence.",
    fix="Add og:title, og:description, og:image and og:url, filled by the template.",
    mend=inside('<meta name="twitter:card" content="summary_large_image">'),
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"none": "No Open Graph data and no card"},
    cause="template",
    examples=(
        fails("none")(page(doc())),
        passes(page(doc(head='<meta property=og:title content="Rope">'))),
        passes(page(doc(head='<meta name=twitter:card content="summary">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not any(name in ("og:title", "twitter:card") and value for name, value in page.preview.social):
        yield Fail("none", "", {"selector": "head"})
