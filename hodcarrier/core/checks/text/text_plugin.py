"""The page embeds content that needs a plug-in: an object or embed of a type that browsers dropped."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.web.urls import split

PLUGIN = re.compile(r"\.(?:swf|class|jar|xap|dcr)$", re.I)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(LinkFacts,),
    summary="Plug-in content",
    terms=(
        "Flash",
        "applet",
        "object",
        "embed",
    ),
    why="Browsers no longer run plug-ins. Visitors see an empty box, and search engines nothing.",
    fix="Replace it with HTML, video or an image.",
    effort=Effort.MEDIUM,
    standard="WHATWG HTML, 4.8.6 and 16.2",
    messages={"plugin": "Needs a plug-in: {url}"},
    cause="target",
    cause_line="{url} on {pages:page}",
    examples=(
        fails("plugin")(page(doc("<object data=/rope.swf></object>"))),
        fails("plugin")(page(doc("<embed src=/rope.SWF?v=1>"))),
        passes(page(doc("<object data=/rope.pdf></object>"))),
        passes(page(doc("<video src=/rope.mp4></video>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link in page.distinct_links("object", "media"):
        if PLUGIN.search(split(link.url).path):
            yield Fail("plugin", link.url, {"url": link.url, "selector": f'[data="{link.raw}"], [src="{link.raw}"]'})
