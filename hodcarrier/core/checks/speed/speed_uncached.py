"""A file says neither how long it may be kept nor how to ask whether it has changed (RFC 9111, 4.2 and 4.3), or forbids keeping it."""

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
    page,
    passes,
    script,
)
from hodcarrier.core.catalogue.mending import line
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.web.caching import directives

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Files that browsers cannot keep",
    terms=("Cache-Control", "ETag", "browser caching", "no-store"),
    why="Browsers load the file again at every visit, though it has not changed.",
    fix="Send Cache-Control with a max-age, and an ETag or Last-Modified. Put a version into the file's name and keep it for a year.",
    mend=line("Cache-Control: max-age=31536000"),
    effort=Effort.SMALL,
    standard="RFC 9111, 4.2 and 4.3",
    messages={"none": "{url} has no lifetime, no ETag and no Last-Modified", "forbidden": "{url} is sent with no-store"},
    cause="element",
    cause_line="{url}",
    examples=(
        fails("none")(page(doc("<script src=/a.js></script>")), script()),
        fails("forbidden")(page(doc("<script src=/a.js></script>")), script(("cache-control", "no-store, max-age=600"))),
        passes(page(doc("<script src=/a.js></script>")), script(("cache-control", "max-age=600"))),
        passes(page(doc("<script src=/a.js></script>")), script(("etag", '"1"'))),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = file.answer
    if answer.status != 200:
        return
    if "no-store" in directives(answer.header("cache-control")):
        yield Fail("forbidden", "", {"url": file.url, "pages": file.used_by})
        return
    fresh = answer.fresh_s
    if not fresh and not answer.has_validator:
        yield Fail("none", "", {"url": file.url, "pages": file.used_by})
