"""A script or style sheet of the site answers 4xx, 5xx or nothing."""

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
    doc,
    fails,
    gone,
    page,
    passes,
    text_file,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Broken scripts or stylesheets",
    terms=(
        "JavaScript",
        "CSS",
        "404",
    ),
    why="Without its stylesheet a page loses its layout, and without its script a form may not work.",
    fix="Restore the file, or remove the element that requests it.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.5",
    messages={"broken": "{url} ({kind}) ends with: {outcome}; used by {pages:page}"},
    cause="target",
    cause_line="{url}: {outcome}",
    revision=2,
    examples=(
        fails("broken")(page(doc(head="<link rel=stylesheet href=/s.css>"))),
        fails("broken")(page(doc("<script src=/i.js></script>")), gone("/i.js", 500)),
        fails("broken")(page(doc("<script src=/i.js></script>", "<link rel=modulepreload href=/i.js>"))),
        passes(page(doc(head="<link rel=stylesheet href=/s.css>")), text_file("/s.css", "a{}", content_type="text/css")),
        passes(page(doc("<img src=/i.png alt=x>"))),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if file.needed_as and file.target.broken:
        yield Fail(
            "broken", file.url, {"url": file.url, "kind": file.needed_as, "outcome": file.target.outcome, "pages": file.used_by}
        )
