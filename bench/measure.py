"""One measurement in a process of its own: ``python -m bench.measure KIND ADDRESS FOLDER``; prints JSON.

``KIND`` is ``bare``, ``crawl`` (into a run file), ``audit`` (crawl and examine) or ``examine`` (what ``crawl`` left in the same
folder). Times are seconds of processor time of this process, without starting it.
"""

from __future__ import annotations

import asyncio
import json
import resource
import sys
import time
from datetime import UTC, datetime
from pathlib import Path

PARALLEL = 8


def measure(kind: str, address: str, folder: Path) -> dict[str, float]:
    """Do the work once and tell what it cost."""
    if kind == "bare":
        from bench.bare import crawl

        began = time.process_time()
        pages = asyncio.run(crawl(address, PARALLEL))
        return {"pages": pages, "seconds": time.process_time() - began, "peak_mb": _peak_mb()}
    from hodcarrier.core.plan import read_plan
    from hodcarrier.crawl.session import crawl_into
    from hodcarrier.examine.examination import examine
    from hodcarrier.runfile.store import open_part

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
    path = folder / ("crawl.part" if kind == "examine" else f"{kind}.part")
    if kind != "examine":
        for leftover in folder.glob(f"{kind}.part*"):
            leftover.unlink()
    began = time.process_time()
    writer = open_part(path, plan, {"run_id": "bench", "started_at": datetime.now(UTC).isoformat()})
    if kind != "examine":
        asyncio.run(crawl_into(writer, plan, lambda: datetime.now(UTC)))
    crawled = time.process_time() - began
    findings = 0
    if kind != "crawl":
        findings = examine(writer.db, datetime.now(UTC)).findings
        writer.finish()
    seconds = time.process_time() - began
    pages = writer.counts()["page-done"]
    writer.close()
    return {
        "pages": pages,
        "findings": findings,
        "seconds": seconds,
        "crawl_seconds": crawled,
        "peak_mb": _peak_mb(),
        "file_kb": path.stat().st_size / 1024,
    }


def _peak_mb() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


if __name__ == "__main__":
    sys.stdout.write(json.dumps(measure(sys.argv[1], sys.argv[2], Path(sys.argv[3]))) + "\n")
