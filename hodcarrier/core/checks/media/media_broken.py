"""A picture of the site answers 4xx, 5xx or nothing."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, gone, page, passes, text_file
from hodcarrier.core.views import FileView

CHECK = Check(
    severity="high",
    subject="file",
    needs="answer",
    summary="Pictures that do not load",
    why="Visitors see an empty frame where the product should be.",
    fix="Put the picture back, or take it out of the pages that show it.",
    effort="small",
    standard="WHATWG HTML, 4.8.4",
    messages={"broken": "{url} ends with: {outcome}; used by {pages:page}"},
    cause="target",
    cause_line="{url}: {outcome}",
    examples=(
        fails("broken")(page(doc("<img src=/i.png alt=x>"))),
        fails("broken")(page(doc("<img src=/i.png alt=x>")), gone("/i.png", 500)),
        passes(page(doc("<img src=/i.png alt=x>")), text_file("/i.png", "x", content_type="image/png")),
        passes(page(doc("<script src=/i.js></script>"))),
    ),
)


def find(file: FileView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    if file.kind == "image" and file.target.broken:
        yield Fail("broken", file.url, {"url": file.url, "outcome": file.target.outcome, "pages": file.used_by})
