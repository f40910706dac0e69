"""The page is a listing of a folder that a server made by itself: its title and its H1 name the folder, and it links to the folder above."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.facts.text import TextFacts
from hodcarrier.core.facts.values import FOLLOWED_KINDS

# As the common web servers title them.
LISTING = re.compile(r"(?:Index of|Directory listing for|Directory listing of|Contents of) (/\S*)", re.I)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(HeadFacts, TextFacts, LinkFacts),
    summary="Open folder listing",
    terms=("directory listing", "index of", "exposure"),
    why="Anyone can look through the files: drafts, backups, exports. Search engines index the list instead of a page.",
    fix="Switch listings off in the server's settings, and look at what was to be seen.",
    effort=Effort.SMALL,
    standard="CWE-548",
    messages={"listing": "The server lists the files of {folder}"},
    cause="alone",
    cause_line="{folder}",
    examples=(
        fails("listing")(page(doc("<h1>Index of /files</h1><a href=/>Parent Directory</a>", "<title>Index of /files</title>"))),
        fails("listing")(
            page(doc("<h1>Directory listing for /files/</h1><a href=../>..</a>", "<title>Directory listing for /files/</title>"))
        ),
        passes(page(doc("<h1>Index of ropes</h1><a href=/>Up</a>", "<title>Index of ropes</title>"))),
        passes(page(doc("<h1>How to</h1><a href=/>Up</a>", "<title>Index of /files explained</title>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    said = LISTING.fullmatch(page.head.title)
    if said and LISTING.fullmatch(page.text.h1) and any(link.kind in FOLLOWED_KINDS for link in page.links.all):
        yield Fail("listing", "", {"folder": said.group(1), "selector": "h1"})
