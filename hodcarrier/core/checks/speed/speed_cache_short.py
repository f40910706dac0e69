"""A script, style sheet, image or font may be kept for less than the limit by what it says (RFC 9111, 4.2.1). Files that say nothing of it
belong to speed-uncached, or are kept by guesswork."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    FileView,
    Limit,
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
    summary="Short lifetimes of files",
    terms=("Cache-Control", "max-age", "Expires", "browser caching"),
    why="Who comes back the next day waits again for files that have not changed for weeks.",
    fix="Keep files for a year and change their name when they change. Where the name must stay, a day is the least.",
    mend=line("Cache-Control: max-age=31536000"),
    effort=Effort.SMALL,
    standard="RFC 9111, 4.2.1",
    messages={"short": "{url} may be kept for {seconds:second}; at least {limit} are recommended"},
    cause="element",
    cause_line="{url}: {seconds:second}",
    limits={"cache_seconds_min": Limit(86_400, "seconds", "shortest lifetime of a file that is in order")},
    examples=(
        fails("short")(page(doc("<script src=/a.js></script>")), script(("cache-control", "max-age=86399"))),
        fails("short")(
            page(doc("<script src=/a.js></script>")),
            script(("expires", "Tue, 24 Nov 2026 03:00:00 GMT"), ("date", "Tue, 24 Nov 2026 02:00:00 GMT")),
        ),
        passes(page(doc("<script src=/a.js></script>")), script(("cache-control", "public, max-age=86400"))),
        passes(
            page(doc("<script src=/a.js></script>")),
            script(("cache-control", "max-age=60")),
            plan={"thresholds": {"cache_seconds_min": 60}},
        ),
        passes(page(doc("<script src=/a.js></script>")), script(("etag", '"1"'))),
    ),
)


def find(file: FileView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = file.answer
    if answer.status != 200 or "no-store" in directives(answer.header("cache-control")):
        return
    fresh = answer.fresh_s
    if fresh is not None and (fresh or answer.has_validator) and fresh < limits["cache_seconds_min"]:
        data = {"url": file.url, "seconds": fresh, "limit": int(limits["cache_seconds_min"]), "pages": file.used_by}
        yield Fail("short", "", data)
