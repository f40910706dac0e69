"""An indexable page without a canonical, in the document or in a Link header."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(HeadFacts,),
    summary="Canonical missing",
    terms=(
        "rel=canonical",
        "self-referencing canonical",
    ),
    why="The same page can be reached at several URLs: with parameters, in other letter case, as a copy. Without a canonical, search engines choose one themselves.",
    fix="Add a link element with rel=canonical and the full URL of the page to the head, ideally in the template.",
    element="head",
    mend=inside('<link rel="canonical" href="{page}">'),
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
    if not page.canonical and not page.head.canonicals:
        yield Fail("missing")
