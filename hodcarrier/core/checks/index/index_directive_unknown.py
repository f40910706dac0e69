"""A robots directive that no search engine is known to read, or one whose value is none it may have."""

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
from hodcarrier.core.facts.head import HeadFacts

KNOWN = frozenset(
    {
        "all",
        "index",
        "noindex",
        "follow",
        "nofollow",
        "none",
        "noarchive",
        "nocache",
        "nosnippet",
        "noimageindex",
        "notranslate",
        "noodp",
        "noydir",
        "indexifembedded",
        "nositelinkssearchbox",
    }
)
VALUES = {
    "max-snippet": re.compile(r"-?\d+"),
    "max-image-preview": re.compile("none|standard|large"),
    "max-video-preview": re.compile(r"-?\d+"),
    "unavailable_after": re.compile(".+"),
}

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.DIRECTIVES,
    needs=(HeadFacts,),
    summary="Unknown robots directive",
    terms=(
        "robots meta",
        "X-Robots-Tag",
        "typo",
    ),
    why="Search engines ignore a directive they do not know. What it was meant to do does not happen.",
    fix="Correct the spelling, or remove the directive.",
    effort=Effort.SMALL,
    standard="Robots meta directives",
    messages={"unknown": "“{directive}” is not a robots directive"},
    cause="template",
    examples=(
        fails("unknown")(page(doc(head="<meta name=robots content=no-index>"))),
        fails("unknown")(page(doc(head='<meta name=robots content="max-snippet: many">'))),
        fails("unknown")(page(doc(), headers=(("content-type", "text/html"), ("x-robots-tag", "noidex")))),
        passes(page(doc(head='<meta name=robots content="noindex, nofollow, max-image-preview:large, max-snippet:-1">'))),
        passes(page(doc(head='<meta name=robots content="unavailable_after: 2027-01-01">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for directive in sorted(page.directives):
        name, colon, value = directive.partition(":")
        wanted = VALUES.get(name.strip())
        if directive not in KNOWN and not (colon and wanted is not None and wanted.fullmatch(value.strip())):
            yield Fail("unknown", directive, {"directive": directive, "selector": 'meta[name="robots" i]'})
