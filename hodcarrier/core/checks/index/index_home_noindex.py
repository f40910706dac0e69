"""The start page asks not to be indexed, by meta or by header."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.indexable import is_noindex
from hodcarrier.core.views import SiteView

CHECK = Check(
    severity="critical",
    subject="site",
    needs="address",
    summary="The start page asks not to be indexed",
    why="The most important page of the site tells search engines to leave it out of their results. Often a setting of the building site that went live by mistake.",
    fix="Take noindex out of the robots meta element and of the X-Robots-Tag header of the start page.",
    effort="small",
    standard="RFC 9309 (crawling); robots meta directives",
    messages={"noindex": "{url} carries: {directives}"},
    cause="site",
    examples=(
        fails("noindex")(page(doc(head="<title>Rope</title><meta name=robots content=noindex>"))),
        fails("noindex")(page(doc(), headers=(("content-type", "text/html"), ("x-robots-tag", "none")))),
        passes(page(doc(head='<meta name=robots content="nofollow">'))),
        passes(page(doc(), headers=(("content-type", "text/html"), ("x-robots-tag", "otherbot: noindex")))),
    ),
)


def find(site: SiteView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start
    if start is not None and is_noindex(start.directives):
        yield Fail("noindex", "", {"url": start.url, "directives": ", ".join(sorted(start.directives))})
