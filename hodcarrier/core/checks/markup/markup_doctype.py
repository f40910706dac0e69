"""The document does not begin with an HTML doctype (WHATWG HTML, 13.1.1); white space and comments may stand before it."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="low",
    subject="page",
    needs="document",
    summary="Documents without a doctype",
    why="Without it browsers fall back to the layout rules of the last century.",
    fix="Begin the template with <!doctype html>.",
    effort="small",
    standard="WHATWG HTML, 13.1.1",
    messages={"missing": "The document has no HTML doctype"},
    cause="template",
    examples=(
        fails("missing")(page("<html lang=en><title>Rope</title>")),
        passes(page(doc())),
        passes(page('<!-- note --> <!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01//EN"><title>Rope</title>')),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.document.doctype:
        yield Fail("missing", "", {"selector": "html"})
