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
    why="Nothing is broken: without the file everything may be fetched. But it is the place to name the sitemap, and every crawler asks for it.",
    fix="Put a text file at /robots.txt, even if it only names the sitemap.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.3.1.3",
    messages={
        "missing": "{url} answers {status}",
        "redirected": "{url} redirects, and what it leads to answers {status}",
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
