"""A run file of any size, made from made-up facts without fetching anything: what reading and comparing are measured on.

Everything is decided by the number of the page and by the ``edition`` of the site, so that two editions differ as two runs of
a site do: pages come and go, faults appear and are mended. About three findings a page.
"""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from bench.site import WORDS, path_of
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.language import LanguageFacts
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.facts.markup import MarkupFacts
from hodcarrier.core.facts.media import MediaFacts
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.preview import PreviewFacts
from hodcarrier.core.facts.template import TemplateFacts
from hodcarrier.core.facts.text import TextFacts
from hodcarrier.core.facts.values import Heading, Image, Link, Placed
from hodcarrier.core.plan import Plan, read_plan
from hodcarrier.core.web.encodings import EncodingSource
from hodcarrier.examine.examination import examine
from hodcarrier.runfile import schema
from hodcarrier.runfile.store import LocalRunStore
from hodcarrier.runfile.writer import RunWriter

ORIGIN = "https://large.example"
BEGAN = datetime(2026, 11, 2, 2, 0, tzinfo=UTC)
FAN_OUT = 20
COMMIT_PAGES = 2_000


def plan_of(pages: int) -> Plan:
    """The plan of such a run."""
    return read_plan({"start": [ORIGIN + "/"], "pages_max": max(100, pages * 2)})


def make_run(store: LocalRunStore, run_id: str, pages: int, edition: int = 0, base_id: str = "") -> None:
    """Make, examine and seal a run of ``pages`` pages, compared with the run ``base_id`` if there is one."""
    plan, began = plan_of(pages), BEGAN + timedelta(weeks=edition)
    writer = store.begin(run_id, plan, {"site": "large.example", "started_at": began.isoformat()})
    fill(writer, pages, edition, began)
    finish(store, writer, run_id, began + timedelta(hours=2), base_id)


def finish(store: LocalRunStore, writer: RunWriter, run_id: str, now: datetime, base_id: str) -> None:
    """Examine what was written and seal the file."""
    base = store.open(base_id) if base_id else None
    try:
        examine(writer.db, now, base)
    finally:
        if base is not None:
            base.db.close()
    writer.put_meta("finished_at", now.isoformat())
    writer.finish()
    writer.close()
    store.seal(run_id)


def fill(writer: RunWriter, pages: int, edition: int, began: datetime) -> None:
    """Write the facts of every page."""
    here = [n for n in range(pages) if n < FAN_OUT or (n * 37 + edition) % 50]
    urls = {n: ORIGIN + path_of(n) for n in range(pages)}
    writer.know(urls[0], "page", schema.FOUND_START, 0)
    for position, number in enumerate(here):
        url = urls[number]
        address, _ = writer.know(url, "page", schema.FOUND_LINK, 1)
        facts = make_facts(number, pages, edition, urls)
        for link in facts.links.all:
            writer.know(link.url, "page", schema.FOUND_LINK, 1)
        writer.add_answer(address, _answer(200, number, 24_000), None, began.isoformat(), facts)
        if position % COMMIT_PAGES == COMMIT_PAGES - 1:
            writer.commit()
    writer.commit()
    for waiting in writer.waiting():  # what pages link to and nobody has
        writer.add_answer(waiting.id, _answer(404, waiting.id, 300), None, began.isoformat(), None)
    writer.put_meta("end", "complete")
    writer.put_meta("ended_at", began.isoformat())
    writer.commit()


def _answer(status: int, number: int, size: int) -> Answer:
    headers = (("content-type", "text/html; charset=utf-8"), ("cache-control", "max-age=600"), ("content-encoding", "gzip"))
    ms = 40.0 + number * 7 % 900
    return Answer(status, "", "", "text/html", headers, "1.1", size // 4, size, ms, ms + 20, "192.0.2.1")


def make_facts(number: int, pages: int, edition: int, urls: dict[int, str]) -> PageFacts:
    """The facts of one page."""
    # One page in ten is worked on from one edition to the next.
    touched = edition if number % 10 == 0 else 0
    word, mood = WORDS[number % 20], (number * 7 + touched * 3) % 100
    title = f"All about {word}, page {number if mood > 8 else number % (pages // 10 + 1)} of a long list"
    description = (
        "" if mood % 20 == 3 else f"What there is to know about {word} and page {number} of a long list of pages, for people."
    )
    children = [n for n in range(number * FAN_OUT + 1, number * FAN_OUT + FAN_OUT + 1) if n < pages]
    siblings = [(number * 31 + i * 17) % pages for i in range(30 - len(children))]
    links = [Link(urls[n], "anchor", path_of(n), f"Page {n} about {WORDS[n % 20]}", "main") for n in [*children, *siblings]]
    if mood % 5 == 0:
        gone = f"/gone/{(number + touched) % (pages // 6 + 1)}"
        links.append(Link(ORIGIN + gone, "anchor", gone, "More of this", "main"))
    pictures = [Image(f"{ORIGIN}/picture.png?{i}", f"/picture.png?{i}", "A picture", True, False, False) for i in range(4)]
    if mood < 60:
        pictures += [
            Image(f"{ORIGIN}/other-{i}.png", f"/other-{i}.png", None, mood % 2 == 0, False, False) for i in range(2 + mood % 3)
        ]
    return PageFacts(
        url=urls[number],
        head=HeadFacts(
            titles=(Placed(title, True),),
            descriptions=(Placed(description, True),) if description else (),
            canonicals=(Placed(path_of(number), True, urls[number]),),
            viewport="width=device-width",
        ),
        language=LanguageFacts("" if number % 41 == 0 else "en", "utf-8", EncodingSource.HEADER),
        text=TextFacts((Heading(1, f"Page {number}"),) if mood % 11 else (), 60 if mood % 9 == 0 else 900 + mood, f"{number:x}"),
        links=LinkFacts(tuple(links)),
        media=MediaFacts(tuple(pictures)),
        markup=MarkupFacts(24_000, True),
        preview=PreviewFacts((("og:title", title), ("og:image", f"{ORIGIN}/picture.png"))),
        template=TemplateFacts(f"/*/*/page-# {number % 7:x}"),
    )
