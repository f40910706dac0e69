"""The start page over https carries no Strict-Transport-Security header, or one with too short an age (RFC 6797, 6.1.1)."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    Sample,
    Severity,
    SiteView,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import line

AGE = re.compile(r"max-age\s*=\s*\"?(\d+)", re.I)


def hsts(value: str) -> Sample:
    """A sample start page with this header."""
    return page(doc(), headers=(("content-type", "text/html"), ("strict-transport-security", value)))


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="HSTS missing or too short",
    terms=(
        "Strict-Transport-Security",
        "HTTPS",
    ),
    why="Without this header the first request of a visit may go over HTTP and can be intercepted before the redirect.",
    fix="Send Strict-Transport-Security with a max-age of at least 180 days once the whole site works over HTTPS.",
    mend=line("Strict-Transport-Security: max-age=31536000"),
    effort=Effort.SMALL,
    standard="RFC 6797, 6.1",
    messages={
        "missing": "{url} sends no Strict-Transport-Security header",
        "short": "The header is valid for {days:day}; at least {limit} are recommended",
    },
    cause="site",
    limits={"hsts_days_min": Limit(180, "days", "shortest age that is in order")},
    examples=(
        fails("missing")(page(doc())),
        fails("short")(hsts("max-age=15551999")),
        passes(hsts("max-age=15552000; includeSubDomains")),
        passes(page(doc(), "/"), plan={"start": ["http://shop.example/"]}),
    ),
)


def find(site: SiteView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start
    if start is not None and start.answer is not None and start.answer.status is not None and start.is_secure:
        value = start.answer.header("strict-transport-security")
        found = AGE.search(value)
        if found is None:
            yield Fail("missing", "", {"url": start.url})
        elif int(found.group(1)) < limits["hsts_days_min"] * 86400:
            yield Fail(
                "short", "", {"url": start.url, "days": int(found.group(1)) // 86400, "limit": int(limits["hsts_days_min"])}
            )
