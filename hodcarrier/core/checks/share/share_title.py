"""An indexable page without og:title."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="low",
    subject="page",
    needs="document",
    summary="Pages without a title for previews",
    why="When somebody sends the address to a friend, the preview shows what the messenger happens to find.",
    fix="Let the template write og:title beside the title element.",
    effort="small",
    standard="Open Graph protocol",
    messages={"missing": "There is no og:title"},
    cause="template",
    examples=(
        fails("missing")(page(doc())),
        passes(page(doc(head='<meta property="og:title" content="Rope">'))),
        passes(page(doc(head="<meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    names = {name for name, value in page.document.social if value}
    if page.indexable and "og:title" not in names:
        yield Fail("missing", "", {"selector": "head"})
