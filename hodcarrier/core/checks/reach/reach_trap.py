"""A pattern of addresses hit the trap guard: calendars without end, filters in every combination, session ids in paths, paths
that grow or go round in circles. Limits are those of the plan (``pattern_pages_max``, ``query_pages_max``)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="Crawl traps: endless URLs",
    terms=(
        "spider trap",
        "infinite URLs",
        "calendar",
        "faceted navigation",
    ),
    why="Search engines waste their crawl budget on endless URLs with the same content and reach important pages late. This crawl stopped here for the same reason.",
    fix="Stop linking to such URLs: limit calendars, put filters and sorting behind forms, keep session ids in cookies. Until then, block the pattern in robots.txt. If these are real pages, raise the limit in the plan.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={
        "full": "More than {limit} URLs match {pattern}, such as {example}",
        "repeats": "Paths repeat in a loop, such as {example}",
    },
    cause="element",
    across=True,
    examples=(
        fails("full")(
            page(doc("".join(f'<a href="/day-{n}">{n}</a>' for n in range(4)))),
            *(page(doc(), f"/day-{n}") for n in range(4)),
            plan={"pattern_pages_max": 3},
        ),
        passes(
            page(doc("".join(f'<a href="/day-{n}">{n}</a>' for n in range(3)))),
            *(page(doc(), f"/day-{n}") for n in range(3)),
            plan={"pattern_pages_max": 3},
        ),
        fails("repeats")(page(doc('<a href="/a/b/a/b/a/b/a/b/">x</a>'))),
        passes(page(doc('<a href="/a/b/a/b/a/b/">x</a>')), page(doc(), "/a/b/a/b/a/b/")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for trap in site.traps:
        key = "full" if trap.limit else "repeats"
        data = {"limit": trap.limit, "pattern": trap.pattern, "example": trap.examples[0], "examples": list(trap.examples)}
        yield Fail(key, trap.pattern, data)
