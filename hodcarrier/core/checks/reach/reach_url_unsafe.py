"""A link is written with blanks, control characters or letters outside ASCII, which URLs hold only percent-encoded."""

import re
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
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.links import LinkFacts

UNSAFE = re.compile(r"[^!-~]")

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Links with unescaped characters",
    terms=(
        "percent-encoding",
        "spaces in URLs",
    ),
    why="Browsers repair such links, other programs do not: mails, feeds and crawlers break them in two or fetch something else.",
    fix="Percent-encode the characters in the link, or choose a path without them.",
    mend=attribute("href", "{target}"),
    effort=Effort.SMALL,
    standard="RFC 3986, 2; WHATWG URL, 4.3",
    messages={"unsafe": "Written as “{raw}”"},
    cause="target",
    cause_line="“{raw}” on {pages:page}",
    examples=(
        fails("unsafe")(page(doc('<a href="/small rope">a</a>')), plan={"pages_max": 1}),
        fails("unsafe")(page(doc("<a href=/câble>a</a>")), plan={"pages_max": 1}),
        passes(page(doc("<a href=/c%C3%A2ble>a</a>")), plan={"pages_max": 1}),
        passes(page(doc('<a href=" /rope ">a</a>')), plan={"pages_max": 1}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link in page.distinct_links("anchor", "image-link"):
        if UNSAFE.search(link.raw.strip().partition("#")[0]):
            yield Fail("unsafe", link.url, {"raw": link.raw, "target": link.url, "selector": f'a[href="{link.raw}"]'})
