"""A script, style sheet or picture of the site's pages is kept out by robots.txt. The cause is the rule.

A file whose robots.txt cannot be reached is unverified. The rule counts for our agent's product token, whether the plan
obeys it or not.
"""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    FileView,
    Limits,
    Outcome,
    Severity,
    Subject,
    Unsure,
    doc,
    fails,
    page,
    passes,
    text_file,
)
from hodcarrier.core.web.robots import UNREACHABLE

SHUT = text_file("/robots.txt", "User-agent: *\nDisallow: /assets/")

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.FILE,
    summary="Page resources blocked by robots.txt",
    terms=(
        "disallow",
        "CSS",
        "JavaScript",
        "rendering",
    ),
    why="Search engines render a page before they assess it. Without its scripts, stylesheets or images they see a different page from visitors, and blocked images cannot appear in image search.",
    fix="Allow these files in robots.txt, or narrow the rule to what must stay blocked. If search engines lose nothing by it, waive this finding.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.2",
    messages={"kept-out": "{url} is blocked by {rule}; used by {pages:page}"},
    cause="target",
    cause_line="{cause} blocks {findings:file} that pages use",
    revision=2,
    examples=(
        fails("kept-out")(page(doc("<script src=/assets/menu.js></script>")), SHUT),
        fails("kept-out")(page(doc("", head="<link rel=stylesheet href=/assets/site.css>")), SHUT),
        fails("kept-out")(page(doc("<img src=/assets/rope.jpg alt=Rope>")), SHUT),
        fails("kept-out")(
            page(doc("<img src=/assets/rope.jpg alt=Rope>")),
            SHUT,
            text_file("/assets/rope.jpg", "x", content_type="image/jpeg"),
            plan={"obey_robots": False},
        ),
        passes(page(doc("<script src=/menu.js></script>")), SHUT),
        passes(page(doc("<video src=/assets/knots.mp4></video>")), SHUT),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not file.robots_rule or not (file.needed_as or file.is_picture):
        return
    if file.robots_rule == UNREACHABLE:
        yield Unsure("", file.robots_rule)
    else:
        yield Fail("kept-out", "", {"url": file.url, "rule": file.robots_rule, "pages": file.used_by}, cause=file.robots_rule)
