"""``make bench KILLS=50``: a crawl is killed hard at random moments and goes on; every run must end like an undisturbed one."""

from __future__ import annotations

import random
import sqlite3
import subprocess
import sys
import time
from pathlib import Path

PAGES = 400
COLUMNS = "a.url, a.role, a.state, a.depth, n.status, p.title, p.words, p.text_hash"


def outcome(path: Path) -> tuple[list[tuple[object, ...]], list[tuple[object, ...]]]:
    """All facts of a run that do not depend on the clock, and its findings."""
    db = sqlite3.connect(path)
    facts = db.execute(
        f"SELECT {COLUMNS} FROM address a LEFT JOIN answer n ON n.address_id = a.id LEFT JOIN page p ON p.address_id = a.id ORDER BY a.url"
    ).fetchall()
    findings = db.execute("SELECT check_id, subject, place FROM finding ORDER BY 1, 2, 3").fetchall()
    assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    db.close()
    return facts, findings


def run(folder: Path, name: str, address: str, kill_after_s: float | None) -> tuple[Path, int]:
    """Run a worker to the end, killed once on the way; gives the run file and how often it was started."""
    starts = 0
    while True:
        starts += 1
        worker = subprocess.Popen([sys.executable, "-m", "bench.worker", str(folder), name, address], stdin=subprocess.DEVNULL)
        if kill_after_s is not None:
            time.sleep(kill_after_s)
            worker.kill()
            kill_after_s = None
        if worker.wait() == 0:
            return folder / f"{name}.sqlite", starts


def measure(folder: Path, address: str, kills: int) -> None:
    """Kill and compare; prints what came out."""
    began = time.monotonic()
    whole, _ = run(folder, "whole", address, None)
    undisturbed_s = time.monotonic() - began
    wanted = outcome(whole)
    chance = random.Random(7)
    killed = 0
    for number in range(kills):
        path, starts = run(folder, f"kill{number}", address, chance.uniform(0.2, undisturbed_s))
        killed += starts > 1
        if outcome(path) != wanted:
            print(f"kill {number}: the run differs from the undisturbed one")
            raise SystemExit(1)
    print(
        f"{kills} runs, {killed} of them killed hard on the way: all have the facts and findings of an undisturbed run of {len(wanted[0])} addresses"
    )
