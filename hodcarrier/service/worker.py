"""The worker process of one run: crawl, examine, leave a finished run file. ``python -m hodcarrier.service.worker JOB``.

The job file is JSON: ``run_id``, ``folder``, ``plan``, ``base`` (path of the run file before, or ``null``), ``waivers``,
``clock_offset_s``. Access to a site that is not public comes as a line of JSON on stdin. SIGUSR1,
or a file ``RUN.stop`` beside the run file at the start, means: stop, a person asked for it, and examine what is there.
SIGTERM, or the death of the service, means: leave the file as it is, to be gone on with later.
"""

from __future__ import annotations

import asyncio
import fcntl
import json
import os
import signal
import sqlite3
import sys
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any

import structlog

from hodcarrier.core.plan import read_plan
from hodcarrier.core.waivers import Waiver
from hodcarrier.crawl.fetch import Access
from hodcarrier.crawl.session import crawl_into, open_part
from hodcarrier.examine.engine import examine
from hodcarrier.runfile.reader import RunFile
from hodcarrier.service.logs import set_up_logs

EXIT_DONE, EXIT_FAILED, EXIT_BROKEN, EXIT_LATER = 0, 1, 3, 75
log = structlog.get_logger()


def read_waivers(rows: list[dict[str, Any]]) -> list[Waiver]:
    """Waivers from the job's JSON."""

    def day(text: str | None) -> date | None:
        return date.fromisoformat(text) if text else None

    return [Waiver(r["check"], r["pattern"], r["fingerprint"], day(r["start"]), day(r["end"])) for r in rows]


def read_access(line: str) -> Access:
    """Access to the site, which comes over stdin so that it is never in a file or in the list of processes."""
    return Access(**json.loads(line)) if line.strip() else Access()


async def work(job: dict[str, Any], parent: int, access: Access) -> int:
    """Do one run; returns the exit code."""
    folder = Path(job["folder"])
    part, whole = folder / f"{job['run_id']}.part", folder / f"{job['run_id']}.sqlite"
    if whole.exists():
        return EXIT_DONE
    offset = timedelta(seconds=job.get("clock_offset_s", 0))

    def now() -> datetime:
        return datetime.now(UTC) + offset

    loop = asyncio.get_running_loop()
    asked = {"stop": False, "leave": False}
    loop.add_signal_handler(signal.SIGUSR1, lambda: asked.update(stop=True))
    asked["stop"] |= (folder / f"{job['run_id']}.stop").exists()
    loop.add_signal_handler(signal.SIGTERM, lambda: asked.update(leave=True))

    def should_stop() -> str:
        if asked["leave"] or os.getppid() != parent:
            return "leave"
        return "stopped" if asked["stop"] else ""

    progress_file = folder / f"{job['run_id']}.progress"

    def tell(progress: dict[str, Any]) -> None:
        """Progress goes into a file of its own, so that nobody needs to open the run file while it is written."""
        fresh = progress_file.with_suffix(".progress-new")
        fresh.write_text(json.dumps(progress))
        fresh.rename(progress_file)

    plan = read_plan(job["plan"])
    writer = open_part(part, plan, {"run_id": job["run_id"], "site": job.get("site", ""), "started_at": now().isoformat()})
    end = await crawl_into(writer, plan, now, should_stop, tell, access)
    if end == "leave":
        writer.close()
        return EXIT_LATER
    if end.startswith("failed: "):
        (folder / f"{job['run_id']}.failed").write_text(end.removeprefix("failed: "))
        writer.close()
        return EXIT_FAILED
    tell({**(writer.meta("progress") or {}), "state": "examining"})
    base = RunFile.open(Path(job["base"])) if job.get("base") else None
    examine(writer.db, now(), base, read_waivers(job.get("waivers", [])))
    writer.put_meta("finished_at", now().isoformat())
    writer.finish()
    writer.close()
    part.rename(whole)
    return EXIT_DONE


def break_off_words(error: Exception) -> str:
    """Why a worker broke off, and what to do. What it had committed is kept."""
    if isinstance(error, sqlite3.OperationalError) and "full" in str(error):
        return "The disk is full. What was fetched until then is kept: make room, then let the run go on."
    if isinstance(error, sqlite3.OperationalError | OSError):
        return f"The run file could not be written: {error}. What was fetched until then is kept; the run can go on."
    return f"The worker broke off: {type(error).__name__}: {error}. What was fetched until then is kept; the run can go on."


def main() -> int:
    """The entry point: hold the run's lock, so that no two workers ever write one file."""
    signal.signal(signal.SIGUSR1, signal.SIG_IGN)  # until the crawl listens; the file that comes with it is read then
    set_up_logs()
    job = json.loads(Path(sys.argv[1]).read_text())
    structlog.contextvars.bind_contextvars(run=job["run_id"])
    lock = Path(job["folder"]) / f"{job['run_id']}.lock"
    with lock.open("w") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            return EXIT_LATER
        try:
            return asyncio.run(work(job, os.getppid(), read_access(sys.stdin.readline())))
        except Exception as error:
            log.exception("worker broke off")
            (Path(job["folder"]) / f"{job['run_id']}.failed").write_text(break_off_words(error))
            return EXIT_BROKEN


if __name__ == "__main__":
    sys.exit(main())
