"""A document that is no page (a PDF, an archive) weighs more than the limit. It is told once, on the document, not on those who link to it."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Sample,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer

MIB = 1024 * 1024


def paper(size: int) -> Sample:
    """A sample PDF that announces this many bytes."""
    return Sample("/r.pdf", "%PDF", 200, (("content-type", "application/pdf"), ("content-length", str(size))))


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="Large documents linked",
    terms=("PDF", "download", "file size"),
    why="Who follows the link waits and pays for a download that the link did not announce. Search engines read only the beginning of such files.",
    fix="Save the document for the web, split it, or say its size in the link.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"large": "{mib} MiB; up to {limit} MiB are fine"},
    cause="target",
    cause_line="{mib} MiB",
    limits={"document_mib_max": Limit(10, "MiB", "heaviest document that is still in order")},
    examples=(
        fails("large")(page(doc("<a href=/r.pdf>Ropes</a>")), paper(10 * 1024 * 1024 + 1)),
        passes(page(doc("<a href=/r.pdf>Ropes</a>")), paper(10 * 1024 * 1024)),
        passes(page(doc("<a href=/r.pdf>Ropes</a>")), paper(10 * 1024 * 1024 + 1), plan={"thresholds": {"document_mib_max": 11}}),
        passes(page(doc("<a href=/r.pdf>Ropes</a>")), paper(2_000)),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is None or answer.is_html or answer.status != 200:
        return
    size = max(answer.wire_bytes, answer.announced_bytes or 0)
    if size > limits["document_mib_max"] * MIB:
        data = {"mib": round(size / MIB, 1), "limit": round(limits["document_mib_max"], 1), "bytes": size}
        yield Fail("large", "", data)
