"""The alternative text of a picture is the name of a file."""

import re
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

FILE = re.compile(r"\S+\.(?:jpe?g|png|gif|webp|avif|svg|bmp|tiff?|heic)", re.I)
CAMERA = re.compile(r"(?:IMG|DSC|DSCN|DSCF|P|PXL|MVIMG|Screenshot)[-_ ]?\d{3,}\S*", re.I)

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.IMAGES,
    needs=(MediaFacts,),
    summary="File name as alt text",
    terms=(
        "alt attribute",
        "accessibility",
    ),
    why="Screen readers read “img 2034 dot jpg”. Nobody learns what the image shows.",
    fix="Describe what it shows. Upload tools fill the field with the file name unless somebody writes into it.",
    mend=attribute("alt", "What the image shows"),
    effort=Effort.SMALL,
    standard="WCAG 2.2, 1.1.1",
    messages={"name": "The alt text of {url} is “{alt}”"},
    cause="element",
    cause_line="{url}: “{alt}”",
    examples=(
        fails("name")(page(doc("<img src=/i.png alt=IMG_2034.JPG>"))),
        fails("name")(page(doc("<img src=/img/DSC00123.jpg alt=DSC00123>"))),
        passes(page(doc("<img src=/rope.png alt=Rope>"))),
        passes(page(doc('<img src=/i.png alt="Version 2.0 of the rope">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for image in page.media.images:
        alt = (image.alt or "").strip()
        if FILE.fullmatch(alt) or CAMERA.fullmatch(alt):
            yield Fail(
                "name", image.url or image.raw, {"url": image.url or image.raw, "alt": alt, "selector": f'img[src="{image.raw}"]'}
            )
