"""A link that only a script follows: its address is a javascript: URL, or it has none and an onclick or the role of a link."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(LinkFacts,),
    summary="Links that only scripts follow",
    terms=("javascript links", "href missing", "onclick", "crawlability"),
    why="Search engines follow addresses, not scripts: pages behind such links are not found through them. They cannot be opened in a new tab either.",
    fix="Give the link the address it leads to and let the script improve on it. What opens nothing is a button, not a link.",
    effort=Effort.MEDIUM,
    standard="WHATWG HTML, 4.6.2; WCAG 2.2, 2.1.1",
    messages={"script": "“{text}” leads to {raw}", "none": "“{text}” has no address"},
    cause="element",
    cause_line="“{text}” on {pages:page}",
    examples=(
        fails("script")(page(doc("<a href='javascript:openMenu()'>Ropes</a>"))),
        fails("none")(page(doc("<a onclick='go()'>Anchors</a>"))),
        fails("none")(page(doc("<a role=link>Anchors</a>"))),
        passes(page(doc("<a href=/ropes onclick='go()'>Ropes</a><a id=top></a>"))),
        passes(page(doc("<button onclick='go()'>Menu</button>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for text, raw in page.links.scripted:
        said = text or "(no text)"
        place = f"{text} {raw}".strip() or "(no text)"
        selector = 'a[href^="javascript:" i]' if raw else "a:not([href])"
        yield Fail("script" if raw else "none", place, {"text": said, "raw": raw, "selector": selector})
