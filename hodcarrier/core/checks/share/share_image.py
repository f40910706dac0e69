"""The page names no picture for its preview (og:image)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.preview import PreviewFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(PreviewFacts,),
    summary="Preview image missing",
    terms=(
        "og:image",
        "Open Graph",
        "social media",
    ),
    why="Shared links without an image take less room and are clicked less. Some services choose any image of the page.",
    fix="Name an image of at least 1,200 × 630 pixels in og:image.",
    mend=inside('<meta property="og:image" content="{origin}/a-picture-of-1200-by-630.jpg">'),
    effort=Effort.SMALL,
    standard="The Open Graph protocol",
    messages={"missing": "No og:image"},
    cause="template",
    examples=(
        fails("missing")(page(doc())),
        passes(page(doc(head='<meta property=og:image content="https://shop.example/i.png">'))),
        fails("missing")(page(doc(head='<meta property=og:image content="">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not any(name == "og:image" and value for name, value in page.preview.social):
        yield Fail("missing", "", {"selector": "head"})
