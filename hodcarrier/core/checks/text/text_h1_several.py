"""More than one H1 on an indexable page. HTML permits it; it blurs what the page is about."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="low",
    subject="page",
    needs="document",
    summary="Pages with several main headings",
    why="One page, one subject: several main headings leave open what it is about.",
    fix="Keep the H1 for the headline and make the others H2.",
    effort="small",
    standard="WHATWG HTML, 4.3.11",
    messages={"several": "{count} main headings: {texts}"},
    cause="template",
    examples=(fails("several")(page(doc("<h1>Rope</h1><h1>Line</h1>"))), passes(page(doc("<h1>Rope</h1><h2>Line</h2>")))),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    texts = [heading.text for heading in page.document.headings if heading.level == 1]
    if page.indexable and len(texts) > 1:
        yield Fail("several", "", {"count": len(texts), "texts": " | ".join(texts[:5]), "selector": "h1"})
