"""Dates of last change in sitemaps that are no W3C datetime, lie in the future, or are the same instant on all of many entries."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    Sample,
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


def dated(*dates: str) -> Sample:
    """A sample sitemap of so many dates."""
    urls = "".join(f"<url><loc>https://shop.example/{n}</loc><lastmod>{date}</lastmod></url>" for n, date in enumerate(dates))
    return text_file(
        "/sitemap.xml",
        f'<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{urls}</urlset>',
        content_type="application/xml",
    )


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="Unusable dates in the sitemap",
    terms=(
        "lastmod",
        "W3C datetime",
    ),
    why="Search engines stop believing the dates of a sitemap when they see that they are wrong, and visit pages less purposefully.",
    fix="Write the date on which the page last changed, as 2026-11-27 or with time and zone. Leave it out where it is not known.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9; W3C Date and Time Formats",
    messages={
        "form": "{count:date} in a form that is not readable, such as “{example}”",
        "future": "{count:date} in the future, such as {example}",
        "same": "All {count} entries carry the same instant, {example}",
    },
    cause="site",
    examples=(
        fails("form")(page(doc()), dated("27/11/2026")),
        fails("future")(page(doc()), dated("2027-01-01")),
        fails("same")(page(doc()), dated(*["2026-11-01T04:00:00Z"] * 10)),
        passes(page(doc()), dated("2026-11-01", "2026-11-02T10:00:00+01:00", "2026", "2026-10")),
        passes(page(doc()), dated(*["2026-11-01"] * 10)),
        passes(page(doc()), sitemap("/")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    found = {"form": site.listed.dates_unreadable, "future": site.listed.dates_in_future, "same": site.listed.dates_all_same}
    for name, (count, example) in found.items():
        if count:
            yield Fail(name, name, {"count": count, "example": example})
