"""The first link to an address on the page has no anchor text, label, title or alternative text (WCAG 2.2, 2.4.4).

A link that holds nothing but an image without alt belongs to media-alt-link.
"""

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
from hodcarrier.core.facts.values import FOLLOWED_KINDS

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Links without anchor text",
    terms=(
        "empty anchor",
        "link text",
        "accessibility",
    ),
    why="Screen readers announce only “link”, and search engines learn nothing about the target.",
    fix="Add anchor text to the link, or alt text to its image, that says where it leads.",
    mend=attribute("aria-label", "Where the link leads"),
    effort=Effort.SMALL,
    standard="WCAG 2.2, 2.4.4 and 4.1.2",
    messages={"unnamed": "The link to {target} has no text, label or alt text"},
    cause="target",
    cause_line="{target}; on {pages:page}",
    revision=3,
    examples=(
        fails("unnamed")(page(doc("<a href=/a><i class=icon></i></a>"))),
        fails("unnamed")(page(doc("<nav><a href=/a><img src=/i.png alt></a></nav>"))),
        fails("unnamed")(page(doc("<a href=/a>Anchors</a><a href=/a><img src=/i.png alt></a>"))),
        passes(page(doc("<a href=/a><img src=/i.png></a>"))),
        passes(page(doc("<a href=/a><img src=/i.png alt=Anchors></a>"))),
        passes(page(doc("<a href=/a aria-label=Anchors></a>"))),
        passes(page(doc("<a href=/a>Anchors</a>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    bare = {raw for _, raw in page.links.bare_images}
    for link in page.links.all:
        if link.kind in FOLLOWED_KINDS and not link.text and not (link.kind == "image-link" and link.raw in bare):
            data = {"target": link.url, "snippet": f'<a href="{link.raw}">…</a>', "selector": f'a[href="{link.raw}"]'}
            yield Fail("unnamed", link.url, data, cause=f"{link.landmark} {link.raw}" if link.landmark != "main" else "")
