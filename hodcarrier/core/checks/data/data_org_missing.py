"""The start page describes no organisation, nor any kind of one."""

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
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.things import of_kind

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="No organisation in the data of the start page",
    terms=("Organization", "knowledge panel", "logo", "schema.org"),
    why="Search engines take name, logo and profiles of a company from here. Without it they gather them from elsewhere.",
    fix="Describe the company on the start page: an Organization, or the kind of LocalBusiness it is, with name, url, logo and sameAs.",
    effort=Effort.SMALL,
    standard="schema.org Organization",
    messages={"missing": "The start page describes no Organization"},
    cause="site",
    examples=(
        fails("missing")(page(doc())),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Store", "name": "Ropes"}'))),
        passes(page("", status=500)),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start_document
    if start is not None and next(of_kind(start.data.things, "Organization", parts=True), None) is None:
        yield Fail("missing")
