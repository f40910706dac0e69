"""The start page names no icon, and there is none at /favicon.ico, where browsers look for one."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="No favicon",
    terms=("favicon", "icon", "tab"),
    why="Tabs, bookmarks and many results of searches show an empty sheet where others show their sign. Browsers ask for the file in vain.",
    fix="Link an icon in the head of every page, or put one at /favicon.ico.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.6.7.8",
    messages={"missing": "No link to an icon, and /favicon.ico answers {status}"},
    cause="site",
    examples=(
        fails("missing")(page(doc()), plan={"sample_icon": 404}),
        passes(page(doc()), plan={"sample_icon": 200}),
        passes(page(doc(head="<link rel='shortcut icon' href=/i.png>")), plan={"sample_icon": 404}),
        fails("missing")(page(doc(head="<link rel=apple-touch-icon href=/i.png>")), plan={"sample_icon": 404}),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    icon, start = site.probes.icon, site.start_document
    if icon is None or icon.status is None or icon.status < 400 or start is None:
        return
    # Touch icons are of the same kind; files of earlier releases do not say.
    if not any(link.kind == "icon" and (not link.rel or "icon" in link.rel) for link in start.links.all):
        yield Fail("missing", "", {"status": icon.status})
