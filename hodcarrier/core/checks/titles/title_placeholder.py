"""The title is one that a tool or a template puts there until somebody writes one, in a whole phrase."""

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
from hodcarrier.core.catalogue.mending import content
from hodcarrier.core.facts.head import HeadFacts

PLACEHOLDERS = frozenset(
    {
        "home",
        "homepage",
        "home page",
        "welcome",
        "untitled",
        "untitled document",
        "untitled page",
        "new page",
        "page title",
        "default",
        "startseite",
        "willkommen",
        "accueil",
        "bienvenue",
        "inicio",
        "página principal",
        "hafan",
        "startpagina",
        "strona główna",
        "default web site page",
        "coming soon",
        "under construction",
    }
)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.TITLE,
    about="indexable",
    needs=(HeadFacts,),
    summary="Placeholder title",
    terms=(
        "untitled",
        "default title",
        "page title",
    ),
    why="A title such as “Home” or “Untitled document” says nothing about the page, so people have no reason to click it.",
    fix="Write a title that names what the page offers, with the name of the site behind it.",
    mend=content("What this page offers"),
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"placeholder": "The title is only “{title}”"},
    cause="alone",
    cause_line="“{title}”",
    examples=(
        fails("placeholder")(page(doc(head="<title>Home</title>"))),
        fails("placeholder")(page(doc(head="<title> Untitled  Document </title>"))),
        fails("placeholder")(page(doc(head="<title>Startseite</title>", lang="de"))),
        passes(page(doc(head="<title>Home brewing for beginners</title>"))),
        passes(page(doc(head="<title>Home</title><meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.head.title.lower().strip(" .-–|") in PLACEHOLDERS:
        yield Fail("placeholder", "", {"title": page.head.title, "selector": "title"})
