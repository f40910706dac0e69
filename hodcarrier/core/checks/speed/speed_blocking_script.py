"""A script in the head has neither async nor defer and is no module, so that it holds up drawing."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import flag
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.FILES,
    needs=(LinkFacts, MarkupFacts),
    summary="Render-blocking scripts",
    terms=(
        "async",
        "defer",
        "JavaScript in head",
    ),
    why="The browser stops at the script until it is there and has run. Visitors see a white page meanwhile.",
    fix="Add defer to the script element. Use async for scripts that depend on nothing, such as statistics.",
    mend=flag("defer"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.12.1",
    messages={"blocking": "{url} holds up drawing"},
    cause="element",
    cause_line="{url} on {pages:page}",
    examples=(
        fails("blocking")(page(doc(head="<script src=/a.js></script>"))),
        passes(page(doc(head="<script defer src=/a.js></script>"))),
        passes(page(doc(head="<script async src=/a.js></script>"))),
        passes(page(doc(head="<script type=module src=/a.js></script>"))),
        passes(page(doc("<script src=/a.js></script>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    urls = {link.raw: link.url for link in page.distinct_links("script")}
    for raw in dict.fromkeys(page.markup.blocking_scripts):
        url = urls.get(raw, raw)
        yield Fail("blocking", url, {"url": url, "selector": f'head script[src="{raw}"]'})
