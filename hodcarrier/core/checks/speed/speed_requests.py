"""The page names more files (scripts, style sheets, pictures, fonts, media) than the limit. Pictures that load lazily count, since they stand in the markup too."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.FILES,
    needs=(LinkFacts,),
    summary="Too many requests",
    terms=(
        "HTTP requests",
        "page resources",
    ),
    why="Every file is a request, and slow connections carry few at a time.",
    fix="Load images lazily, join small scripts and style sheets, and drop what no visitor needs.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"many": "{count} files; up to {limit} is fine"},
    cause="template",
    limits={"files_max": Limit(100, "files", "most files of a page that are still in order")},
    examples=(
        fails("many")(page(doc("".join(f"<script src=/{n}.js></script>" for n in range(101))))),
        passes(page(doc("".join(f"<script src=/{n}.js></script>" for n in range(100))))),
        passes(page(doc("".join(f"<script src=/{n}.js></script>" for n in range(101)))), plan={"thresholds": {"files_max": 150}}),
        passes(page(doc())),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    count = sum(1 for _ in page.distinct_links("script", "style", "image", "preload", "media", "object", "icon"))
    if count > limits["files_max"]:
        yield Fail("many", "", {"count": count, "limit": int(limits["files_max"])})
