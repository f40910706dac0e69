"""A page names another as its version in a language, and that one does not name it in turn."""

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
    Unsure,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.language import LanguageFacts

ALTERNATES = '<link rel=alternate hreflang=en href="/"><link rel=alternate hreflang=cy href="/cy/">'

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(LanguageFacts,),
    summary="hreflang without return link",
    terms=(
        "alternate",
        "international",
        "language version",
    ),
    why="Search engines believe a pair of language versions only if each names the other. Without the return the whole set is ignored.",
    fix="Let every version name all versions, itself among them. Best written by the template from one list.",
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"no-return": "Names {target} as its version in {code}, which does not name it in turn"},
    cause="target",
    cause_line="{target} does not name its other versions",
    examples=(
        fails("no-return")(page(doc(head=ALTERNATES)), page(doc(), "/cy/")),
        passes(page(doc(head=ALTERNATES)), page(doc(head=ALTERNATES), "/cy/")),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for alternate in page.language.alternates:
        if not alternate.in_head or not alternate.url or alternate.url == page.url:
            continue
        target = page.target(alternate.url)
        other = page.facts_of(alternate.url)
        if not target.internal or target.broken or target.hops:
            continue
        if other is None or not target.examined:
            yield Unsure(alternate.url, "the other page was not read")
        elif page.url not in {back.url for back in other.language.alternates if back.in_head}:
            yield Fail("no-return", alternate.url, {"target": alternate.url, "code": alternate.code})
