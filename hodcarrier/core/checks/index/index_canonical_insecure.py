"""A page over https names a canonical over http."""

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
from hodcarrier.core.catalogue.mending import https
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Canonical uses http on an https page",
    terms=(
        "rel=canonical",
        "HTTPS",
    ),
    why="The page asks search engines to index its insecure version. Visitors are sent over http, or over a redirect.",
    fix="Write the canonical with https. The address of the site in its settings is often still the old one.",
    mend=https(),
    effort=Effort.SMALL,
    standard="RFC 6596; RFC 9110, 4.2.2",
    messages={"insecure": "The canonical is {target}"},
    cause="template",
    cause_line="{pages:page} name a canonical over http, such as {target}",
    examples=(
        fails("insecure")(page(doc(head="<link rel=canonical href=http://shop.example/>"))),
        passes(page(doc(head="<link rel=canonical href=https://shop.example/>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.is_secure and page.canonical.startswith("http://"):
        yield Fail("insecure", "", {"target": page.canonical, "selector": 'link[rel~="canonical" i]'})
