"""A picture of the site answers 4xx, 5xx or nothing."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    FileView,
    Limits,
    Outcome,
    Severity,
    Subject,
    doc,
    fails,
    gone,
    page,
    passes,
    text_file,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Broken images",
    terms=(
        "image 404",
        "missing image",
    ),
    why="Visitors see an empty frame where the image should be.",
    fix="Restore the image, or remove it from the pages that use it.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.8.4",
    messages={"broken": "{url} ends with: {outcome}; used by {pages:page}"},
    cause="target",
    cause_line="{url}: {outcome}",
    revision=2,
    examples=(
        fails("broken")(page(doc("<img src=/i.png alt=x>"))),
        fails("broken")(page(doc("<img src=/i.png alt=x>")), gone("/i.png", 500)),
        passes(page(doc("<img src=/i.png alt=x>")), text_file("/i.png", "x", content_type="image/png")),
        fails("broken")(
            page(doc("<img srcset='/i.png 2x' src=/j.png alt=x>")), text_file("/j.png", "x", content_type="image/png")
        ),
        fails("broken")(page(doc("<input type=image src=/i.png alt=Send>"))),
        fails("broken")(page(doc("<img src=/i.png alt=x>", "<link rel=preload as=image href=/i.png>"))),
        passes(page(doc("<script src=/i.js></script>"))),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if file.is_picture and file.target.broken:
        yield Fail("broken", file.url, {"url": file.url, "outcome": file.target.outcome, "pages": file.used_by})
