"""An indexable page whose meta description holds only white space."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="medium",
    subject="page",
    needs="document",
    summary="Pages with an empty description",
    why="The place for the two lines in search results is there, and nobody has filled it.",
    fix="Fill the field of the description for this page, or let the template fall back on the first paragraph.",
    effort="medium",
    standard="WHATWG HTML, 4.2.5.1",
    messages={"empty": "The meta description is empty"},
    cause="template",
    examples=(
        fails("empty")(page(doc(head='<meta name=description content=" ">'))),
        passes(page(doc(head='<meta name=description content="Rope by the metre">'))),
        passes(page(doc(head=""))),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    descriptions = page.document.descriptions
    if page.indexable and descriptions and not any(item.text for item in descriptions):
        yield Fail("empty", "", {"snippet": '<meta name="description" content="">', "selector": "meta[name=description]"})
