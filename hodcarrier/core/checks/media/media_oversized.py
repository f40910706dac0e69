"""An image has more than twice the width and more than twice the height of the box that the page declares for it. Images of which browsers
choose a size (srcset, picture) pass, and drawings."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Sample,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.media import MediaFacts

# 100 × 100 pixels.
GIF = Sample("/i.gif", b"GIF89a\x64\x00\x64\x00\x00\x00\x00;", 200, (("content-type", "image/gif"),))

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.IMAGES,
    needs=(MediaFacts,),
    summary="Images larger than they are shown",
    terms=("image dimensions", "responsive images", "scaling"),
    why="The visitor loads pixels that are thrown away. Four times the pixels are about four times the bytes.",
    fix="Save the image at twice the size of its box at most, or offer several with srcset.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"large": "{url} has {width} × {height} pixels and is shown at {box_width} × {box_height}"},
    cause="element",
    cause_line="{url} on {pages:page}",
    limits={"oversize_ratio_max": Limit(2, "times", "how many times its box an image may measure")},
    examples=(
        fails("large")(page(doc("<img src=/i.gif alt=x width=49 height=49>")), GIF),
        passes(page(doc("<img src=/i.gif alt=x width=50 height=50>")), GIF),
        passes(page(doc("<img src=/i.gif alt=x width=50 height=20>")), GIF),
        passes(page(doc("<img src=/i.gif alt=x>")), GIF),
        passes(page(doc("<img src=/i.gif srcset='/i.gif 2x' alt=x width=20 height=20>")), GIF),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    seen = set()
    ratio = limits["oversize_ratio_max"]
    for image in page.media.images:
        if not image.width or not image.height or image.url in seen:
            continue
        seen.add(image.url)
        file = page.file_of(image.url)
        if file is not None and file.read.width > ratio * image.width and file.read.height > ratio * image.height:
            data = {
                "url": image.url,
                "width": file.read.width,
                "height": file.read.height,
                "box_width": image.width,
                "box_height": image.height,
                "selector": f'img[src="{image.raw}"]',
            }
            yield Fail("large", image.url, data)
