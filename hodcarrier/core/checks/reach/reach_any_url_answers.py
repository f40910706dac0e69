"""A made-up URL answers 200 instead of 404."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    Severity,
    SiteView,
    Subject,
    doc,
    fails,
    page,
    passes,
)

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.SITE,
    summary="Missing pages return 200",
    terms=(
        "soft 404",
        "error page",
    ),
    why="Search engines index error pages as if they were content, and never learn which pages are gone. Broken links cannot be found.",
    fix="Let the server answer 404 for what does not exist. The page may look as it does now.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.5.5",
    messages={"answers": "{url}, which does not exist, answers 200", "home": "{url}, which does not exist, leads to {to}"},
    cause="site",
    examples=(
        fails("answers")(page(doc()), plan={"sample_missing": {"status": 200}}),
        fails("home")(page(doc()), plan={"sample_missing": {"status": 301, "leads_to": "https://shop.example/"}}),
        passes(page(doc()), plan={"sample_missing": {"status": 404}}),
        passes(page(doc()), plan={"sample_missing": {"status": None, "failure": "timeout"}}),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    missing = site.probes.missing
    if missing is None or missing.status is None:
        return
    if missing.leads_to and missing.leads_to != missing.url:
        yield Fail("home", "", {"url": missing.url, "to": missing.leads_to})
    elif 200 <= missing.status < 300:
        yield Fail("answers", "", {"url": missing.url})
