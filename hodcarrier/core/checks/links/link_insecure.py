"""An https page links to an http address of its own site."""

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
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Internal links to HTTP",
    terms=(
        "HTTPS",
        "insecure link",
    ),
    why="The link takes visitors off HTTPS, if only until the redirect, and that request can be intercepted.",
    fix="Change the link to https, or use a relative URL.",
    mend=https(),
    effort=Effort.SMALL,
    standard="RFC 9110, 4.2.2",
    messages={"insecure": "“{text}” links to {target}"},
    cause="target",
    cause_line="{target}; linked from {pages:page}",
    examples=(
        fails("insecure")(page(doc('<a href="http://shop.example/a">a</a>'))),
        passes(page(doc('<a href="https://shop.example/a">a</a>'))),
        passes(page(doc('<a href="http://other.example/">o</a>'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.is_secure:
        for link, target in page.outlinks:
            if target.internal and link.url.startswith("http://"):
                yield Fail("insecure", link.url, {"target": link.url, "text": link.text, "selector": f'a[href="{link.raw}"]'})
