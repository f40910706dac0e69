"""An img element without an alt attribute (WHATWG HTML, 4.8.4.4). An empty alt declares the picture decorative and passes.

Images that are the only content of a link belong to media-alt-link.
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
from hodcarrier.core.facts.media import MediaFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.IMAGES,
    needs=(MediaFacts,),
    summary="Images without alt text",
    terms=(
        "alt attribute",
        "alternative text",
        "accessibility",
    ),
    why="People who cannot see the image hear its file name instead, and search engines do not know what it shows.",
    fix="Describe in a few words what the image shows. If it is decorative, add an empty alt attribute.",
    mend=attribute("alt", "What the image shows"),
    effort=Effort.MEDIUM,
    standard="WCAG 2.2, 1.1.1; WHATWG HTML, 4.8.4.4",
    messages={"missing": "{url} has no alt text"},
    cause="element",
    cause_line="{url} on {pages:page}",
    examples=(
        fails("missing")(page(doc("<img src=/i.png>"))),
        passes(page(doc("<img src=/i.png alt=Rope>"))),
        passes(page(doc("<img src=/i.png alt>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    seen = set()
    for image in page.media.images:
        if image.alt is None and not image.alone_in_link and image.raw not in seen:
            seen.add(image.raw)
            data = {"url": image.url or image.raw, "snippet": f'<img src="{image.raw}">', "selector": f'img[src="{image.raw}"]'}
            yield Fail("missing", image.url or image.raw, data)
