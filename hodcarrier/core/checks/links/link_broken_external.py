"""A link to another site that ends with an error or nothing.

Answers that other hosts give to programs rather than to people (401, 403, 407, 429, 999, 5xx) and time-outs are unverified,
and so is everything when no other site answered at all, because then it is our own network that fails.
"""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Sample,
    Severity,
    Subject,
    Unsure,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts

DOUBTFUL = frozenset({401, 403, 407, 429, 999})
OTHER = "https://other.example"

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.OUTWARD,
    needs=(LinkFacts,),
    summary="Broken external links",
    terms=(
        "dead link",
        "outbound link",
        "404",
    ),
    why="Visitors hit a dead end and blame the site that sent them there. Many such links make a page look neglected.",
    fix="Find the new URL of the linked page, or remove the link.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.5",
    messages={"broken": "The link “{text}” leads to {target}: {outcome}"},
    cause="target",
    cause_line="{target}: {outcome}; linked from {pages:page}",
    examples=(
        fails("broken")(page(doc(f'<a href="{OTHER}/a">x</a>')), Sample(f"{OTHER}/a", "", 404)),
        fails("broken")(
            page(doc(f'<a href="{OTHER}/a">x</a><a href="{OTHER}/b">y</a>')),
            Sample(f"{OTHER}/a", failure="dns"),
            Sample(f"{OTHER}/b"),
        ),
        passes(page(doc(f'<a href="{OTHER}/a">x</a>')), Sample(f"{OTHER}/a")),
        passes(page(doc(f'<a href="{OTHER}/a">x</a>')), Sample(f"{OTHER}/a", "", 403)),
        passes(page(doc(f'<a href="{OTHER}/a">x</a>')), Sample(f"{OTHER}/a", "", 503)),
        passes(page(doc(f'<a href="{OTHER}/a">x</a>')), Sample(f"{OTHER}/a", failure="dns")),
        passes(page(doc(f'<a href="{OTHER}/a">x</a>')), Sample(f"{OTHER}/a", "", 404), plan={"check_external": False}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, target in page.outlinks:
        if target.internal or target.state == "unknown":
            continue
        status = target.status
        if target.state != "done":
            yield Unsure(link.url, "the other site was not asked")
        elif status in DOUBTFUL or (status or 0) >= 500 or target.failure == "timeout":
            yield Unsure(link.url, f"the other site answers {status or 'too late'}, which it may tell programs only")
        elif status is None or status >= 400:
            snippet = f'<a href="{link.raw}">{link.text}</a>'
            where = {"text": link.text, "landmark": link.landmark, "snippet": snippet, "selector": f'a[href="{link.raw}"]'}
            yield Fail("broken", link.url, {"target": link.url, "outcome": target.outcome, **where})
