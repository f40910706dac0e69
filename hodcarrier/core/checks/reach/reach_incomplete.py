"""A page answers, but its body does not come whole: cut short, wrongly framed, wrongly compressed, or too tangled to read.

What is cut by the plan's own limit of bytes is no fault of the site. The other checks do not judge a page of which only a part
is known; it is unverified for them.
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
    doc,
    fails,
    gone,
    page,
    passes,
)
from hodcarrier.core.facts.answer import FAILURES, Answer

LINKED = page(doc('<a href="/a">Anchors</a>'))
BROKEN = frozenset({"reset", "timeout", "protocol", "decode", "tangled"})

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="Pages cut off in transfer",
    terms=(
        "incomplete response",
        "truncated",
        "content-length",
    ),
    why="The response breaks off before it is complete. Visitors see half a page or an error, and search engines index what arrived or crawl the site less.",
    fix="Request the page with a plain HTTP client and compare what arrives with what the headers announce: length, chunks and compression. A proxy or a failing script is the usual cause.",
    effort=Effort.MEDIUM,
    standard="RFC 9112, 6.3 and 8",
    messages={"cut": "{url} returns {status}, but {reason}"},
    cause="target",
    cause_line="{url}: {reason}",
    examples=(
        *(fails("cut")(LINKED, Sample("/a", doc(), cut=failure)) for failure in sorted(BROKEN)),
        passes(LINKED, Sample("/a", doc(), cut="too-large")),
        passes(LINKED, Sample("/a", failure="reset")),
        passes(LINKED, page(doc(), "/a")),
        passes(LINKED, gone("/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and answer.status is not None and answer.failure in BROKEN:
        yield Fail("cut", "", {"url": page.url, "status": answer.status, "reason": FAILURES[answer.failure]})
