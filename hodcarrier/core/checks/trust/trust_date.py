"""An article says nowhere when it was published or changed: in its data, in a meta element or in a time element."""

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
from hodcarrier.core.facts.trust import TrustFacts

ARTICLE = "<meta property=og:type content=article>"

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.ARTICLE,
    about="indexable",
    needs=(TrustFacts,),
    summary="Articles without a date",
    terms=("E-E-A-T", "datePublished", "freshness"),
    why="Readers cannot tell whether the advice still holds, and search engines guess a date.",
    fix="Show the date in a time element and say it in the article's data. Say when it was last changed, too.",
    effort=Effort.SMALL,
    standard="schema.org Article; WHATWG HTML, 4.5.14",
    messages={"date": "Neither the text nor the data has a date"},
    cause="template",
    examples=(
        fails("date")(page(doc("<h1>Knots</h1>", ARTICLE))),
        passes(page(doc("<h1>Knots</h1><time datetime=2026-05-04>4 May</time>", ARTICLE))),
        passes(page(doc("<h1>Knots</h1>", ARTICLE + "<meta property=article:published_time content=2026-05-04>"))),
        passes(page(doc("<h1>Rope</h1>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.trust.dated:
        yield Fail("date", "", {"selector": "article, h1"})
