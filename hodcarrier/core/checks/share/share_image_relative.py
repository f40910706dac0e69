"""The preview picture is not named by an absolute URL."""

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
from hodcarrier.core.facts.preview import PreviewFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.PREVIEW,
    about="indexable",
    needs=(PreviewFacts,),
    summary="Preview image is a relative URL",
    terms=(
        "og:image",
        "absolute URL",
    ),
    why="Services that show previews do not know against which address to resolve it, and show no image.",
    fix="Write the whole URL, with https and the host.",
    mend=attribute("content", "{absolute}"),
    effort=Effort.SMALL,
    standard="The Open Graph protocol",
    messages={"relative": "og:image is “{value}”"},
    cause="template",
    examples=(
        fails("relative")(page(doc(head='<meta property=og:image content="/i.png">'))),
        passes(page(doc(head='<meta property=og:image content="https://shop.example/i.png">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for name, value in page.preview.social:
        if name == "og:image" and value and not value.lower().startswith(("https://", "http://")):
            yield Fail("relative", "", {"value": value, "selector": 'meta[property="og:image"]'})
            return
