"""One language code names two pages, so that nobody can tell which one is meant."""

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
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="Conflicting hreflang entries",
    terms=(
        "hreflang",
        "duplicate language",
    ),
    why="Search engines cannot choose between two pages for one language and ignore both.",
    fix="Keep one page for each code. If both are meant for different countries, add the country.",
    element='link[hreflang="{code}" i]',
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"conflict": "{code} names {count:page}: {targets}"},
    cause="element",
    cause_line="“{code}” names several pages on {pages:page}",
    examples=(
        fails("conflict")(page(doc(head="<link rel=alternate hreflang=cy href=/a><link rel=alternate hreflang=cy href=/b>"))),
        passes(
            page(
                doc(
                    head="<link rel=alternate hreflang=cy href=/a><link rel=alternate hreflang=cy href=/a><link rel=alternate hreflang=en href=/a>"
                )
            )
        ),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    named: dict[str, dict[str, None]] = {}
    for alternate in page.alternates:
        if alternate.in_head and alternate.url:
            named.setdefault(alternate.code.lower(), {})[alternate.url] = None
    for code, urls in named.items():
        if len(urls) > 1:
            yield Fail("conflict", code, {"code": code, "count": len(urls), "targets": ", ".join(list(urls)[:4])}, cause=code)
