"""One measurement in a process of its own: ``python -m bench.measure KIND ADDRESS FOLDER``; prints JSON.

``KIND`` is ``bare``, ``crawl`` (into a run file), ``audit`` (crawl and examine), ``again`` (an audit with the one before as its base, and the
comparison of the two) or ``examine`` (what ``crawl`` left in the same folder). Times are seconds of processor time of this process and of those
it starts, without starting it.
"""

from __future__ import annotations

import asyncio
import json
import resource
import shutil
import sys
from datetime import UTC, datetime
from pathlib import Path

PARALLEL = 8


def measure(kind: str, address: str, folder: Path) -> dict[str, float]:
    """Do the work once and tell what it cost."""
    if kind == "bare":
        from bench.bare import crawl

        began = _spent()
        pages = asyncio.run(crawl(address, PARALLEL))
        return {"pages": pages, "seconds": _spent() - began, "peak_mb": _peak_mb()}
    from hodcarrier.core.plan import read_plan
    from hodcarrier.crawl.session import crawl_into
    from hodcarrier.examine.examination import examine
    from hodcarrier.runfile.reader import RunFile
    from hodcarrier.runfile.store import LocalRunStore

    plan = read_plan(
        {
            "start": [address],
            "private_addresses": ["127.0.0.0/8"],
            "rate_per_s": 1000,
            "parallel": PARALLEL,
            "check_external": False,
            "adaptive": False,  # this process is paused between its turns, which would look like a slow host
            "pages_max": 5_000_000,
            "time_max_s": 86_400,
        }
    )
    store = LocalRunStore(folder)
    run_id = "crawl" if kind == "examine" else kind
    if kind != "examine":
        store.remove(run_id)
    base = None
    if kind == "again":
        shutil.copy(store.whole_path("audit"), store.whole_path("before"))
        base = store.open("before")
    began = _spent()
    writer = store.begin(run_id, plan, {"started_at": datetime.now(UTC).isoformat()})
    if kind != "examine":
        asyncio.run(crawl_into(writer, plan, lambda: datetime.now(UTC)))
    crawled = _spent() - began
    findings = 0
    if kind != "crawl":
        findings = examine(writer.db, datetime.now(UTC), base).findings
        writer.finish()
    if base is not None:
        store.keep_comparison("before", run_id, base, RunFile(writer.db))
    seconds = _spent() - began
    pages = writer.counts()["page-done"]
    writer.close()
    if kind in ("audit", "again"):
        store.seal(run_id)
    path = folder / f"{run_id}.{'sqlite' if kind in ('audit', 'again') else 'part'}"
    return {
        "pages": pages,
        "findings": findings,
        "seconds": seconds,
        "crawl_seconds": crawled,
        "peak_mb": _peak_mb(),
        "file_kb": path.stat().st_size / 1024,
    }


def _spent() -> float:
    """Processor time of this process and of those that it has started and that have ended, in seconds."""
    return sum(
        used.ru_utime + used.ru_stime for used in map(resource.getrusage, (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN))
    )


def _peak_mb() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


if __name__ == "__main__":
    sys.stdout.write(json.dumps(measure(sys.argv[1], sys.argv[2], Path(sys.argv[3]))) + "\n")
