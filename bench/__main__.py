"""``make bench``: what crawling and examining cost against a bare loop, in one run.

Interleaved, median of five, by processor time of the client process. ``make bench LARGE=1`` also measures 100,000 pages:
cost per page against 2,000, peak memory and size of the run file. ``make bench KILLS=50`` kills crawls hard instead.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from statistics import mean, median

import bench.kills

PAGES = 2_000
LARGE_PAGES = 100_000
ROUNDS = 5
FLOORS = {"crawl": 0.45, "audit": 0.28}


@contextmanager
def served(pages: int) -> Iterator[str]:
    """The address of a generated site in another process."""
    process = subprocess.Popen([sys.executable, "-m", "bench.site", str(pages)], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    try:
        yield f"http://127.0.0.1:{process.stdout.readline().strip()}/"
    finally:
        process.terminate()
        process.wait()
        process.stdout.close()


def once(kind: str, address: str, folder: str) -> dict[str, float]:
    """One measurement in a new process."""
    done = subprocess.run(
        [sys.executable, "-m", "bench.measure", kind, address, folder], stdout=subprocess.PIPE, text=True, check=True
    )
    found: dict[str, float] = json.loads(done.stdout.splitlines()[-1])
    return found


def measure_large(folder: str, pages: int) -> None:
    """Set the cost per page of a large site against that of a small one, measured just before and just after it: a shared
    machine may change its speed in the minutes that a large site takes."""
    with served(pages) as few, served(LARGE_PAGES) as many:
        before = [once("audit", few, folder) for _ in range(2)]
        large = once("audit", many, folder)
        around = [*before, *(once("audit", few, folder) for _ in range(2))]
    growth, crawl_growth = (
        large[kind] / large["pages"] / mean(small[kind] / small["pages"] for small in around)
        for kind in ("seconds", "crawl_seconds")
    )
    print(
        f"{large['pages']:,.0f} pages: {growth:.2f} times the cost per page of {pages:,} (crawl alone {crawl_growth:.2f}), wanted 1.10;"
        f" peak memory {large['peak_mb']:.0f} MB, wanted 500; run file {large['file_kb'] / large['pages']:.2f} KB a page, wanted 6"
    )


def main() -> int:
    """Measure and print."""
    pages = int(os.environ.get("PAGES", PAGES))
    if kills := int(os.environ.get("KILLS") or 0):
        with tempfile.TemporaryDirectory() as folder, served(bench.kills.PAGES) as address:
            bench.kills.measure(Path(folder), address, kills)
        return 0
    with tempfile.TemporaryDirectory() as folder:
        with served(pages) as address:
            taken: dict[str, list[dict[str, float]]] = {"bare": [], "crawl": [], "audit": []}
            for number in range(ROUNDS):
                for kind in taken:
                    taken[kind].append(once(kind, address, folder))
                print(f"round {number + 1}: " + ", ".join(f"{k} {v[-1]['seconds']:.2f} s" for k, v in taken.items()), flush=True)
        cost = {kind: median(t["seconds"] / t["pages"] for t in rows) for kind, rows in taken.items()}
        for kind, floor in FLOORS.items():
            ratio = cost["bare"] / cost[kind]
            print(
                f"{kind}: {cost[kind] * 1000:.2f} ms a page; {ratio:.2f} of the bare loop ({cost['bare'] * 1000:.2f} ms), wanted {floor}"
            )
        print(
            f"run file: {taken['audit'][-1]['file_kb'] / pages:.2f} KB a page; peak memory {taken['audit'][-1]['peak_mb']:.0f} MB"
        )
        if os.environ.get("LARGE"):
            measure_large(folder, pages)
    return 0


if __name__ == "__main__":
    sys.exit(main())
