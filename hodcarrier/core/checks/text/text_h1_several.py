"""More than one H1 on an indexable page. HTML permits it; it blurs what the page is about."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.MAIN_HEADING,
    about="indexable",
    needs=(TextFacts,),
    summary="Multiple H1s",
    terms=(
        "heading",
        "main heading",
    ),
    why="With several H1s it is unclear to search engines and screen reader users what the page is mainly about.",
    fix="Keep the H1 for the headline and turn the others into H2.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.3.11",
    messages={"several": "{count} H1s: {texts}"},
    cause="template",
    examples=(fails("several")(page(doc("<h1>Rope</h1><h1>Line</h1>"))), passes(page(doc("<h1>Rope</h1><h2>Line</h2>")))),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    texts = [heading.text for heading in page.text.headings if heading.level == 1]
    if len(texts) > 1:
        yield Fail("several", "", {"count": len(texts), "texts": " | ".join(texts[:5]), "selector": "h1"})
