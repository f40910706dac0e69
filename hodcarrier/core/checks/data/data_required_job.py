"""A thing of the kind JobPosting lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
part of another one, pass."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    lacks_of,
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Job posting data incomplete",
    terms=("JobPosting", "rich results", "jobs"),
    why="Job searches take postings only when these properties are there. An incomplete posting is not listed at all.",
    fix="Add what is named here. For work from anywhere set jobLocationType to TELECOMMUTE.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org JobPosting",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(
            page(ld('{"@context": "https://schema.org", "@type": "JobPosting", "title": "Rigger", "description": "Splice"}'))
        ),
        passes(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "JobPosting", "title": "Rigger", "description": "Splice", "datePosted": "2026-11-01", "hiringOrganization": "Ropes", "jobLocation": "Pier 4"}'
                )
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "JobPosting", "@id": "/#x"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from lacks_of(
        page.data.things, "JobPosting", "title", "description", "datePosted", "hiringOrganization", "jobLocation|jobLocationType"
    )
