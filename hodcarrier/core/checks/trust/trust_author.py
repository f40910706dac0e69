"""An article names no author: in its data, in a meta element, as a link with rel=author or by a byline. What an article is: see the facts."""

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
    summary="Articles without an author",
    terms=("E-E-A-T", "byline", "author"),
    why="Readers weigh what they read by who wrote it, and so do search engines where advice has consequences.",
    fix="Name the author in the article and in its data, and link to a page that says who they are.",
    effort=Effort.MEDIUM,
    standard="schema.org Article; WHATWG HTML, 4.6.6.2",
    messages={"author": "Nobody is named as the author"},
    cause="template",
    examples=(
        fails("author")(page(doc("<h1>Knots</h1>", ARTICLE))),
        passes(page(doc("<h1>Knots</h1><p class=byline>By the rigging desk", ARTICLE))),
        passes(page(doc("<h1>Knots</h1>", ARTICLE + "<meta name=author content=Rigging>"))),
        passes(page(doc("<h1>Rope</h1>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.trust.author:
        yield Fail("author", "", {"selector": "article, h1"})
