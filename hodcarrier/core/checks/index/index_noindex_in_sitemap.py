"""noindex by meta or header, and listed in a sitemap."""

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
    sitemap,
)
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.indexable import is_noindex

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.LISTED,
    needs=(HeadFacts,),
    summary="noindex pages in the sitemap",
    terms=(
        "sitemap conflict",
        "robots meta",
    ),
    why="The sitemap asks search engines to index the page, and the page tells them not to. They follow the page, and trust the sitemap less.",
    fix="Decide which is intended: remove noindex from the page, or remove the page from the sitemap.",
    element='meta[name="robots" i]',
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9; robots meta directives",
    messages={"both": "Listed in a sitemap, but has: {directives}"},
    cause="template",
    across=True,
    examples=(
        fails("both")(page(doc(head="<meta name=robots content=NoIndex>")), sitemap("/")),
        passes(page(doc(head="<meta name=robots content=noindex>"))),
        passes(page(doc()), sitemap("/")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.listed and is_noindex(page.directives):
        yield Fail("both", "", {"directives": ", ".join(sorted(page.directives))})
