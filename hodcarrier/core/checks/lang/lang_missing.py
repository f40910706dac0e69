"""The html element has no lang attribute, or an empty one."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="medium",
    subject="page",
    needs="document",
    summary="Pages that do not say their language",
    why="Programs that read pages aloud do not know how to pronounce the words, and browsers offer to translate for no reason.",
    fix='Write the language into the html element of the template, such as lang="en".',
    effort="small",
    standard="WCAG 2.2, 3.1.1; WHATWG HTML, 3.2.6.2",
    messages={"missing": "The html element names no language"},
    cause="template",
    examples=(
        fails("missing")(page("<!doctype html><title>Rope</title>")),
        fails("missing")(page(doc(lang=""))),
        passes(page(doc(lang="cy"))),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.document.lang:
        yield Fail("missing", "", {"snippet": "<html>", "selector": "html"})
