"""An image is served as another type than its bytes are, by their signature (WHATWG MIME Sniffing, 6). Spellings of one type are the same."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    FileView,
    Limits,
    Outcome,
    Sample,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
    text_file,
)
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.files import plain_type


def image(kind: str) -> Sample:
    """A sample PNG that is served as a type."""
    return Sample("/i.png", b"\x89PNG\r\n\x1a\n" + b"\0" * 20, 200, (("content-type", kind),) if kind else ())


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Images served as the wrong type",
    terms=("Content-Type", "MIME type", "nosniff"),
    why="Browsers that are told not to guess refuse such images, and caches and image searches sort them wrongly.",
    fix="Give the file the extension of its format, or correct the type that the server sends for it.",
    effort=Effort.SMALL,
    standard="WHATWG MIME Sniffing; RFC 9110, 8.3",
    messages={"type": "{url} is {found} and served as {declared}", "none": "{url} is {found} and served without a type"},
    cause="element",
    cause_line="{url}: {found} served as {declared}",
    examples=(
        fails("type")(page(doc("<img src=/i.png alt=x>")), image("image/webp")),
        fails("type")(page(doc("<img src=/i.png alt=x>")), image("text/html")),
        fails("none")(page(doc("<img src=/i.png alt=x>")), image("")),
        passes(page(doc("<img src=/i.png alt=x>")), image("image/x-png")),
        passes(page(doc("<img src=/i.svg alt=x>")), text_file("/i.svg", "<svg/>", content_type="image/svg+xml")),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    found, declared = file.read.type, plain_type(file.answer.content_type)
    if file.is_picture and file.answer.status == 200 and found.startswith("image/") and found != declared:
        data = {"url": file.url, "found": found, "declared": declared or "nothing", "pages": file.used_by}
        yield Fail("type" if declared else "none", "", data)
