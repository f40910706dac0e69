"""An image without any alternative text is all that a link holds, and the link has no other name.

An empty alt in such a link leaves it without a name too: link-unnamed tells that one, as it tells links without an image."""

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
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.IMAGES,
    needs=(LinkFacts,),
    summary="Linked images without alt text",
    terms=("image link", "anchor text", "alternative text", "accessibility"),
    why="The alt text of a linked image is its anchor text. Without it screen readers read out the address, and search engines learn nothing about the target.",
    fix="Say in the alt text where the link leads, not what the image shows.",
    mend=attribute("alt", "Where the link leads"),
    effort=Effort.SMALL,
    standard="WCAG 2.2, 1.1.1 and 2.4.4; WHATWG HTML, 4.8.4.4.2",
    messages={"alt": "The image {url} leads to {target} and has no alt text"},
    cause="element",
    cause_line="{url} on {pages:page}",
    examples=(
        fails("alt")(page(doc("<a href=/a><img src=/i.png></a>"))),
        fails("alt")(page(doc("<a href=/a>Anchors</a><a href=/a><picture><img src=/i.png></picture></a>"))),
        passes(page(doc("<a href=/a aria-label=Anchors><img src=/i.png></a>"))),
        passes(page(doc("<a href=/a><img src=/i.png alt=Anchors></a>"))),
        passes(page(doc("<a href=/a><img src=/i.png alt></a>"))),
        passes(page(doc("<a href=/a><i class=icon></i></a><img src=/i.png>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for url, raw in page.links.bare_images:
        data = {"url": url or "An image", "target": raw, "selector": f'a[href="{raw}"] img'}
        yield Fail("alt", f"{url} {raw}", data)
