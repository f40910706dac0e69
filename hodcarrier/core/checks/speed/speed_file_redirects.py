"""A script or style sheet of the site redirects."""

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
    summary="Scripts or style sheets that redirect",
    terms=(
        "301",
        "redirect",
    ),
    why="Each redirect is a round trip before the page can be drawn.",
    fix="Write the address at the end of the redirect into the page.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.4",
    messages={"redirects": "{url} redirects to {to}; used by {pages:page}"},
    cause="target",
    cause_line="{url} redirects to {to}",
    examples=(
        fails("redirects")(
            page(doc("<script src=/i.js></script>")),
            moved("/i.js", "/j.js"),
            text_file("/j.js", "x", content_type="text/javascript"),
        ),
        passes(page(doc("<script src=/i.js></script>")), text_file("/i.js", "x", content_type="text/javascript")),
        passes(page(doc("<script src=/i.js></script>")), moved("/i.js", "/j.js")),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if file.needed_as and file.target.hops and file.target.examined and not file.target.broken:
        yield Fail("redirects", "", {"url": file.url, "to": file.target.final_url, "pages": file.used_by})
