"""What several checks yield alike: things that lack a property, references that lead nowhere, versions that do not lead back."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from hodcarrier.core.catalogue.model import Fail, Outcome, Unsure
from hodcarrier.core.catalogue.views import PageView
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.things import Thing, called, lacking, of_kind
from hodcarrier.core.facts.values import Link


def lack(thing: Thing, missing: str) -> Fail:
    """A thing in the data lacks what is named; the message's key is ``lacks``."""
    data = {"thing": called(thing), "missing": missing, "form": thing.form, "block": thing.block}
    return Fail("lacks", f"{called(thing)} {missing}", data)


def lacks_of(things: tuple[Thing, ...], kind: str, *needed: str) -> Iterator[Outcome]:
    """Of the things of a page those of a kind that lack one of the needed properties (as :func:`hodcarrier.core.facts.things.lacking` reads them)."""
    for thing in of_kind(things, kind):
        if missing := lacking(thing, *needed):
            yield lack(thing, missing)


def broken_references(page: PageView, links: Iterable[Link], selector: str = "") -> Iterator[Outcome]:
    """Of some of the page's references those that end at an error or at nothing; the message's key is ``broken``."""
    for link in links:
        target = page.target(link.url)
        if not target.settled:
            yield Unsure(link.url, f"{link.url} was not reached")
        elif target.broken:
            data = {"target": link.url, "answer": target.outcome, **({"selector": selector} if selector else {})}
            yield Fail("broken", link.url, data)


def without_return(page: PageView, links: Iterable[Link], canonical: str) -> Iterator[tuple[Link, PageFacts]]:
    """Of the pages that it names as other versions of itself those whose canonical is neither the page nor the page's own (``canonical``)."""
    wanted = {page.url, canonical or page.url}
    for link in links:
        facts = page.facts_of(link.url) if page.target(link.url).status == 200 else None
        if facts is not None and link.url not in wanted and facts.head.canonical not in wanted:
            yield link, facts
