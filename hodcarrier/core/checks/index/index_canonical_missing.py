"""An indexable page without a canonical, in the document or in a Link header."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(HeadFacts,),
    summary="Canonical missing",
    terms=(
        "rel=canonical",
        "self-referencing canonical",
    ),
    why="Pages are reached under more than one address: with parameters, with other letter case, through copies. Without a canonical the search engine picks one by itself.",
    fix="Put a link element with rel=canonical and the full address of the page into the head, best in the template.",
    effort=Effort.SMALL,
    standard="RFC 6596",
    messages={"missing": "No canonical in the document or in a Link header"},
    cause="template",
    examples=(
        fails("missing")(page(doc())),
        passes(page(doc(head='<link rel=canonical href="https://shop.example/">'))),
        passes(page(doc(), headers=(("content-type", "text/html"), ("link", '<https://shop.example/>; rel="canonical"')))),
        passes(page(doc(head="<meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.indexable and not page.canonical and not page.head.canonicals:
        yield Fail("missing")
