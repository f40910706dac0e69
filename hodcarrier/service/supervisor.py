"""Keeping runs going: due schedules, worker processes, finished files."""

from __future__ import annotations

import asyncio
import json
import os
import signal
import sys
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path

import structlog
from sqlalchemy import select

from hodcarrier.core.errors import HodcarrierError
from hodcarrier.register.models import Run
from hodcarrier.service.worker import EXIT_BROKEN, EXIT_DONE, EXIT_LATER
from hodcarrier.usecases import plans, runs
from hodcarrier.usecases.workspace import Workspace

TICK_S = 0.25
DUE_EVERY_TICKS = 20
WORKER_ATTEMPTS = 3
log = structlog.get_logger()


@dataclass
class Supervisor:
    """Starts workers for queued runs, up to ``workers`` at once, and takes in what they leave."""

    work: Workspace
    workers: int
    processes: dict[str, asyncio.subprocess.Process] = field(default_factory=dict)
    attempts: dict[str, int] = field(default_factory=dict)
    _task: asyncio.Task[None] | None = None
    _leaving: bool = False

    def start(self) -> None:
        """Begin to supervise; runs that were under way when the service ended go on."""
        self._take_over()
        self._task = asyncio.create_task(self._loop())

    async def end(self) -> None:
        """Ask the workers to leave their files as they are, and wait for them."""
        self._leaving = True
        if self._task is not None:
            self._task.cancel()
            with suppress(asyncio.CancelledError):
                await self._task
        for process in self.processes.values():
            with suppress(ProcessLookupError):
                process.send_signal(signal.SIGTERM)
        for process in self.processes.values():
            try:
                await asyncio.wait_for(process.wait(), 10)
            except TimeoutError:
                process.kill()

    def stop_run(self, run_id: str) -> None:
        """Tell a worker that a person asked for a stop."""
        process = self.processes.get(run_id)
        if process is not None:
            with suppress(ProcessLookupError):
                process.send_signal(signal.SIGUSR1)

    def _take_over(self) -> None:
        with self.work.session() as session:
            left = session.scalars(select(Run.id).where(Run.state.in_(("crawling", "examining")))).all()
        for run_id in left:
            log.info("run goes on after a restart", run=run_id)
            runs.set_state(self.work, run_id, "queued")

    async def _loop(self) -> None:
        ticks = 0
        while True:
            try:
                if ticks % DUE_EVERY_TICKS == 0:
                    await asyncio.to_thread(runs.queue_due_runs, self.work)
                await self._reap()
                await self._spawn()
            except Exception:
                log.exception("supervisor")
            ticks += 1
            await asyncio.sleep(TICK_S)

    async def _spawn(self) -> None:
        while len(self.processes) < self.workers:
            run_id = await asyncio.to_thread(runs.next_queued, self.work)
            if run_id is None or run_id in self.processes:
                return
            job = await asyncio.to_thread(runs.begin_run, self.work, run_id)
            path = self.work.folder / f"{run_id}.job"
            path.write_text(json.dumps(job))
            environment = {k: v for k, v in os.environ.items() if not k.lower().endswith("_proxy")}
            command = [sys.executable, "-m", "hodcarrier.service.worker", str(path)]
            process = await asyncio.create_subprocess_exec(
                *command, env=environment, start_new_session=True, stdin=asyncio.subprocess.PIPE
            )
            self.processes[run_id] = process
            access = await asyncio.to_thread(plans.open_access, self.work, job["site_id"])
            assert process.stdin is not None
            process.stdin.write((json.dumps(access) if access else "").encode() + b"\n")
            process.stdin.close()

    async def _reap(self) -> None:
        for run_id, process in list(self.processes.items()):
            if process.returncode is None:
                if (runs.read_progress(self.work.folder, run_id) or {}).get("state") == "examining":
                    await asyncio.to_thread(runs.set_state, self.work, run_id, "examining")
                continue
            try:
                await asyncio.to_thread(self._take_in, run_id, process.returncode)
            except Exception as error:
                log.exception("run could not be taken in", run=run_id)
                self.attempts[run_id] = self.attempts.get(run_id, 0) + 1
                if self.attempts[run_id] < WORKER_ATTEMPTS:
                    continue  # tried again at the next tick; the file is whole
                await asyncio.to_thread(runs.fail_run, self.work, run_id, f"The result could not be taken in: {error}")
            del self.processes[run_id]

    def _take_in(self, run_id: str, code: int) -> None:
        """Take a finished run into the register, note a failure, or queue a run whose worker died."""
        folder = self.work.folder
        if code == EXIT_DONE:
            try:
                runs.finish_run(self.work, run_id)
            except HodcarrierError as error:
                log.exception("run could not be taken in", run=run_id)
                runs.fail_run(self.work, run_id, str(error))
            _tidy(folder, run_id)
            return
        failed = folder / f"{run_id}.failed"
        if failed.exists():
            runs.fail_run(self.work, run_id, failed.read_text())
            failed.unlink()
            if code != EXIT_BROKEN:
                _tidy(folder, run_id)
            return
        self.attempts[run_id] = self.attempts.get(run_id, 0) + (code != EXIT_LATER)
        if self.attempts[run_id] >= WORKER_ATTEMPTS:
            runs.fail_run(
                self.work, run_id, f"The worker broke off {WORKER_ATTEMPTS} times (exit code {code}); see the log of the service."
            )
            return
        log.warning("worker ended early, run goes on", run=run_id, code=code)
        runs.set_state(self.work, run_id, "queued")


def _tidy(folder: Path, run_id: str) -> None:
    for ending in (".job", ".lock", ".stop", ".progress", ".progress-new", ".part", ".part-wal", ".part-shm"):
        (folder / (run_id + ending)).unlink(missing_ok=True)
