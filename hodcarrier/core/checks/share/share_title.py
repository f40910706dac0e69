"""An indexable page without og:title."""

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
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.preview import PreviewFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(PreviewFacts,),
    summary="Open Graph title missing",
    terms=(
        "og:title",
        "social preview",
        "social sharing",
    ),
    why="When somebody shares the page, the preview shows whatever title the platform finds.",
    fix="Let the template output og:title next to the title element.",
    mend=inside('<meta property="og:title" content="{title}">'),
    effort=Effort.SMALL,
    standard="Open Graph protocol",
    messages={"missing": "No og:title"},
    cause="template",
    examples=(
        fails("missing")(page(doc())),
        passes(page(doc(head='<meta property="og:title" content="Rope">'))),
        passes(page(doc(head="<meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    names = {name for name, value in page.preview.social if value}
    if "og:title" not in names:
        yield Fail("missing", "", {"selector": "head"})
