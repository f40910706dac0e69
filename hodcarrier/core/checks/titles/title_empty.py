"""The title element that counts, the first, holds only white space."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="high",
    subject="page",
    needs="document",
    summary="Pages with an empty title",
    why="An empty title is as good as none: the search engine makes something up.",
    fix="Fill the title. If a template fills it, look for the field that is empty here.",
    effort="small",
    standard="WHATWG HTML, 4.2.2",
    messages={"empty": "The title element is empty"},
    cause="template",
    examples=(
        fails("empty")(page(doc(head="<title>  </title>"))),
        fails("empty")(page(doc(head="<title></title><title>Rope</title>"))),
        passes(page(doc(head="<title>Rope</title>"))),
        passes(page(doc(head=""))),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    titles = page.document.titles
    if titles and not titles[0].text:
        yield Fail("empty", "", {"snippet": "<title></title>", "selector": "title"})
