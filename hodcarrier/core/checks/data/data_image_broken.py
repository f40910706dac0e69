"""An image that the data name (image, logo, thumbnail) answers an error or nothing."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    broken_references,
    doc,
    fails,
    gone,
    ld,
    page,
    passes,
    text_file,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(LinkFacts,),
    summary="Images in the data broken",
    terms=("image", "logo", "rich results", "schema.org"),
    why="Rich results with an image need one that can be fetched. With a broken image the page is not eligible for them.",
    fix="Correct the address in the data, or restore the image.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org image",
    messages={"broken": "{target}: {answer}"},
    cause="target",
    cause_line="{target}: {answer}; named by {pages:page}",
    examples=(
        fails("broken")(page(ld('{"@context": "https://schema.org", "@type": "Product", "image": "/i.png"}')), gone("/i.png")),
        fails("broken")(
            page(ld('{"@context": "https://schema.org", "@type": "Store", "logo": {"@type": "ImageObject", "url": "/i.png"}}')),
            gone("/i.png", 500),
        ),
        passes(
            page(ld('{"@context": "https://schema.org", "@type": "Product", "image": "/i.png"}')),
            text_file("/i.png", "x", content_type="image/png"),
        ),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from broken_references(page, page.distinct_links("data-image"))
