"""A page with many pictures loads none of them lazily."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
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
from hodcarrier.core.facts.media import MediaFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.IMAGES,
    needs=(MediaFacts,),
    summary="No lazy loading on image-heavy pages",
    terms=(
        "lazy loading",
        "loading attribute",
    ),
    why="The browser loads all images at once, also those far down that few people scroll to, and the visible ones wait.",
    fix="Add loading=lazy to images below the first screen. Leave it out for the first ones.",
    element='img:not([loading="lazy" i])',
    effort=Effort.SMALL,
    standard="WHATWG HTML, 2.5.7",
    messages={"eager": "{count} images, none of them loads lazily"},
    cause="template",
    limits={"eager_images_max": Limit(12, "images", "most images of a page that may all load at once")},
    examples=(
        fails("eager")(page(doc("".join(f"<img src=/{n}.png alt=x>" for n in range(13))))),
        passes(page(doc("".join(f"<img src=/{n}.png alt=x>" for n in range(12))))),
        passes(page(doc("".join(f"<img src=/{n}.png alt=x loading=lazy>" for n in range(13))))),
        passes(page(doc())),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    count = len(page.media.images)
    if count > limits["eager_images_max"] and not any(image.lazy for image in page.media.images):
        yield Fail("eager", "", {"count": count, "limit": int(limits["eager_images_max"])})
