"""``make bench``: what crawling and examining cost against a bare loop, in one run.

Interleaved in short turns, median of five, by processor time of the client process and of those it starts: shared machines change their speed
within seconds, so what is compared must run in the same seconds. ``make bench REAL=1`` does it with the pages of a documentation package of
Debian (``FOLDER=`` names another folder of HTML files). ``make bench LARGE=1`` also measures 100,000 pages: cost per page against 2,000,
peak memory and size of the run file, and the memory of an examination that finds ten faults a page. ``make bench READ=1`` measures how long
people wait for lists of large runs and registers, ``make bench SCREENS=1`` how long for each screen in a browser (with ``LARGE=1``: of
100,000 pages), ``make bench KILLS=50`` kills crawls hard,
``make bench IMPORT=1`` imports a table of a million rows, ``make bench LOAD=1`` has people look at their screens while sites are crawled.
"""

from __future__ import annotations

import atexit
import json
import os
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from statistics import mean, median

import bench.importing
import bench.kills
import bench.load
import bench.reading

PAGES = 2_000
LARGE_PAGES = 100_000
LOAD_PAGES = 20_000
FAULTS = 9
ROUNDS = 5
# Seconds of a turn, about as the kinds differ in cost, so that they end together.
TURNS_S = {"bare": 0.1, "crawl": 0.2, "audit": 0.25}
LARGE_TURN_S = 20.0
FLOORS = {"crawl": 0.45, "audit": 0.28}
REAL_FLOORS = {"crawl": 0.55, "audit": 0.42}
REAL_FOLDER = "/usr/share/doc/python3.11/html"
READ_PAGES = 10_000


@contextmanager
def served(pages: int, faults: int = 0) -> Iterator[str]:
    """The address of a generated site in another process."""
    with _served([sys.executable, "-m", "bench.site", str(pages), str(faults)]) as address:
        yield address


@contextmanager
def _served(command: list[str]) -> Iterator[str]:
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    try:
        yield f"http://127.0.0.1:{process.stdout.readline().strip()}/"
    finally:
        process.terminate()
        process.wait()
        process.stdout.close()


class Measurement:
    """One measurement in a new process, which runs only in its turns."""

    def __init__(self, kind: str, address: str, folder: str) -> None:
        command = [sys.executable, "-m", "bench.measure", kind, address, folder]
        # A session of its own: the system hangs up on stopped processes of a group whose shell ends.
        self._process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, start_new_session=True)
        self._process.send_signal(signal.SIGSTOP)
        atexit.register(self._process.kill)

    def ends_within(self, seconds: float) -> bool:
        """Let it run for a turn. Returns whether it has ended."""
        self._process.send_signal(signal.SIGCONT)
        try:
            self._process.wait(seconds)
        except subprocess.TimeoutExpired:
            self._process.send_signal(signal.SIGSTOP)
            return False
        return True

    def to_the_end(self) -> dict[str, float]:
        """What it found, without pauses."""
        self._process.send_signal(signal.SIGCONT)
        return self.result()

    def result(self) -> dict[str, float]:
        """What it found. Raises :class:`subprocess.CalledProcessError` if it failed."""
        printed, _ = self._process.communicate()
        if self._process.returncode:
            raise subprocess.CalledProcessError(self._process.returncode, self._process.args)
        found: dict[str, float] = json.loads(printed.splitlines()[-1])
        return found


def in_turns(address: str, folder: str) -> dict[str, dict[str, float]]:
    """Measure each kind once, all of them turn by turn until each has ended."""
    running = {kind: Measurement(kind, address, folder) for kind in TURNS_S}
    found = {}
    while running:
        for kind, measurement in list(running.items()):
            if measurement.ends_within(TURNS_S[kind]):
                found[kind] = running.pop(kind).result()
    return found


def measure_large(folder: str, pages: int) -> None:
    """Set the cost per page of a large site against that of a small one, which is measured again and again between turns of
    the large one."""
    small_folder = Path(folder, "small")
    small_folder.mkdir()
    smalls = []
    with served(pages) as few, served(LARGE_PAGES) as many:
        measurement = Measurement("audit", many, folder)
        while not measurement.ends_within(LARGE_TURN_S):
            small = Measurement("audit", few, str(small_folder))
            while not small.ends_within(LARGE_TURN_S):
                pass
            smalls.append(small.result())
        large = measurement.result()
    growth, crawl_growth = (
        large[kind] / large["pages"] / mean(small[kind] / small["pages"] for small in smalls)
        for kind in ("seconds", "crawl_seconds")
    )
    print(
        f"{large['pages']:,.0f} pages: {growth:.2f} times the cost per page of {pages:,} (crawl alone {crawl_growth:.2f}), wanted 1.10;"
        f" peak memory {large['peak_mb']:.0f} MB, wanted 500; run file {large['file_kb'] / large['pages']:.2f} KB a page, wanted 6"
    )


