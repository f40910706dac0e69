"""The start page asks not to be indexed, by meta or by header."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes
from hodcarrier.core.facts.indexable import is_noindex

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.SITE,
    summary="Home page set to noindex",
    terms=(
        "robots meta",
        "X-Robots-Tag",
    ),
    why="The home page tells search engines to leave it out of their results. This is often a staging setting that went live by mistake.",
    fix="Remove noindex from the robots meta tag and from the X-Robots-Tag header of the home page.",
    effort=Effort.SMALL,
    standard="RFC 9309 (crawling); robots meta directives",
    messages={"noindex": "{url} has: {directives}"},
    cause="site",
    examples=(
        fails("noindex")(page(doc(head="<title>Rope</title><meta name=robots content=noindex>"))),
        fails("noindex")(page(doc(), headers=(("content-type", "text/html"), ("x-robots-tag", "none")))),
        passes(page(doc(head='<meta name=robots content="nofollow">'))),
        passes(page(doc(), headers=(("content-type", "text/html"), ("x-robots-tag", "otherbot: noindex")))),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start
    if start is not None and is_noindex(start.directives):
        yield Fail("noindex", "", {"url": start.url, "directives": ", ".join(sorted(start.directives))})
