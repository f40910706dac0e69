"""Keeping runs going: due schedules, claims, worker processes, finished files."""

from __future__ import annotations

import asyncio
import math
import os
import secrets
import shutil
import signal
import socket
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, TypeVar

import structlog

from hodcarrier.audit.nursery import Nursery, Worker
from hodcarrier.audit.place import REGISTER
from hodcarrier.audit.worker import EXIT_BROKEN, EXIT_DONE, EXIT_FAILED, EXIT_LATER
from hodcarrier.core.errors import HodcarrierError
from hodcarrier.register.database import ChangeWatch
from hodcarrier.usecases import benchmark_setup, due_runs, files, finishing, runs
from hodcarrier.usecases.workspace import Workspace

TICK_S = 0.25
DUE_EVERY_TICKS = 20
SCHEDULES_EVERY_TICKS = 2400
WORKER_ATTEMPTS = 3
# Runs are begun and requests said to be ready with so much room or more.
FREE_BYTES_MIN = 200 * 1024 * 1024
T = TypeVar("T")
log = structlog.get_logger()


def free_bytes(folder: Path) -> int:
    """How much room there is where a folder lies."""
    return shutil.disk_usage(folder).free


@dataclass
class Supervisor:
    """Claims queued runs for workers, up to ``workers`` at once, and takes in what they leave. ``data`` is the service's folder,
    ``memory_mb`` what each worker may have."""

    work: Workspace
    data: Path
    workers: int
    memory_mb: int
    name: str = field(default_factory=lambda: f"{socket.gethostname()}-{os.getpid()}-{secrets.token_hex(3)}")
    processes: dict[str, Worker] = field(default_factory=dict)
    _short: bool = False
    _task: asyncio.Task[None] | None = None
    _refused: dict[str, int] = field(default_factory=dict)
    _began: dict[str, float] = field(default_factory=dict)
    _limits: dict[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self._watch = ChangeWatch(self.data / REGISTER)
        self.nursery = Nursery(self.data, self.memory_mb)

    def start(self) -> None:
        """Begin to supervise; runs that were under way when the service ended go on."""
        for run_id in runs.take_over_idle(self.work):
            log.info("run goes on after a restart", run=run_id)
        self._task = asyncio.create_task(self._loop())

    @property
    def is_running(self) -> bool:
        """Whether runs are looked after."""
        return self._task is not None and not self._task.done()

    async def end(self) -> None:
        """Ask the workers to leave their files as they are, and wait for them."""
        if self._task is not None:
            self._task.cancel()
            with suppress(asyncio.CancelledError):
                await self._task
        self._watch.close()
        for process in self.processes.values():
            with suppress(ProcessLookupError):
                process.send_signal(signal.SIGTERM)
        for process in self.processes.values():
            try:
                await asyncio.wait_for(process.wait(), 10)
            except TimeoutError:
                with suppress(ProcessLookupError):
                    process.send_signal(signal.SIGKILL)
                await process.wait()
        await self.nursery.end()

    async def _loop(self) -> None:
        """Look after everything, each thing by itself: what fails in one step or with one run is logged, and the others go on."""
        try:
            await self.nursery.start()
        except OSError:
            log.exception("the nursery of workers could not be started")  # tried again when a run waits
        ticks = 0
        while True:
            if ticks % SCHEDULES_EVERY_TICKS == 0:
                for site_id in await self._try("schedules", due_runs.bring_back_schedules, self.work) or ():
                    log.warning("the schedule was beyond its rule and is set anew", site=site_id)
            if ticks % DUE_EVERY_TICKS == 0:
                await self._try("due audits", due_runs.queue_due_runs, self.work)
                await self._try("due rounds", benchmark_setup.start_due_rounds, self.work)
                for run_id in await self._try("lapsed claims", runs.take_over_lapsed, self.work) or ():
                    log.warning("the claim lapsed, run goes on", run=run_id)
            await self._end_stray()
            ended = [run_id for run_id, process in self.processes.items() if process.returncode is not None]
            for run_id in ended:
                await self._reap(run_id)
            # Nothing can wait that nobody has written down; now and then it is asked all the same.
            if self._watch.has_changed() or ended or ticks % DUE_EVERY_TICKS == 0:
                try:
                    await self._spawn()
                except Exception:
                    log.exception("no worker could be started")
            ticks += 1
            await asyncio.sleep(TICK_S)

    async def _try(self, what: str, step: Callable[..., T], *given: Any) -> T | None:
        """A step in a thread; ``None`` when it failed, which the log says."""
        try:
            return await asyncio.to_thread(step, *given)
        except Exception:
            log.exception("supervision failed", what=what)
            return None

    async def _spawn(self) -> None:
        """Start workers for runs that wait, while there is room on the disk: a run that cannot be written is better not begun."""
        if len(self.processes) < self.workers and self._is_short_of_space():
            return
        while len(self.processes) < self.workers:
            run_id = await asyncio.to_thread(runs.claim_run, self.work, self.name)
            if run_id is None:
                return
            if lack := await self._try("room for a run", self._lack_of_room, run_id):
                await self._try("failing a run", finishing.fail_run, self.work, run_id, lack)
                continue
            self._began[run_id] = time.monotonic()
            self.processes[run_id] = await self.nursery.begin(run_id, self.name)

    def _lack_of_room(self, run_id: str) -> str:
        """Why there is not room enough for a run, in a sentence; empty when there is."""
        expected, free = files.expected_bytes(self.work, run_id), free_bytes(self.data)
        if free >= expected + FREE_BYTES_MIN:
            return ""
        took, left = expected // 1024**2, free // 1024**2
        return f"There is too little room: the site's last run took {took:,} MiB, and {left:,} MiB are free. Make room, then start it again."

    def _is_short_of_space(self) -> bool:
        short = free_bytes(self.data) < FREE_BYTES_MIN
        if short and not self._short:
            log.error("no run is begun: the disk is nearly full", data=str(self.data))
        self._short = short
        return short

    async def _end_stray(self) -> None:
        """End workers of runs that were removed, and of those that are far beyond their time."""
        if not self.processes:
            return
        there = await self._try("runs that were removed", runs.which_are_there, self.work, list(self.processes))
        if there is None:
            return
        if new := [run_id for run_id in self.processes if run_id not in self._limits]:
            self._limits |= await self._try("time limits of runs", runs.time_limits_s, self.work, new) or {}
        for run_id, process in self.processes.items():
            late = time.monotonic() - self._began[run_id] > self._limits.get(run_id, math.inf)
            if process.returncode is None and (late or run_id not in there):
                log.warning("worker ended", run=run_id, why="it is beyond its time" if run_id in there else "the run was removed")
                with suppress(ProcessLookupError):
                    os.killpg(process.pid, signal.SIGKILL)

    async def _reap(self, run_id: str) -> None:
        """See to what a worker has left. What cannot be taken in is tried again at the next ticks, and then fails in words."""
        code = self.processes[run_id].returncode
        assert code is not None
        try:
            await asyncio.to_thread(self._take_in, run_id, code)
        except Exception as error:
            log.exception("run could not be taken in", run=run_id)
            self._refused[run_id] = self._refused.get(run_id, 0) + 1
            if self._refused[run_id] < WORKER_ATTEMPTS:
                return
            await self._try("failing a run", finishing.fail_run, self.work, run_id, f"The result could not be taken in: {error}")
        self._refused.pop(run_id, None)
        self._limits.pop(run_id, None)
        del self.processes[run_id], self._began[run_id]

    def _take_in(self, run_id: str, code: int) -> None:
        """Take a finished run into the register, or queue a run whose worker died."""
        if not runs.which_are_there(self.work, [run_id]):
            self.work.store.remove(run_id)
        elif code == EXIT_DONE:
            try:
                finishing.finish_run(self.work, run_id)
            except HodcarrierError as error:
                log.exception("run could not be taken in", run=run_id)
                finishing.fail_run(self.work, run_id, str(error))
            self.work.store.drop_part(run_id)
        elif code in (EXIT_FAILED, EXIT_BROKEN):
            pass  # its worker has said so, and why
        elif code == EXIT_LATER:
            runs.release_run(self.work, run_id, self.name)
        elif runs.count_attempt(self.work, run_id) >= WORKER_ATTEMPTS:
            reason = f"The worker broke off {WORKER_ATTEMPTS} times (exit code {code}); see the log of the service."
            finishing.fail_run(self.work, run_id, reason)
        else:
            log.warning("worker ended early, run goes on", run=run_id, code=code)
            runs.release_run(self.work, run_id, self.name)
