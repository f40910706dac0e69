"""The address in og:url is not the canonical of the page."""

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
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.preview import PreviewFacts
from hodcarrier.core.web.urls import Resolver


def same(value: str, url: str, canonical: str) -> bool:
    """Whether an address as written is the canonical."""
    return Resolver().resolve(value, url) == canonical


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.PREVIEW,
    about="indexable",
    needs=(
        PreviewFacts,
        HeadFacts,
    ),
    summary="og:url differs from the canonical",
    terms=(
        "og:url",
        "rel=canonical",
    ),
    why="Likes and shares are counted for one address and search results for another.",
    fix="Let both name the same URL. Templates often take og:url from another setting.",
    mend=attribute("content", "{canonical}"),
    effort=Effort.SMALL,
    standard="The Open Graph protocol",
    messages={"differs": "og:url is {value}, the canonical {canonical}"},
    cause="template",
    examples=(
        fails("differs")(page(doc(head='<meta property=og:url content="https://shop.example/b">'))),
        passes(page(doc(head='<meta property=og:url content="https://shop.example/">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    canonical = page.canonical or page.url
    for name, value in page.preview.social:
        if name == "og:url" and value and not same(value, page.url, canonical):
            yield Fail("differs", "", {"value": value, "canonical": canonical, "selector": 'meta[property="og:url"]'})
            return
