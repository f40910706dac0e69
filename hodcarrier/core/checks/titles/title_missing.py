"""The document has no title element at all (titles inside SVG do not count)."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="high",
    subject="page",
    needs="document",
    summary="Pages without a title",
    why="The title is the line that people click in search results and read on the tab. Without one the search engine makes something up.",
    fix="Give every page a title element of its own in the head that says what the page offers.",
    effort="small",
    standard="WHATWG HTML, 4.2.2",
    messages={"missing": "There is no title element"},
    cause="template",
    examples=(
        fails("missing")(page(doc(head=""))),
        fails("missing")(page(doc("<svg><title>Icon</title></svg>", ""))),
        passes(page(doc(head="<title>Rope for small boats</title>"))),
        passes(page(doc(head="<title></title>"))),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.document.titles:
        yield Fail("missing", "", {"selector": "head"})
