"""The start page names neither an icon for home screens (apple-touch-icon) nor a manifest, which may hold some."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import line

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="No icon for home screens",
    terms=("touch icon", "apple-touch-icon", "manifest"),
    why="Who keeps the site on the home screen gets a shrunken screenshot or a letter instead of your sign.",
    fix='Add a link with rel="apple-touch-icon" to an image of 180 × 180 pixels, or a manifest with icons.',
    mend=line('<link rel="apple-touch-icon" href="/icon-of-180-pixels.png">'),
    effort=Effort.SMALL,
    standard="W3C Web Application Manifest; good practice",
    messages={"icon": "The start page names no touch icon and no manifest"},
    cause="site",
    examples=(
        fails("icon")(page(doc())),
        passes(page(doc(head="<link rel=apple-touch-icon href=/t.png>"))),
        passes(page(doc(head="<link rel=manifest href=/m.json>"))),
        passes(page("", status=500)),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start_document
    if start is None:
        return
    if not any(link.kind == "manifest" or any("touch-icon" in token for token in link.rel) for link in start.links.all):
        yield Fail("icon")
