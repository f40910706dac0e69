"""Scripts and styles that stand in the document itself weigh more than the limit. Data in scripts does not count."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Much inline CSS and JavaScript",
    terms=("inline", "CSS", "JavaScript", "caching"),
    why="What stands in the page is loaded again with every page, while a file is kept by the browser.",
    fix="Move it into files. Keep inline only the few rules that the first screen needs.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"inline": "{kib} KiB of inline CSS and JavaScript; up to {limit} KiB is fine"},
    cause="template",
    limits={"inline_bytes_max": Limit(102_400, "bytes", "most inline CSS and JavaScript that is still in order")},
    examples=(
        fails("inline")(page(doc(f"<script>{'x' * 21}</script>")), plan={"thresholds": {"inline_bytes_max": 20}}),
        passes(page(doc(f"<script>{'x' * 10}</script><style>{'x' * 10}</style>")), plan={"thresholds": {"inline_bytes_max": 20}}),
        passes(page(doc(f"<script type=application/json>{'x' * 21}</script>")), plan={"thresholds": {"inline_bytes_max": 20}}),
        passes(page(doc("<script>var rope</script>"))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    size = page.markup.inline_bytes
    if size > limits["inline_bytes_max"]:
        data = {
            "kib": round(size / 1024),
            "limit": round(limits["inline_bytes_max"] / 1024),
            "bytes": size,
            "selector": "script, style",
        }
        yield Fail("inline", "", data)
