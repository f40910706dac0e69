"""The alternative text of a picture is longer than the limit, in columns of Latin letters."""

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
from hodcarrier.core.facts.length import columns
from hodcarrier.core.facts.media import MediaFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.IMAGES,
    needs=(MediaFacts,),
    summary="Alt text too long",
    terms=(
        "alt attribute",
        "accessibility",
    ),
    why="Screen readers read an alternative text in one go. A long one is hard to follow and cannot be skimmed.",
    fix="Say in a sentence what the image shows. Put long descriptions into the text beside it.",
    effort=Effort.SMALL,
    standard="WCAG 2.2, 1.1.1",
    messages={"long": "{chars} characters; up to {limit} is fine: “{alt}”"},
    cause="element",
    cause_line="{url}: {chars} characters",
    limits={"alt_chars_max": Limit(125, "characters", "longest alternative text that is still in order")},
    examples=(
        fails("long")(page(doc("<img src=/i.png alt=" + "a" * 126 + ">"))),
        passes(page(doc("<img src=/i.png alt=" + "a" * 125 + ">"))),
        passes(page(doc("<img src=/i.png alt=" + "a" * 126 + ">")), plan={"thresholds": {"alt_chars_max": 150}}),
        passes(page(doc("<img src=/i.png alt>"))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for image in page.media.images:
        if image.alt and columns(image.alt) > limits["alt_chars_max"]:
            data = {
                "chars": columns(image.alt),
                "limit": int(limits["alt_chars_max"]),
                "alt": image.alt[:300],
                "url": image.url or image.raw,
            }
            yield Fail("long", image.url or image.raw, {**data, "selector": f'img[src="{image.raw}"]'})
