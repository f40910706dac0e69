"""The text of a link says nothing of where it leads: one of a list of phrases for the language of the page, and nothing else."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.language import LanguageFacts
from hodcarrier.core.facts.links import LinkFacts

WORDS = re.compile(r"\w+")
PHRASES = {
    "en": frozenset(
        {
            "click here",
            "here",
            "read more",
            "more",
            "learn more",
            "this page",
            "this link",
            "link",
            "click",
            "see more",
            "find out more",
        }
    ),
    "de": frozenset(
        {"hier", "hier klicken", "klicken sie hier", "mehr", "weiterlesen", "mehr erfahren", "mehr lesen", "weiter", "link"}
    ),
    "fr": frozenset({"ici", "cliquez ici", "cliquer ici", "en savoir plus", "lire la suite", "plus", "lien"}),
    "es": frozenset({"aquí", "haz clic aquí", "haga clic aquí", "leer más", "más", "ver más", "enlace"}),
    "it": frozenset({"qui", "clicca qui", "leggi tutto", "scopri di più", "altro", "link"}),
    "nl": frozenset({"hier", "klik hier", "lees meer", "meer", "lees verder"}),
    "cy": frozenset({"yma", "cliciwch yma", "mwy", "darllenwch fwy", "rhagor"}),
}

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(
        LinkFacts,
        LanguageFacts,
    ),
    summary="Vague link text",
    terms=(
        "click here",
        "read more",
        "anchor text",
    ),
    why="People who skim, and those who hear links read out one after the other, do not know where they lead. Search engines learn nothing of the target.",
    fix="Let the link say what is there: “Prices of rope” instead of “click here”.",
    effort=Effort.SMALL,
    standard="WCAG 2.2, 2.4.4",
    messages={"vague": "The link to {target} says only “{text}”"},
    cause="element",
    cause_line="“{text}” on {pages:page}",
    examples=(
        fails("vague")(page(doc("<a href=/a>Click here</a>"))),
        fails("vague")(page(doc("<a href=/a>mehr …</a>", lang="de"))),
        passes(page(doc("<a href=/a>Read more about rope</a>"))),
        passes(page(doc("<a href=/a>Here and there</a>"))),
        passes(page(doc("<a href=/a>mehr</a>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    phrases = PHRASES.get(page.language.lang.lower().partition("-")[0], PHRASES["en"])
    for link, _ in page.outlinks:
        text = " ".join(WORDS.findall(link.text.lower()))
        if text in phrases:
            yield Fail(
                "vague", link.url, {"target": link.url, "text": link.text, "selector": f'a[href="{link.raw}"]'}, cause=text
            )
