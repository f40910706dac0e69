"""HTML of more than the limit is sent without a content encoding though the request offers gzip, deflate and br."""

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
from hodcarrier.core.catalogue.mending import line
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(Answer, MarkupFacts),
    summary="Pages sent uncompressed",
    terms=(
        "gzip",
        "Brotli",
        "content-encoding",
    ),
    why="Compressed HTML is about a quarter of the size. Without compression, every visitor downloads four times as much.",
    fix="Enable gzip or Brotli for text on the server or the CDN. It is one setting for the whole site.",
    mend=line("Content-Encoding: gzip"),
    effort=Effort.SMALL,
    standard="RFC 9110, 8.4",
    messages={"plain": "{bytes} bytes, not compressed"},
    cause="site",
    revision=2,
    cause_line="The server sends {pages:page} uncompressed",
    limits={"plain_bytes_max": Limit(1024, "bytes", "largest document that may go uncompressed")},
    examples=(
        fails("plain")(page(doc_of_size(1025))),
        fails("plain")(page(doc_of_size(1025), headers=(("content-type", "text/html"), ("content-encoding", "identity")))),
        passes(page(doc_of_size(1024))),
        passes(page(doc("<p>" + "a" * 1024), headers=(("content-type", "text/html"), ("content-encoding", "gzip")))),
        passes(page(doc("<p>Rope"))),
        passes(page(doc("<p>" + "a" * 1024)), plan={"thresholds": {"plain_bytes_max": 4096}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and not answer.is_encoded and page.markup.html_bytes > limits["plain_bytes_max"]:
        yield Fail("plain", "", {"bytes": page.markup.html_bytes, "limit": int(limits["plain_bytes_max"])}, cause="server")
