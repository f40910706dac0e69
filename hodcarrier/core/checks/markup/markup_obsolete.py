"""Elements that authors must not use (WHATWG HTML, 16.2). Frames and plug-ins have checks of their own."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.markup import MarkupFacts

# By the checks of frames and of plug-ins.
TOLD_ELSEWHERE = frozenset({"frameset", "applet"})

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Obsolete HTML elements",
    terms=("deprecated", "font", "center", "marquee"),
    why="Browsers still draw these elements, but they mix looks with content and may be dropped. They usually mark templates that nobody has touched for years.",
    fix="Replace them: style sheets for looks, strong and em for emphasis, del for deleted text.",
    effort=Effort.MEDIUM,
    standard="WHATWG HTML, 16.2",
    messages={"obsolete": "{elements}"},
    cause="template",
    examples=(
        fails("obsolete")(page(doc("<center><font color=red>Rope</font></center>"))),
        passes(page(doc("<strong>Rope</strong>"))),
        passes(page('<frameset><frame src="/a"></frameset>')),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    found = [(name, count) for name, count in page.markup.obsolete if name not in TOLD_ELSEWHERE]
    if found:
        told = ", ".join(f"<{name}> {count} times" if count > 1 else f"<{name}> once" for name, count in found)
        yield Fail("obsolete", "", {"elements": told, "selector": found[0][0]})
