"""A script or style sheet of more than 4 KiB consists of white space and comments for more than a share that could be taken out."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    FileView,
    Limit,
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

BYTES_MIN = 4_096


def script(thousandths: int) -> Sample:
    """A sample script of 5,000 bytes with so many thousandths of comments."""
    comment = 5 * thousandths
    return text_file("/a.js", "/*" + "c" * (comment - 4) + "*/" + "a" * (5_000 - comment), content_type="text/javascript")


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="Scripts and styles not minified",
    terms=("minify", "CSS", "JavaScript", "build"),
    why="Comments and indents are for those who write the file. Every visitor loads them.",
    fix="Let the build take them out before the site is published.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"waste": "{percent} % of {url} are white space and comments; up to {limit} % is fine"},
    cause="element",
    cause_line="{url}: {percent} %",
    limits={"minify_waste_max": Limit(15, "percent", "largest share of white space and comments that is still in order")},
    examples=(
        fails("waste")(page(doc("<script src=/a.js></script>")), script(151)),
        passes(page(doc("<script src=/a.js></script>")), script(150)),
        passes(page(doc("<script src=/a.js></script>")), script(151), plan={"thresholds": {"minify_waste_max": 16}}),
        passes(page(doc("<script src=/a.js></script>")), text_file("/a.js", "var a\n\n\n\n", content_type="text/javascript")),
    ),
)


def find(file: FileView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    percent = 100 * file.read.waste
    if file.answer.status == 200 and file.answer.decoded_bytes > BYTES_MIN and percent > limits["minify_waste_max"]:
        data = {
            "url": file.url,
            "percent": round(percent, 1),
            "limit": round(limits["minify_waste_max"], 1),
            "pages": file.used_by,
        }
        yield Fail("waste", "", data)
