"""The page has Open Graph data without the kind of thing it is (og:type)."""

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
from hodcarrier.core.catalogue.mending import line
from hodcarrier.core.facts.preview import PreviewFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.PREVIEW,
    about="indexable",
    needs=(PreviewFacts,),
    summary="og:type missing",
    terms=(
        "og:type",
        "Open Graph",
    ),
    why="The protocol requires a type. Without it services take the page for a website and leave out dates, authors or prices.",
    fix="Add og:type: website for most pages, article for articles, product where services know it.",
    mend=line('<meta property="og:type" content="website">'),
    effort=Effort.SMALL,
    standard="The Open Graph protocol",
    messages={"missing": "Open Graph data without og:type"},
    cause="template",
    examples=(
        fails("missing")(page(doc(head='<meta property=og:title content="Rope">'))),
        passes(page(doc(head='<meta property=og:title content="Rope"><meta property=og:type content="website">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    names = {name for name, value in page.preview.social if value}
    if "og:type" not in names and any(name.startswith("og:") for name in names):
        yield Fail("missing", "", {"selector": 'meta[property^="og:"]'})
