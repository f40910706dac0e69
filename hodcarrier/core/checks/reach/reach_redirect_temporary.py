"""An in-scope address answers 302, 303 or 307 (RFC 9110, 15.4)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    moved,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import line
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.REDIRECT,
    needs=(Answer,),
    summary="Temporary redirects",
    terms=(
        "302",
        "303",
        "307",
        "301",
    ),
    why="A temporary redirect tells search engines that the old URL will return. They may keep it in their results and pass less authority on to the new one.",
    fix="Return 301 or 308 if the page has moved permanently. If the redirect really is temporary, waive this finding until it ends.",
    mend=line("HTTP/1.1 301 Moved Permanently\nLocation: {to}"),
    effort=Effort.SMALL,
    standard="RFC 9110, 15.4.3, 15.4.4 and 15.4.8",
    messages={"temporary": "{url} redirects to {to} with {status} (temporary)"},
    cause="target",
    cause_line="{url} returns {status}",
    examples=(
        fails("temporary")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b", 302), page(doc(), "/b")),
        fails("temporary")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b", 307), page(doc(), "/b")),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b", 301), page(doc(), "/b")),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b", 308), page(doc(), "/b")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and answer.status in (302, 303, 307) and answer.header("location"):
        yield Fail("temporary", "", {"url": page.url, "status": answer.status, "to": answer.header("location")})
