"""The HTML of a page is larger than what search engines read of one, decoded: they take the beginning and leave the rest."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    doc_of_size,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer

MIB = 1024 * 1024

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="HTML larger than search engines read",
    terms=("file size limit", "crawl limit", "truncated"),
    why="Search engines stop reading after so many bytes. Text and links behind that point do not exist for them.",
    fix="Split the page, load long lists in parts, and move inline data into files.",
    effort=Effort.LARGE,
    standard="Good practice of search engines",
    messages={
        "cut": "{mib} MiB of HTML; up to {limit} MiB is read",
    },
    cause="alone",
    cause_line="{mib} MiB",
    limits={"html_mib_max": Limit(15, "MiB", "largest HTML that is still read whole")},
    examples=(
        fails("cut")(page(doc_of_size(1_048_577)), plan={"thresholds": {"html_mib_max": 1}}),
        passes(page(doc_of_size(1_048_576)), plan={"thresholds": {"html_mib_max": 1}}),
        passes(page(doc())),
        passes(page(doc_of_size(1_048_577))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is None or not answer.is_html or not answer.is_success:
        return
    if answer.decoded_bytes > limits["html_mib_max"] * MIB:
        data = {"mib": round(answer.decoded_bytes / MIB, 1), "limit": round(limits["html_mib_max"], 1)}
        yield Fail("cut", "", data)
