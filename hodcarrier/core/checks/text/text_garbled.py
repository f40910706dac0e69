"""Characters of the main text are lost (U+FFFD) or were read in another encoding than they were written in, twice or more.

Read wrongly are sequences that give other letters when they are put back into windows-1252 and read as UTF-8."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.text import TextFacts

# One alone may be shown on purpose.
TOLD_FROM = 2

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(TextFacts,),
    summary="Garbled characters",
    terms=("encoding", "mojibake", "UTF-8", "replacement character"),
    why="The text was written in one encoding and read in another. Visitors stumble over it, and searches for these words do not find the page.",
    fix="Find the step that converts the text wrongly (database, import, template) and convert what is stored once.",
    effort=Effort.MEDIUM,
    standard="The Unicode Standard, 5.22; WHATWG Encoding",
    messages={"lost": "Characters are lost in “{text}”", "wrong": "“{text}” should read “{right}”"},
    cause="template",
    examples=(
        fails("wrong")(page(doc("<p>Seil fÃ¼r kleine Boote, auch fÃ¼r groÃŸe"))),
        fails("lost")(page(doc("<p>Seil f\ufffdr kleine Boote, auch gro\ufffde"))),
        passes(page(doc("<p>Seil für große Boote, São Paulo, PÃO"))),
        passes(page(doc("<p>One \ufffd is shown as an example"))),
        passes(page(doc("<p>Rope"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    found = page.text.garbled
    if len(found) >= TOLD_FROM:
        text, right = found[0]
        yield Fail("wrong" if right else "lost", "", {"text": text, "right": right, "words": [word for word, _ in found]})
