"""A further page of a series (told by the number in its URL) names the first page as its canonical."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
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
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.web.series import series_of

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Paged series points to its first page",
    terms=(
        "pagination",
        "rel=canonical",
        "page 2",
    ),
    why="What stands on the further pages only, such as older products, is then not indexed, and their links are not followed.",
    fix="Let each page of the series name itself.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"first": "A further page of a series names {target} as its canonical"},
    cause="template",
    cause_line="{pages:page} of series name their first page, such as {target}",
    examples=(
        fails("first")(
            page(doc(head="<link rel=canonical href=/rope>"), "/rope?page=2"),
            page(doc(), "/rope"),
            plan={"start": ["https://shop.example/rope?page=2"]},
        ),
        fails("first")(
            page(doc(head="<link rel=canonical href=/rope/>"), "/rope/page/3/"),
            page(doc(), "/rope/"),
            plan={"start": ["https://shop.example/rope/page/3/"]},
        ),
        passes(
            page(doc(head='<link rel=canonical href="/rope?page=2">'), "/rope?page=2"),
            plan={"start": ["https://shop.example/rope?page=2"]},
        ),
        passes(
            page(doc(head="<link rel=canonical href=/rope>"), "/rope?colour=2"),
            page(doc(), "/rope"),
            plan={"start": ["https://shop.example/rope?colour=2"]},
        ),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    other = page.canonical
    if other and other != page.url and series_of(other) == series_of(page.url) and series_of(other) == other.rstrip("/"):
        yield Fail("first", "", {"target": other, "selector": 'link[rel~="canonical" i]'})
