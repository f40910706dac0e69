"""A page answers 200 though its title or its first H1 says that there is nothing, and its text is short."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.text import TextFacts

WORDS_MAX = 120
SAID = re.compile(
    r"\b(?:page|site|product|article|document|file) (?:was |could |can ?|is |has )?(?:not (?:be )?found|no longer exist|does not exist|doesn.t exist)|\bnot found\b(?! at| in| on)"
    r"|^\W*(?:error )?404\b|\b404 (?:error|not)\b|seite (?:wurde )?nicht gefunden|page (?:introuvable|non trouvée)|página no encontrada|pagina non trovata|niet gevonden",
    re.I,
)

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(
        TextFacts,
        HeadFacts,
    ),
    summary="Soft 404",
    terms=(
        "not found",
        "error page with 200",
    ),
    why="Search engines find out by themselves and drop the page, after visiting it again and again. Links to it never show up as broken.",
    fix="Let the server answer 404 or 410 for this URL, or put the content back.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.5.5",
    messages={"soft": "Answers 200 and says “{text}”"},
    cause="template",
    cause_line="{pages:page} say “{text}”",
    examples=(
        fails("soft")(page(doc("<h1>Page not found</h1>"))),
        fails("soft")(page(doc("<h1>Oops</h1>", "<title>404 · Rope shop</title>"))),
        fails("soft")(page(doc("<h1>Seite nicht gefunden</h1>"))),
        passes(page(doc("<h1>Lost and found at sea</h1>"))),
        passes(page(doc("<h1>What to do when a page is not found</h1><p>" + "line " * 200))),
        passes(page(doc("<h1>Room 404</h1>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for text in (page.text.h1, page.head.title):
        if page.text.words <= WORDS_MAX and SAID.search(text):
            yield Fail("soft", "", {"text": text, "selector": "h1, title"})
            return
