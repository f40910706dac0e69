"""The start page leads to no contact page, has no link to call or write, and no telephone or mail in its data. Silent in languages without a
word list."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes
from hodcarrier.core.facts.signposts import Signpost, has_signpost, speaks

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="No way to get in touch",
    terms=("contact", "E-E-A-T", "support"),
    why="Who cannot ask does not buy. Raters of search engines look for a way to reach a company, above all where money changes hands.",
    fix="Link to a contact page from every page, or show a telephone number and an address for mail.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"missing": "The start page leads to no contact page and shows no way to call or write"},
    cause="site",
    examples=(
        fails("missing")(page(doc("<a href=/ropes>Ropes</a>"))),
        passes(page(doc("<a href=/contact>Contact</a>"))),
        passes(page(doc("<a href=mailto:desk@shop.example>Write</a>"))),
        passes(page(doc("<a href=/koydet>Köydet</a>", lang="fi"))),
        passes(page("", status=500)),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start_document
    if start is None or not speaks(start.language.lang):
        return
    told = start.links.reachable or any(thing.has("telephone", "email", "contactPoint") for thing in start.data.things)
    if not told and not has_signpost(Signpost.CONTACT, start.links.all):
        yield Fail("missing")
