"""One crawl into one run file, begun anew or gone on with."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from hodcarrier.core.plan import Plan
from hodcarrier.core.progress import Progress
from hodcarrier.crawl.engine import Crawl
from hodcarrier.crawl.fetch import Access, HttpFetcher
from hodcarrier.crawl.memory import keep_freed_memory
from hodcarrier.crawl.probes import ask_all
from hodcarrier.crawl.probes.question import Question
from hodcarrier.crawl.readers import Readers
from hodcarrier.runfile.writer import RunWriter


async def crawl_into(
    writer: RunWriter,
    plan: Plan,
    now: Callable[[], datetime],
    should_stop: Callable[[], str] = lambda: "",
    on_commit: Callable[[Progress], None] = lambda _progress: None,
    access: Access | None = None,
    probe: bool = True,
    readers: Readers | None = None,
    inspect: bool = False,
) -> str:
    """Crawl to the end and note how it ended (meta ``end``). Nothing is fetched when the file says it has ended already; the
    end ``leave`` is not noted, so that the crawl goes on next time. ``probe``: also ask what no page answers; ``readers``: some that were
    begun already; ``inspect``: read the errors in the source of pages."""
    ended = writer.meta("end")
    if ended:
        return str(ended)
    keep_freed_memory()
    async with HttpFetcher(plan, access or Access()) as fetcher:
        crawl = Crawl(plan, writer, fetcher, now, should_stop, on_commit, readers=readers or Readers(), inspect=inspect)
        end = await crawl.run()
        if end == "leave":
            return end
        if probe and not end.startswith("failed: "):
            await ask_all(Question(plan, fetcher, crawl.files.verdict), writer, should_stop)
        writer.put_meta("certificates", {**(writer.meta("certificates") or {}), **fetcher.certificates})
        writer.put_meta("tls", {**(writer.meta("tls") or {}), **fetcher.tls})
    writer.put_meta("end", end)
    writer.put_meta("ended_at", now().isoformat())
    writer.db.commit()
    return end
