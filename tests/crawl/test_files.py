"""What the crawl reads of files: scripts and styles whole, of images the beginning, and what becomes of answers to that."""

from __future__ import annotations

import asyncio
from dataclasses import dataclass, field, replace

from hodcarrier.core.catalogue import Sample, doc, page
from hodcarrier.core.plan import plan_values
from hodcarrier.crawl.engine import IMAGE_BYTES, Crawl
from hodcarrier.crawl.fetch import Fetched
from hodcarrier.runfile.packing import unpack_file
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.writer import RunWriter
from tests.sample_site import NOW, ORIGIN, SampleFetcher, make_plan

GIF = b"GIF89a\x64\x00\x64\x00\x00\x00\x00;"


@dataclass
class Ranged(SampleFetcher):
    """A server that gives parts of what it has, as it is asked for them, and none of what is empty."""

    begun: list[tuple[str, int]] = field(default_factory=list)

    async def get(self, url: str, method: str = "GET", bytes_max: int = 0, begin_bytes: int = 0) -> Fetched:
        whole = await super().get(url, method, bytes_max)
        self.begun.append((url.removeprefix(ORIGIN), begin_bytes))
        if not begin_bytes or whole.answer.status != 200:
            return whole
        size = len(whole.body)
        if not size:
            return Fetched(replace(whole.answer, status=416))
        headers = (*whole.answer.headers, ("content-range", f"bytes 0-{min(size, begin_bytes) - 1}/{size}"))
        return Fetched(
            replace(whole.answer, status=206, headers=headers, wire_bytes=min(size, begin_bytes)), whole.body[:begin_bytes]
        )


def crawled(*samples: Sample) -> tuple[RunFile, Ranged]:
    plan = make_plan()
    writer = RunWriter.create(":memory:", {"plan": plan_values(plan)})
    fetcher = Ranged({sample.path: sample for sample in samples})
    asyncio.run(Crawl(plan, writer, fetcher, now=lambda: NOW).run())
    return RunFile(writer.db), fetcher


def answered(run: RunFile, path: str) -> tuple[int, int]:
    (found,) = run.rows(
        "SELECT status, wire_bytes FROM answer JOIN address ON address.id = address_id WHERE url = ?", ORIGIN + path
    )
    return found


def image(path: str, body: bytes) -> Sample:
    return Sample(path, body, 200, (("content-type", "image/gif"),))


def test_of_a_large_image_the_beginning_is_read_and_the_size_is_that_of_all() -> None:
    large = GIF + b"\0" * 100_000
    run, fetcher = crawled(page(doc("<img src=/i.gif>")), image("/i.gif", large))
    assert answered(run, "/i.gif") == (200, len(large))
    assert ("/i.gif", IMAGE_BYTES) in fetcher.begun
    (facts,) = [unpack_file(blob) for (blob,) in run.rows("SELECT facts FROM file_fact")]
    assert (facts.type, facts.width, facts.height, facts.digest) == ("image/gif", 100, 100, "")


def test_a_small_image_is_read_whole_and_an_empty_one_is_no_error() -> None:
    run, _ = crawled(page(doc("<img src=/i.gif><img src=/none.gif>")), image("/i.gif", GIF), image("/none.gif", b""))
    assert answered(run, "/i.gif") == (200, len(GIF)) and answered(run, "/none.gif") == (200, 0)
    facts = [unpack_file(blob) for (blob,) in run.rows("SELECT facts FROM file_fact ORDER BY address_id")]
    assert facts[0].digest and not facts[1].digest and facts[1].type == ""


def test_scripts_and_styles_are_read_whole_and_fonts_are_asked_for() -> None:
    sheet = Sample("/s.css", "@font-face{src:url(f.woff2)}", 200, (("content-type", "text/css"),))
    font = Sample("/f.woff2", b"wOF2" * 9, 200, (("content-type", "font/woff2"),))
    run, fetcher = crawled(page(doc(head="<link rel=stylesheet href=/s.css>")), sheet, font)
    assert answered(run, "/f.woff2") == (200, 36)
    assert ("/s.css", 0) in fetcher.begun


def test_what_is_missing_has_no_facts() -> None:
    run, _ = crawled(page(doc("<img src=/gone.png><script src=/gone.js></script>")))
    assert run.rows("SELECT count(*) FROM file_fact") == [(0,)]
    assert answered(run, "/gone.png")[0] == answered(run, "/gone.js")[0] == 404
