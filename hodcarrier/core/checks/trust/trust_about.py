"""The start page leads to no page about the company. Silent in languages without a word list."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes
from hodcarrier.core.facts.signposts import Signpost, has_signpost, speaks

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="No page about the company",
    terms=("about us", "E-E-A-T", "company"),
    why="People want to know with whom they deal, and so do those who rate pages for search engines.",
    fix="Write a page that says who you are, since when and what you know about your subject, and link to it from every page.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"missing": "The start page leads to no page about the company"},
    cause="site",
    examples=(
        fails("missing")(page(doc("<a href=/ropes>Ropes</a>"))),
        passes(page(doc("<a href=/who-we-are>Who we are</a>"))),
        passes(page(doc("<a href=/koydet>Köydet</a>", lang="fi"))),
        passes(page("", status=500)),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start_document
    if start is not None and speaks(start.language.lang) and not has_signpost(Signpost.ABOUT, start.links.all):
        yield Fail("missing")
