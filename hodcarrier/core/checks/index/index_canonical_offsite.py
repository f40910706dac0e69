"""The canonical leads to another site: a host that is neither the page's own nor its twin with or without www, nor a subdomain."""

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
from hodcarrier.core.web.urls import are_strangers, split

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Canonical points to another site",
    terms=(
        "rel=canonical",
        "cross-domain",
    ),
    why="The page gives its place in the index to another site. That is right for syndicated texts, and costly for anything else.",
    fix="If the text is yours, let the page name itself. If it comes from there, leave it and waive the finding.",
    effort=Effort.SMALL,
    standard="RFC 6596",
    revision=2,
    messages={"offsite": "The canonical is {target}"},
    cause="template",
    cause_line="{pages:page} name another site, such as {target}",
    examples=(
        fails("offsite")(page(doc(head="<link rel=canonical href=https://other.example/>"))),
        passes(page(doc(head="<link rel=canonical href=https://www.shop.example/>"))),
        passes(page(doc(head="<link rel=canonical href=/b>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.canonical:
        return
    if are_strangers(split(page.url).host, split(page.canonical).host):
        yield Fail("offsite", "", {"target": page.canonical, "selector": 'link[rel~="canonical" i]'})
