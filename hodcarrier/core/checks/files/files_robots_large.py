"""robots.txt is larger than the 500 KiB that crawlers must read (RFC 9309, 2.5)."""

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
from hodcarrier.core.web.robots import READ_LIMIT_BYTES

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="robots.txt too large",
    terms=("file size",),
    why="Crawlers may stop reading after 500 KiB. The rules that follow hold for none of them.",
    fix="Replace single paths by patterns with *, and remove what no longer exists.",
    effort=Effort.MEDIUM,
    standard="RFC 9309, 2.5",
    messages={"large": "{kib} KiB; crawlers read {limit} KiB"},
    cause="site",
    examples=(
        fails("large")(page(doc()), text_file("/robots.txt", "User-agent: *\n" + "Disallow: /x\n" * 42_000)),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *\n" + "Disallow: /x\n" * 30_000)),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.robots.robots.size_bytes >= READ_LIMIT_BYTES:
        yield Fail("large", "", {"kib": round(site.robots.robots.size_bytes / 1024), "limit": READ_LIMIT_BYTES // 1024})
