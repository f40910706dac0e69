"""A drawing (SVG) holds a script, a handler of events or a javascript: link."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    FileView,
    Limits,
    Outcome,
    Sample,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
    text_file,
)
from hodcarrier.core.facts.answer import Answer


def svg(inside: str) -> Sample:
    """A sample drawing."""
    return text_file("/i.svg", f'<svg xmlns="http://www.w3.org/2000/svg">{inside}</svg>', content_type="image/svg+xml")


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Scripts in SVG images",
    terms=("SVG", "XSS", "security"),
    why="Who opens the drawing by itself runs its script on your domain. Uploaded drawings with scripts are a common way to attack visitors.",
    fix="Remove the script from the drawing. Clean drawings when they are uploaded.",
    effort=Effort.SMALL,
    standard="SVG 2, 2.2: secure static mode; CWE-79",
    messages={"script": "{url} holds a script"},
    cause="element",
    cause_line="{url}",
    examples=(
        fails("script")(page(doc("<img src=/i.svg alt=x>")), svg("<script>alert(1)</script>")),
        fails("script")(page(doc("<img src=/i.svg alt=x>")), svg('<g onload="alert(1)"/>')),
        passes(page(doc("<img src=/i.svg alt=x>")), svg('<path d="M0 0"/>')),
        passes(page(doc("<img src=/i.svg alt=x>")), svg("<script>")),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if file.read.scripted:
        yield Fail("script", "", {"url": file.url, "pages": file.used_by})
