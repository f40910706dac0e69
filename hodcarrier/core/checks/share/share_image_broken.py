"""An image that previews are made with (og:image, twitter:image) answers an error or nothing."""

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
    page,
    passes,
    text_file,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.PREVIEW,
    about="indexable",
    needs=(LinkFacts,),
    summary="Preview image broken",
    terms=("og:image", "Open Graph", "social media"),
    why="Where the page is shared, the preview stays without an image, and services remember that for days.",
    fix="Correct the address of the image in the template, or restore the image.",
    effort=Effort.SMALL,
    standard="The Open Graph protocol",
    messages={"broken": "{target}: {answer}"},
    cause="target",
    cause_line="{target}: {answer}; named by {pages:page}",
    examples=(
        fails("broken")(page(doc(head="<meta property=og:image content=https://shop.example/i.png>")), gone("/i.png")),
        fails("broken")(page(doc(head="<meta name=twitter:image content=/i.png>")), gone("/i.png", 500)),
        passes(page(doc(head="<meta property=og:image content=/i.png>")), text_file("/i.png", "x", content_type="image/png")),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from broken_references(page, page.distinct_links("preview-image"), 'meta[property="og:image"]')
