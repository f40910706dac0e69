"""noindex by meta or header, and listed in a sitemap."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes, sitemap
from hodcarrier.core.indexable import is_noindex
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="high",
    subject="page",
    needs="document",
    summary="Pages in the sitemap that ask not to be indexed",
    why="The sitemap recommends the page and the page itself declines. One of the two is a mistake, and search engines believe the page.",
    fix="Decide which is meant: take noindex away, or take the page out of the sitemap.",
    effort="small",
    standard="sitemaps.org protocol 0.9; robots meta directives",
    messages={"both": "Listed in a sitemap, yet carries: {directives}"},
    cause="template",
    examples=(
        fails("both")(page(doc(head="<meta name=robots content=NoIndex>")), sitemap("/")),
        passes(page(doc(head="<meta name=robots content=noindex>"))),
        passes(page(doc()), sitemap("/")),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.listed and is_noindex(page.directives):
        yield Fail("both", "", {"directives": ", ".join(sorted(page.directives))})
