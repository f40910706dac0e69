"""One crawl into one run file, begun anew or gone on with: shared by the worker process and ``try``."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import Any

from hodcarrier.core.plan import Plan, plan_values
from hodcarrier.crawl.engine import Crawl
from hodcarrier.crawl.fetch import Access, HttpFetcher
from hodcarrier.crawl.memory import keep_freed_memory
from hodcarrier.runfile.writer import RunWriter


def open_part(path: Path, plan: Plan, meta: dict[str, Any]) -> RunWriter:
    """The unfinished run file at ``path``, made if it is not there. One that died before its first commit is made anew."""
    if path.exists():
        writer = RunWriter.resume(path)
        if writer.meta("plan") is not None:
            return writer
        writer.close()
        path.unlink()
    return RunWriter.create(path, {"plan": plan_values(plan), **meta})


async def crawl_into(
    writer: RunWriter,
    plan: Plan,
    now: Callable[[], datetime],
    should_stop: Callable[[], str] = lambda: "",
    on_commit: Callable[[dict[str, object]], None] = lambda _progress: None,
    access: Access | None = None,
) -> str:
    """Crawl to the end and note how it ended (meta ``end``). Nothing is fetched when the file says it has ended already; the
    end ``leave`` is not noted, so that the crawl goes on next time."""
    ended = writer.meta("end")
    if ended:
        return str(ended)
    keep_freed_memory()
    async with HttpFetcher(plan, access or Access()) as fetcher:
        crawl = Crawl(plan, writer, fetcher, now, should_stop, on_commit)
        end = await crawl.run()
        if end == "leave":
            return end
        writer.put_meta("certificates", {**(writer.meta("certificates") or {}), **fetcher.certificates})
        writer.put_meta("tls", {**(writer.meta("tls") or {}), **fetcher.tls})
    writer.put_meta("end", end)
    writer.put_meta("ended_at", now().isoformat())
    writer.db.commit()
    return end
