"""The HTML of a page and the files it uses come to more than the limit, as they go over the wire. Files whose weight is not known do not count:
the page weighs that much or more. Fonts are those that its style sheets load."""

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
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.links import LinkFacts

MIB = 1024 * 1024
# What a browser loads to show a page; of images that it may choose among, only the one that is always there.
FILES_LOADED = ("script", "style", "image", "preload", "object")
BODY = doc("<img src=/a.png alt=a><img src=/b.png alt=b>")
PAGE = page(BODY)
PAGE_BYTES = len(BODY)


def image(path: str, size: int) -> Sample:
    """A sample PNG of so many bytes."""
    return Sample(path, b"\x89PNG\r\n\x1a\n", 200, (("content-type", "image/png"),), wire_bytes=size)


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(Answer, LinkFacts),
    summary="Heavy pages",
    terms=("page weight", "page size", "transfer size", "mobile"),
    why="Every visitor loads all of it at the first visit. On a phone that costs seconds, and money where data are paid for.",
    fix="Begin with the heaviest files, named in the evidence: images in their real size, scripts that nobody needs any more.",
    effort=Effort.LARGE,
    standard="Good practice",
    messages={"heavy": "{mib} MiB in {files:file}; up to {limit} MiB is fine. The heaviest is {heaviest} with {kib} KiB"},
    cause="template",
    limits={"page_bytes_max": Limit(3_145_728, "bytes", "heaviest page, with its files, that is still in order")},
    examples=(
        fails("heavy")(PAGE, image("/a.png", 2_000_000), image("/b.png", 1_145_728 - PAGE_BYTES + 1)),
        passes(PAGE, image("/a.png", 2_000_000), image("/b.png", 1_145_728 - PAGE_BYTES)),
        passes(PAGE, image("/a.png", 4_000_000), plan={"thresholds": {"page_bytes_max": 5_000_000}}),
        passes(PAGE),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.answer is None:
        return
    weights = {}
    for link in page.distinct_links(*FILES_LOADED):
        file = page.file_of(link.url)
        if file is not None:
            weights[link.url] = file.wire_bytes
            for font in file.read.fonts:
                loaded = page.file_of(font)
                if loaded is not None:
                    weights[font] = loaded.wire_bytes
    total = page.answer.wire_bytes + sum(weights.values())
    if weights and total > limits["page_bytes_max"]:
        heaviest = max(weights, key=lambda url: (weights[url], url))
        data = {
            "mib": round(total / MIB, 1),
            "files": len(weights),
            "limit": round(limits["page_bytes_max"] / MIB, 1),
            "heaviest": heaviest,
            "kib": round(weights[heaviest] / 1024),
            "bytes": total,
        }
        yield Fail("heavy", "", data)
