"""A picture weighs more than the limit, by its Content-Length."""

from collections.abc import Iterator
from dataclasses import replace

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


def picture(size: int) -> Sample:
    """A sample picture of this many bytes."""
    return Sample("/i.png", "", 200, (("content-type", "image/png"), ("content-length", str(size))))


UNANNOUNCED = (("content-type", "image/png"),)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Images too large",
    terms=(
        "image size",
        "page weight",
        "compression",
    ),
    why="A large image delays the page by seconds on slow mobile connections.",
    fix="Save the image at the size it is shown in, in a modern format such as WebP or AVIF.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"heavy": "{url} is {kib} KiB; up to {limit} KiB is fine"},
    cause="element",
    cause_line="{url}: {kib} KiB",
    revision=2,
    limits={"picture_bytes_max": Limit(204800, "bytes", "heaviest picture that is still in order")},
    examples=(
        fails("heavy")(page(doc("<img src=/i.png alt=x>")), picture(204801)),
        fails("heavy")(
            page(doc("<img src=/i.png alt=x>")), replace(picture(0), body="x" * 204801, headers=UNANNOUNCED, wire_bytes=204801)
        ),
        passes(page(doc("<img src=/i.png alt=x>")), picture(204800)),
        passes(page(doc("<img src=/i.png alt=x>")), picture(204801), plan={"thresholds": {"picture_bytes_max": 300000}}),
    ),
)


def find(file: FileView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    size = file.answer.header("content-length")
    weight = int(size) if size.isdigit() else file.answer.wire_bytes
    if file.is_picture and file.answer.status == 200 and weight > limits["picture_bytes_max"]:
        yield Fail(
            "heavy",
            file.url,
            {
                "url": file.url,
                "kib": round(weight / 1024),
                "limit": round(limits["picture_bytes_max"] / 1024),
                "pages": file.used_by,
            },
        )
