"""The start page leads to no privacy notice. Silent in languages without a word list."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes
from hodcarrier.core.facts.signposts import Signpost, has_signpost, speaks

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="No privacy notice",
    terms=("privacy policy", "GDPR", "data protection"),
    why="Whoever collects data must say what becomes of them, and a link from every page is what people and authorities look for.",
    fix="Publish a privacy notice and link to it from the footer of every page.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"missing": "The start page leads to no privacy notice"},
    cause="site",
    examples=(
        fails("missing")(page(doc("<a href=/ropes>Ropes</a>"))),
        passes(page(doc("<footer><a href=/datenschutz>Datenschutz</a></footer>"))),
        passes(page(doc("<a href=/koydet>Köydet</a>", lang="fi"))),
        passes(page("", status=500)),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start_document
    if start is not None and speaks(start.language.lang) and not has_signpost(Signpost.PRIVACY, start.links.all):
        yield Fail("missing")
