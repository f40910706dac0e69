"""An image is a JPEG, PNG or GIF of more than the limit, and no page offers it in a newer format beside: in a picture element with a source of
WebP or AVIF, or by the server's choice (Vary: Accept)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    FileView,
    Limit,
    Limits,
    Outcome,
    Sample,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer

FORMATS = {"image/jpeg": "a JPEG", "image/png": "a PNG", "image/gif": "a GIF"}


def image(size: int, *headers: tuple[str, str]) -> Sample:
    """A sample PNG of so many bytes."""
    return Sample("/i.png", b"\x89PNG\r\n\x1a\n", 200, (("content-type", "image/png"), *headers), wire_bytes=size)


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Large images in old formats",
    terms=("WebP", "AVIF", "next-gen formats", "compression"),
    why="WebP and AVIF files are a quarter to a half smaller at the same quality, and every current browser supports them.",
    fix="Save the image as WebP or AVIF. If visitors use very old browsers, keep the old file as the fallback in a picture element.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"old": "{url} is {format} of {kib} KiB"},
    cause="element",
    cause_line="{url}: {format}, {kib} KiB",
    limits={"old_format_bytes_max": Limit(51_200, "bytes", "heaviest JPEG, PNG or GIF that needs no newer format")},
    examples=(
        fails("old")(page(doc("<img src=/i.png alt=x>")), image(51_201)),
        passes(page(doc("<img src=/i.png alt=x>")), image(51_200)),
        passes(page(doc("<img src=/i.png alt=x>")), image(51_201), plan={"thresholds": {"old_format_bytes_max": 60_000}}),
        passes(page(doc("<picture><source type=image/webp srcset=/i.webp><img src=/i.png alt=x></picture>")), image(51_201)),
        passes(page(doc("<img src=/i.png alt=x>")), image(51_201, ("vary", "Accept"))),
    ),
)


def find(file: FileView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = file.answer
    if answer.status != 200 or not {"image", "srcset"}.intersection(file.kinds):
        return
    kind = file.read.type or answer.content_type
    chooses = any("accept" in {name.strip().lower() for name in value.split(",")} for value in answer.header_values("vary"))
    if kind in FORMATS and answer.wire_bytes > limits["old_format_bytes_max"] and not chooses:
        data = {"url": file.url, "format": FORMATS[kind], "kib": round(answer.wire_bytes / 1024), "pages": file.used_by}
        yield Fail("old", "", data)
