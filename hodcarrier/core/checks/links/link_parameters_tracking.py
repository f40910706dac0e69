"""A link within the site carries campaign parameters, which are meant for links from elsewhere."""

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
from hodcarrier.core.facts.links import LinkFacts

PARAMETER = re.compile(r"(?:^|&)([^=&]+)=")
TRACKING = frozenset({"gclid", "fbclid", "msclkid", "mc_cid", "mc_eid", "yclid", "dclid"})

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Campaign parameters on internal links",
    terms=(
        "utm",
        "tracking parameters",
    ),
    why="Each makes a second URL of the same page, and web analytics take the visitor's own click for a new visit from a campaign.",
    fix="Remove the parameters from links within the site, and count such clicks as events.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"tracking": "The link to {target} carries {parameters}"},
    cause="target",
    cause_line="{target}; on {pages:page}",
    examples=(
        fails("tracking")(page(doc("<a href=/a?utm_source=x>a</a>")), plan={"pages_max": 1}),
        passes(page(doc("<a href=/a?size=m>a</a>")), plan={"pages_max": 1}),
        passes(page(doc("<a href=https://other.example/?utm_source=x>o</a>")), plan={"pages_max": 1}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, target in page.outlinks:
        names = [
            name for name in PARAMETER.findall(link.url.partition("?")[2]) if name.lower().startswith("utm_") or name in TRACKING
        ]
        if target.internal and names:
            yield Fail(
                "tracking", link.url, {"target": link.url, "parameters": ", ".join(names), "selector": f'a[href="{link.raw}"]'}
            )