def measure_findings(folder: str) -> None:
    """The memory of an examination, in a process of its own: first with ever more faults a page, then of a large site."""
    few = LARGE_PAGES // 10
    for pages, faults in ((few, 0), (few, FAULTS), (few, 5 * FAULTS), (LARGE_PAGES, FAULTS)):
        with served(pages, faults) as address:
            Measurement("crawl", address, folder).to_the_end()
            found = Measurement("examine", address, folder).to_the_end()
        print(
            f"examination of {found['pages']:,.0f} pages with {found['findings']:,.0f} findings: peak memory"
            f" {found['peak_mb']:.0f} MB, wanted 500; {found['seconds'] / found['pages'] * 1000:.2f} ms a page",
            flush=True,
        )


def main() -> int:
    """Measure and print."""
    pages = int(os.environ.get("PAGES", PAGES))
    if kills := int(os.environ.get("KILLS") or 0):
        with tempfile.TemporaryDirectory() as folder, served(bench.kills.PAGES) as address:
            bench.kills.measure(Path(folder), address, kills)
        return 0
    if os.environ.get("LOAD"):
        with tempfile.TemporaryDirectory() as folder:
            return bench.load.measure(Path(folder), served, LOAD_PAGES)
    if os.environ.get("IMPORT"):
        with tempfile.TemporaryDirectory() as folder:
            return bench.importing.measure(Path(folder))
    if os.environ.get("SCREENS"):
        from bench.screens import measure as measure_screens  # the driver of browsers takes a while to load

        with tempfile.TemporaryDirectory() as folder:
            return measure_screens(Path(folder), LARGE_PAGES if os.environ.get("LARGE") else READ_PAGES)
    if os.environ.get("READ"):
        with tempfile.TemporaryDirectory() as folder:
            return bench.reading.measure(Path(folder), LARGE_PAGES if os.environ.get("LARGE") else READ_PAGES)
    if os.environ.get("REAL"):
        root = os.environ.get("FOLDER") or REAL_FOLDER
        if not Path(root).is_dir():
            sys.stderr.write(f"There is no folder {root}: install python3-doc, or name another with FOLDER=.\n")
            return 2
        with tempfile.TemporaryDirectory() as folder, _served([sys.executable, "-m", "bench.folder", root]) as address:
            measure_against_bare(address, folder, REAL_FLOORS)
        return 0
    with tempfile.TemporaryDirectory() as folder:
        with served(pages) as address:
            measure_against_bare(address, folder, FLOORS)
        if os.environ.get("LARGE"):
            measure_large(folder, pages)
            measure_findings(folder)
    return 0


def measure_against_bare(address: str, folder: str, floors: dict[str, float]) -> None:
    """Measure each kind in turns, five times, and print the ratios; then an audit with a run before it."""
    taken: dict[str, list[dict[str, float]]] = {kind: [] for kind in TURNS_S}
    for number in range(ROUNDS):
        for kind, found in in_turns(address, folder).items():
            taken[kind].append(found)
        print(f"round {number + 1}: " + ", ".join(f"{k} {v[-1]['seconds']:.2f} s" for k, v in taken.items()), flush=True)
    cost = {kind: [t["seconds"] / t["pages"] for t in rows] for kind, rows in taken.items()}
    for kind, floor in floors.items():
        ratio = median(bare / own for bare, own in zip(cost["bare"], cost[kind], strict=True))
        print(
            f"{kind}: {median(cost[kind]) * 1000:.2f} ms a page; {ratio:.2f} of the bare loop"
            f" ({median(cost['bare']) * 1000:.2f} ms), median of the rounds, wanted {floor}"
        )
    last = taken["audit"][-1]
    print(
        f"{last['pages']:,.0f} pages, {last['findings']:,.0f} findings; run file {last['file_kb'] / last['pages']:.2f} KB a page;"
        f" peak memory {last['peak_mb']:.0f} MB"
    )
    again = Measurement("again", address, folder).to_the_end()
    print(
        f"with a run before it, compared: {again['seconds'] / again['pages'] * 1000:.2f} ms a page, peak memory {again['peak_mb']:.0f} MB"
    )


if __name__ == "__main__":
    sys.exit(main())
