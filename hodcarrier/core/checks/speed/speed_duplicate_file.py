"""Two addresses of the site hold the same bytes. Only files that were read whole are compared: scripts, style sheets, drawings and small images,
of 1 KiB or more."""

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

BYTES_MIN = 1_024
PAGE = page(doc("<script src=/a.js?v=1></script><script src=/a.js?v=2></script>"))


def script(path: str, letter: str) -> Sample:
    """A sample script of 1,024 letters."""
    return text_file(path, letter * 1_024, content_type="text/javascript")


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.FILE,
    needs=(Answer,),
    summary="The same file under several URLs",
    terms=("duplicate files", "caching", "version parameter"),
    why="Browsers keep each address for itself, so visitors load the same file twice.",
    fix="Use one address everywhere. Look for version parameters and for copies in several folders.",
    effort=Effort.SMALL,
    standard="RFC 9111, 2",
    messages={"same": "{url} holds the same as {other}"},
    cause="element",
    cause_line="{url} and {other}",
    examples=(
        fails("same", "same")(PAGE, script("/a.js?v=1", "a"), script("/a.js?v=2", "a")),
        passes(PAGE, script("/a.js?v=1", "a"), script("/a.js?v=2", "b")),
        passes(page(doc("<script src=/a.js></script>")), script("/a.js", "a")),
    ),
)


def find(file: FileView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if file.same_as and file.answer.status == 200 and file.answer.decoded_bytes >= BYTES_MIN:
        data = {"url": file.url, "other": file.same_as[0], "others": list(file.same_as[:20]), "pages": file.used_by}
        yield Fail("same", "", data)
