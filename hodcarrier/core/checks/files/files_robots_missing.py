"""robots.txt answers 404 or 410. By RFC 9309, 2.3.1.3 everything is then allowed."""

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
    gone,
    moved,
    page,
    passes,
    text_file,
)

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="robots.txt missing",
    terms=("robots.txt 404",),
    why="Nothing is blocked without robots.txt, but every crawler asks for it, and it is where the sitemap is announced.",
    fix="Add a text file at /robots.txt, even if it only names the sitemap.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.3.1.3",
    messages={
        "missing": "{url} returns {status}",
        "redirected": "{url} redirects to a URL that returns {status}",
    },
    revision=2,
    cause="site",
    examples=(
        fails("missing")(page(doc())),
        fails("missing")(page(doc()), gone("/robots.txt", 410)),
        fails("redirected")(page(doc()), moved("/robots.txt", "/nowhere")),
        passes(page(doc()), text_file("/robots.txt", "")),
        passes(page(doc()), gone("/robots.txt", 403)),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.robots.status in (404, 410):
        yield Fail("redirected" if site.robots.hops else "missing", "", {"url": site.robots.url, "status": site.robots.status})
