"""The kind of card is none of those that exist."""

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
from hodcarrier.core.facts.preview import PreviewFacts

KINDS = frozenset({"summary", "summary_large_image", "player", "app"})

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.PREVIEW,
    about="indexable",
    needs=(PreviewFacts,),
    summary="Unknown card type",
    terms=(
        "twitter:card",
        "preview",
    ),
    why="Services do not know the kind of card and show a plain link.",
    fix="Use summary, summary_large_image, player or app.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"unknown": "The card type is “{value}”"},
    cause="template",
    examples=(
        fails("unknown")(page(doc(head='<meta name=twitter:card content="big">'))),
        passes(page(doc(head='<meta name=twitter:card content="summary">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for name, value in page.preview.social:
        if name == "twitter:card" and value and value.lower() not in KINDS:
            yield Fail("unknown", "", {"value": value, "selector": 'meta[name="twitter:card"]'})
            return
