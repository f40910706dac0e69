"""A picture has no width and height in the markup, so that the browser cannot keep room for it."""

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
from hodcarrier.core.catalogue.mending import attributes
from hodcarrier.core.facts.media import MediaFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.IMAGES,
    needs=(MediaFacts,),
    summary="Images without dimensions",
    terms=(
        "width and height",
        "layout shift",
        "CLS",
    ),
    why="The text jumps when the image arrives, and people lose their place or click the wrong thing.",
    fix="Give each img its width and height in pixels. Style sheets may still scale it.",
    mend=attributes(width="{pixel_width}", height="{pixel_height}"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.8.17",
    messages={"unset": "{url} has no width and height"},
    cause="element",
    cause_line="{url} on {pages:page}",
    examples=(
        fails("unset")(page(doc("<img src=/i.png alt=x>"))),
        fails("unset")(page(doc("<img src=/i.png alt=x width=4>"))),
        passes(page(doc("<img src=/i.png alt=x width=4 height=4>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    seen = set()
    for image in page.media.images:
        if image.url and not image.sized and image.url not in seen:
            seen.add(image.url)
            yield Fail("unset", image.url, {"url": image.url, "selector": f'img[src="{image.raw}"]'})
