"""A picture of the site redirects."""

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
    moved,
    page,
    passes,
    text_file,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Images that redirect",
    terms=(
        "301",
        "redirect",
    ),
    why="Each redirect is a round trip before the image can load.",
    fix="Write the address at the end of the redirect into the page.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.4",
    messages={"redirects": "{url} redirects to {to}; used by {pages:page}"},
    cause="target",
    cause_line="{url} redirects to {to}",
    examples=(
        fails("redirects")(
            page(doc("<img src=/i.png alt=x>")), moved("/i.png", "/j.png"), text_file("/j.png", "x", content_type="image/png")
        ),
        passes(page(doc("<img src=/i.png alt=x>")), text_file("/i.png", "x", content_type="image/png")),
        passes(page(doc("<img src=/i.png alt=x>")), moved("/i.png", "/j.png")),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if file.is_picture and file.target.hops and file.target.examined and not file.target.broken:
        yield Fail("redirects", "", {"url": file.url, "to": file.target.final_url, "pages": file.used_by})
