"""``make bench READ=1``: how long an analyst waits for what a large run and a large register hold.

A service of its own answers one request after the other on loopback; a figure is the time of a whole request, which includes a client in
Python. First the run: 10,000 pages, or 100,000 with ``LARGE=1``, with a run before it. Then a register of 200 sites with 100 runs each and
5,000 to-dos.
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from statistics import median, quantiles
from urllib.parse import quote

import httpx
from sqlalchemy import update

from bench.large_register import fill
from bench.large_run import make_run
from hodcarrier.audit.place import make_place
from hodcarrier.core.states import FileState
from hodcarrier.core.summary import SUMMARY
from hodcarrier.register.models import Run
from hodcarrier.runfile.store import LocalRunStore
from tests.running import Service, free_ports, start_service

SITES, RUNS, TODOS = 200, 100, 5_000
TIMES = 20
WANTED_MS, INVENTORY_WANTED_MS, COMPARED_S, IDLE_PERCENT = 100.0, 200.0, 10.0, 1.0
IDLE_S = 20.0
REGISTER = (
    "/desk",
    "/sites",
    "/clients",
    "/members",
    "/todos",
    "/todos?sort=-severity",
    "/todos?after=3000",
    "/runs",
    "/runs?site=1",
    "/sites/1/trend",
)
FILTERS = ("", "words.lt=200", "status=404", "title.has=rope", "words.lt=500&status=200&depth.le=3", "state=done&inlinks.gt=20")
WHERE = (
    'status = 200 and (words < 200 or title contains "rope")',
    'url starts with "https://large.example/anchor" and not indexable',
    'title matches "rope.*page" or h1 is empty',
)
LINKS = (
    "",
    'text contains "rope"',
    "status = 404",
    'target_is = page and rel contains "nofollow"',
    "source_depth > 2 and follow",
)


def of_run(run: str, base: str) -> Iterator[tuple[str, list[str]]]:
    """What is asked for of a run, by the name that the table gives it."""
    at = f"/runs/{run}"
    yield "run", [at]
    yield "checks", [f"{at}/checks"]
    yield "one check", [f"{at}/checks/link-broken", f"{at}/checks/media-alt-missing"]
    yield "causes", [f"{at}/causes", f"{at}/causes?check=link-broken"]
    yield (
        "findings",
        [
            f"{at}/findings",
            f"{at}/findings?severity=high",
            f"{at}/findings?check=link-broken&waived=true",
            f"{at}/findings?after=20000",
        ],
    )
    of_pages = ("/", "/anchor/rope/page-1", "/tide/rope/page-2")
    yield "one page", [f"{at}/page?url=https://large.example{path}" for path in of_pages]
    pair = f"/comparisons?base={base}&head={run}"
    yield "comparison", [pair, f"{pair}&change=fixed", f"{pair}&check=link-broken", f"{pair}&after=9000"]


def of_inventory(run: str) -> Iterator[tuple[str, list[str]]]:
    """What is asked for of the inventory, the structure and the pages of a run."""
    at = f"/runs/{run}"
    inventory = f"{at}/inventory"
    sorts = ("url", "-words", "title", "-inlinks", "health", "status", "-link_flow")
    yield "pages", [f"{inventory}?sort={sort}&{chosen}" for sort in sorts for chosen in FILTERS]
    yield "pages, written filters", [f"{inventory}?where={quote(where)}&sort=-words" for where in WHERE]
    yield "deep pages", [f"{inventory}?sort={sort}&after={place}" for sort in sorts for place in (2_000, 7_000)]
    yield "figures of pages", [f"{inventory}/figures?by=status,depth,words&where={quote(where)}" for where in ("", *WHERE)]
    yield "files", [f"{inventory}?of=file&sort=-decoded_bytes"]
    yield "links", [f"{inventory}?of=link&where={quote(where)}" for where in LINKS]
    yield "links, sorted", [f"{inventory}?of=link&sort={sort}" for sort in ("target", "-status", "text")]
    yield "figures of links", [f"{inventory}/figures?of=link&by=kind,status&where={quote(where)}" for where in LINKS]
    url = "url=https://large.example/anchor/rope/page-1"
    target = quote('target = "https://large.example/anchor/rope/page-1"')
    yield "links to a page", [f"{inventory}?of=link&where={target}"]
    yield "folders", [f"{at}/structure", f"{at}/structure?below=/anchor/"]
    yield "templates", [f"{at}/structure?by=template"]
    yield "links of templates", [f"{at}/structure/links"]
    yield "way to a page", [f"{at}/page/way?{url}"]
    yield "data, languages", [f"{at}/page/data?{url}", f"{at}/page/languages?{url}"]
    yield "site files", [f"{at}/site-files"]


@contextmanager
def service(data: Path) -> Iterator[Service]:
    """A service in a folder."""
    found = start_service(data, free_ports(1))
    try:
        yield found
    finally:
        found.process.terminate()
        found.process.wait(60)


def prepare(data: Path, pages: int) -> tuple[str, str]:
    """A folder with a large register, in which one site has a large run and one before it; gives their ids."""
    with service(data):
        pass  # it makes the owner
    work, store = make_place(data, ""), LocalRunStore(data / "runs")
    fill(work, SITES, RUNS, TODOS)
    head, base = f"{(RUNS - 1) * SITES + 1:010x}", f"{(RUNS - 2) * SITES + 1:010x}"
    make_run(store, base, pages)
    began = time.process_time()
    make_run(store, head, pages, 1, base)
    print(f"a run of {pages:,} pages with a base, made and examined: {time.process_time() - began:.0f} s of processor time")
    for run_id in (base, head):
        with store.open(run_id) as opened, work.session() as session:
            summary = SUMMARY.load(opened.meta("summary"))
            values = {"summary": summary, "file": FileState.KEPT, "health": summary.health}
            session.execute(update(Run).where(Run.id == run_id).values(**values))
    return base, head


def compare(store: Path, base: str, head: str) -> bool:
    """Compare the two runs in a process of their own, as a worker does; returns whether it took too long."""
    command = (
        "import resource, sys, time; from pathlib import Path; from hodcarrier.runfile.store import LocalRunStore;"
        " began = time.monotonic(); LocalRunStore(Path(sys.argv[1])).compare(*sys.argv[2:]);"
        " print(time.monotonic() - began, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024)"
    )
    printed = subprocess.run(
        [sys.executable, "-c", command, str(store), base, head], capture_output=True, text=True, check=True
    ).stdout
    seconds, peak = map(float, printed.split())
    print(f"compared the first time: {seconds:.1f} s, wanted {COMPARED_S:.0f}; peak memory {peak:.0f} MB")
    return seconds > COMPARED_S


def measure(folder: Path, pages: int) -> int:
    """Measure and print; 1 when anything takes too long."""
    base, head = prepare(folder, pages)
    slow = compare(folder / "runs", base, head)
    with (
        service(folder) as found,
        httpx.Client(base_url=f"{found.url}/api/v1", headers={"Authorization": f"Bearer {found.token}"}, timeout=120) as desk,
    ):
        print(f"\n| {'asked for':24} | median | 95 of 100 within | answer |\n|---|---|---|---|")
        for name, paths in [*of_run(head, base), *((path, [path]) for path in REGISTER)]:
            slow = _ask(desk, name, paths, WANTED_MS) or slow
        for name, paths in of_inventory(head):
            slow = _ask(desk, name, paths, INVENTORY_WANTED_MS) or slow
        _export(desk, found, head)
        slow = _idle(found) > IDLE_PERCENT or slow
    return int(slow)


def _ask(desk: httpx.Client, name: str, paths: list[str], wanted_ms: float) -> bool:
    taken, size = [], 0
    for _ in range(max(2, TIMES // len(paths)) + 1):
        for path in paths:
            sent = time.perf_counter()
            answer = desk.get(path)
            taken.append((time.perf_counter() - sent) * 1000)
            size = max(size, int(answer.headers.get("content-length", len(answer.content))))
            if answer.status_code != 200:
                raise SystemExit(f"{path}: {answer.text}")
    taken = taken[len(paths) :]  # the first round reads the file from the disk
    late = quantiles(taken, n=20)[-1]
    print(
        f"| {name:24} | {median(taken):.0f} ms | {late:.0f} ms{' (!)' if late > wanted_ms else ''} | {size / 1024:.0f} KB |",
        flush=True,
    )
    return late > wanted_ms


def _memory_mb(found: Service) -> float:
    lines = Path(f"/proc/{found.process.pid}/status").read_text().splitlines()
    return int(next(line for line in lines if line.startswith("VmRSS")).split()[1]) / 1024


def _export(desk: httpx.Client, found: Service, run: str) -> None:
    """The time to the first byte and to the last, and what the service grew by."""
    before, sent, first, size = _memory_mb(found), time.perf_counter(), 0.0, 0
    with desk.stream("GET", f"/runs/{run}/export/csv") as answer:
        for part in answer.iter_bytes():
            first = first or time.perf_counter() - sent
            size += len(part)
    print(
        f"\nexport as csv: first byte after {first * 1000:.0f} ms, {size / 1024**2:.0f} MB in {time.perf_counter() - sent:.1f} s,"
        f" the service grew by {_memory_mb(found) - before:.0f} MB"
    )


def _idle(found: Service) -> float:
    """The share of a core, in percent, that a service takes when nobody asks."""

    def spent() -> float:
        words = Path(f"/proc/{found.process.pid}/stat").read_text().rpartition(")")[2].split()
        return (int(words[11]) + int(words[12])) / os.sysconf("SC_CLK_TCK")

    time.sleep(2)
    before = spent()
    time.sleep(IDLE_S)
    share = (spent() - before) / IDLE_S * 100
    print(f"idle: {share:.1f} % of a core, wanted {IDLE_PERCENT:.0f}")
    return share
