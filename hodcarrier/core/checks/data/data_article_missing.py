"""A page that is an article by its preview, or as the one dated article element of the page, describes none in its data."""

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
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.things import of_kind
from hodcarrier.core.facts.trust import TrustFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.ARTICLE,
    about="indexable",
    needs=(DataFacts, TrustFacts),
    summary="Articles without article data",
    terms=("Article", "BlogPosting", "rich results", "schema.org"),
    why="Search engines show an article's image, author and date in the results only if the data contain them.",
    fix="Let the template of articles describe an Article, or the kind of one that it is, with headline, image, author and datePublished.",
    effort=Effort.SMALL,
    standard="schema.org Article",
    messages={"missing": "The article is not described in the data"},
    cause="template",
    examples=(
        fails("missing")(page(doc("<h1>Knots</h1>", "<meta property=og:type content=article>"))),
        fails("missing")(
            page(doc("<article><h1>Knots</h1><time datetime=2026-05-04>4 May</time><p>" + "rope " * 150 + "</article>"))
        ),
        passes(page(doc("<article><h1>Knots</h1><p>" + "rope " * 150 + "</article>"))),
        passes(page(ld('{"@context": "https://schema.org", "@type": "BlogPosting", "headline": "Knots"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.trust.article and next(of_kind(page.data.things, "Article", parts=True), None) is None:
        yield Fail("missing", "", {"selector": "article"})
