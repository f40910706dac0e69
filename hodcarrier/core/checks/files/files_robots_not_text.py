"""What answers for robots.txt is HTML or another markup, not text (RFC 9309, 2.3: the file is UTF-8 encoded text)."""

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
    page,
    passes,
    text_file,
)

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.SITE,
    summary="robots.txt is not plain text",
    terms=(
        "content type",
        "HTML instead of robots.txt",
    ),
    why="Crawlers find no rule in a web page, so nothing is blocked and no sitemap is named, whatever robots.txt was meant to say.",
    fix="Serve the file itself as text/plain. If there is none, answer 404 instead of the start page or an error page with status 200.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.3",
    messages={"markup": "{url} answers with {what}"},
    cause="site",
    examples=(
        fails("markup")(page(doc()), text_file("/robots.txt", doc(), content_type="text/html")),
        fails("markup")(page(doc()), text_file("/robots.txt", "\n <!doctype html><p>Rope")),
        fails("markup")(page(doc()), text_file("/robots.txt", "{}", content_type="application/json")),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow: /x", content_type="text/html")),
        passes(page(doc()), text_file("/robots.txt", "", content_type="")),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow:", content_type="application/octet-stream")),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.robots.is_markup:
        yield Fail("markup", "", {"url": site.robots.url, "what": site.robots.content_type or "markup"})
