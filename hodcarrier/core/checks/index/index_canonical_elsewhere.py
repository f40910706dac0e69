"""Most documents of the site name a canonical on another host, so that the site asks to be left out in favour of that one.

Their pages are then not indexable, and no check of indexable pages speaks of them: this is said once, at the top. The plan can have such a
site examined as if its pages were indexable, for staging sites.
"""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    Severity,
    SiteView,
    Subject,
    doc,
    fails,
    page,
    passes,
)

AWAY = '<link rel=canonical href="https://other.example/">'

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.SITE,
    summary="Canonicals point to another site",
    terms=(
        "rel=canonical",
        "wrong host",
        "staging",
    ),
    why="Search engines index the other site instead of this one. It usually happens when a site moves or goes live and the old host stays in a setting.",
    fix="Correct the public address in the settings of the site, so that each page names itself. If this is a staging site, switch off “Obey canonicals to other hosts” in the plan to have its pages examined all the same.",
    effort=Effort.SMALL,
    standard="RFC 6596",
    messages={"elsewhere": "{pages:page} of {documents} name a canonical on {host}, so they are not indexable"},
    cause="site",
    across=True,
    limits={"canonical_elsewhere_max": Limit(50, "%", "most documents that may name a canonical on one other host")},
    examples=(
        fails("elsewhere")(page(doc(head=AWAY))),
        fails("elsewhere")(page(doc("<a href=/a>a</a><a href=/b>b</a>", AWAY)), page(doc(head=AWAY), "/a"), page(doc(), "/b")),
        fails("elsewhere")(page(doc(head=AWAY)), plan={"obey_canonical": False}),
        passes(page(doc("<a href=/a>a</a>", AWAY)), page(doc(), "/a")),
        passes(page(doc("<a href=/a>a</a>", '<link rel=canonical href="/a">')), page(doc(), "/a")),
        passes(page(doc())),
    ),
)


def find(site: SiteView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for host, pages in site.canonical_hosts:
        if 100 * pages > limits["canonical_elsewhere_max"] * site.documents:
            yield Fail("elsewhere", "", {"host": host, "pages": pages, "documents": site.documents})
