"""A sitemap is not well-formed, has another root or namespace, or entries without an address."""

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
    sitemap,
    text_file,
)

WORDS = {
    "not-well-formed": "the file is not well-formed",
    "wrong-root": "the root element is neither urlset nor sitemapindex",
    "wrong-namespace": "the namespace is not that of the sitemap protocol",
    "no-loc": "an entry has no address",
    "not-gzip": "the compressed file is damaged",
}

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.SITE,
    summary="Sitemap is not valid",
    terms=(
        "XML error",
        "sitemap errors",
    ),
    why="Search engines read an invalid sitemap only up to the error, or not at all.",
    fix="Open the file in a browser, which names the line with the error. Characters such as & in URLs must be escaped.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9; XML 1.0",
    messages={"invalid": "{url}: {problem}"},
    cause="alone",
    cause_line="{url}: {problem}",
    across=True,
    examples=(
        fails("invalid")(
            page(doc()),
            text_file(
                "/sitemap.xml",
                '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><loc>https://shop.example/?a&b</loc></url></urlset>',
            ),
        ),
        fails("invalid")(page(doc()), text_file("/sitemap.xml", "<html><body>Not here</body></html>")),
        passes(page(doc()), sitemap("/")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for item in site.sitemaps:
        problems = [p for p in item.sitemap.problems if p in WORDS] if item.status == 200 else []
        if problems:
            yield Fail("invalid", item.url, {"url": item.url, "problem": WORDS[problems[0]]})
