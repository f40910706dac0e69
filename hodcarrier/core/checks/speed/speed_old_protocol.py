"""The server answers in HTTP/1.0, which closes the connection after every answer unless told otherwise."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="Outdated HTTP version",
    terms=(
        "HTTP/1.0",
        "keep-alive",
    ),
    why="Every file of a page needs a connection of its own, which takes several round trips.",
    fix="Let the server or the proxy in front of it speak HTTP/1.1 or newer.",
    effort=Effort.SMALL,
    standard="RFC 9112, 9.3",
    messages={"old": "Answered in HTTP/{version}"},
    cause="site",
    cause_line="The server speaks HTTP/{version}",
    examples=(
        fails("old")(page(doc(), http_version="1.0")),
        passes(page(doc())),
        passes(page(doc(), http_version="2")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and answer.http_version in ("0.9", "1.0"):
        yield Fail("old", "", {"version": answer.http_version}, cause="server")
