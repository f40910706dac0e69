"""No page of the site has a postal address in an address element or in its data, or details of a registration, and the start page leads to no
page that is named after them. Silent in languages without a word list."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes
from hodcarrier.core.facts.signposts import Signpost, has_signpost, speaks

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="No address or registration anywhere",
    terms=("imprint", "legal notice", "postal address", "E-E-A-T"),
    why="A company without an address looks like one that does not want to be found. In many countries traders must give it.",
    fix="Put the postal address and the registration into the footer, or on a page that every page links to.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"missing": "No page shows a postal address or a registration, and the start page leads to none"},
    cause="site",
    examples=(
        fails("missing")(page(doc("<a href=/ropes>Ropes</a>"))),
        passes(page(doc("<address>Harbour Street 4, Milltown</address>"))),
        passes(page(doc("<a href=/legal-notice>Legal notice</a>"))),
        passes(page(doc("<a href=/koydet>Köydet</a>", lang="fi"))),
        passes(page("", status=500)),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start_document
    if start is None or not speaks(start.language.lang) or site.postal:
        return
    if not has_signpost(Signpost.IMPRINT, start.links.all):
        yield Fail("missing")
