"""Where workers come from: one process that has loaded everything and is forked for every run: ``python -m hodcarrier.audit.nursery DATA MEMORY_MB``.

Loading what a run needs takes longer than auditing a small site, so it is done once. The nursery has no threads, opens no file and does
nothing but fork and collect. The service tells it whom to bring forth in a line on its stdin, ``RUN WORKER``; it answers on its
stdout with ``begun RUN PID``, and ``ended PID CODE`` when one has ended (a negative code is the signal that ended it). When its stdin
ends, the service is gone: it ends too, which its workers see.
"""

from __future__ import annotations

import asyncio
import gc
import os
import select
import signal
import sys
from contextlib import suppress
from dataclasses import dataclass, field
from importlib import import_module
from pathlib import Path
from typing import Protocol

import structlog

STARTS = 3
log = structlog.get_logger()


class Worker(Protocol):
    """A process that audits one run. ``returncode`` is ``None`` while it lives, negative when a signal has ended it."""

    @property
    def pid(self) -> int:
        """Its process id."""

    @property
    def returncode(self) -> int | None:
        """How it has ended."""

    async def wait(self) -> int:
        """Wait for its end."""

    def send_signal(self, signal: int, /) -> None:
        """Send it a signal. Raises :class:`ProcessLookupError` when it is gone."""


@dataclass
class Forked:
    """A worker that the nursery has brought forth."""

    pid: int
    returncode: int | None = None
    _ended: asyncio.Event = field(default_factory=asyncio.Event)

    async def wait(self) -> int:
        """Wait for its end."""
        await self._ended.wait()
        assert self.returncode is not None
        return self.returncode

    def send_signal(self, number: int, /) -> None:
        """Send it a signal. Raises :class:`ProcessLookupError` when it is gone."""
        if self.returncode is not None:
            raise ProcessLookupError(self.pid)
        os.kill(self.pid, number)

    def end(self, code: int) -> None:
        """Note that it has ended."""
        self.returncode = code
        self._ended.set()


class Nursery:
    """The service's side of it. ``data`` is the service's folder, ``memory_mb`` what each worker may have."""

    def __init__(self, data: Path, memory_mb: int) -> None:
        self.command = [sys.executable, "-m", __name__, str(data), str(memory_mb)]
        self._process: asyncio.subprocess.Process | None = None
        self._listening: asyncio.Task[None] | None = None
        self._begun: dict[str, asyncio.Future[Forked]] = {}
        self._living: dict[int, Forked] = {}

    async def start(self) -> None:
        """Have it load, so that the first run need not wait for it."""
        environment = {k: v for k, v in os.environ.items() if not k.lower().endswith("_proxy")}
        pipe = asyncio.subprocess.PIPE
        # A session of its own: what ends the service at a terminal is for the service to pass on.
        self._process = await asyncio.create_subprocess_exec(
            *self.command, env=environment, start_new_session=True, stdin=pipe, stdout=pipe
        )
        self._listening = asyncio.create_task(self._listen(self._process))

    async def begin(self, run_id: str, name: str) -> Worker:
        """A worker for a run, claimed by ``name``. Raises :class:`OSError` when none can be brought forth."""
        for _ in range(STARTS):
            if self._process is None or self._process.returncode is not None or self._listening is None or self._listening.done():
                await self.start()
            assert self._process is not None and self._process.stdin is not None
            begun: asyncio.Future[Forked] = asyncio.get_running_loop().create_future()
            self._begun[run_id] = begun
            try:
                self._process.stdin.write(f"{run_id} {name}\n".encode())
                await self._process.stdin.drain()
                return await begun
            except (ConnectionError, EOFError):
                log.warning("the nursery of workers has ended and is started anew")
            finally:
                self._begun.pop(run_id, None)
        raise OSError("no worker could be started: the process they are forked from ends at once")

    async def _listen(self, process: asyncio.subprocess.Process) -> None:
        assert process.stdout is not None
        while line := await process.stdout.readline():
            what, first, second = line.decode().split()
            if what == "begun":
                worker = self._living[int(second)] = Forked(int(second))
                if (begun := self._begun.get(first)) is not None:
                    begun.set_result(worker)
            else:
                self._living.pop(int(first)).end(int(second))
        await process.wait()
        # Its workers notice, and leave their files as they are. Until then their runs are locked.
        for begun in self._begun.values():
            if not begun.done():
                begun.set_exception(EOFError())
        while self._living:
            self._living.popitem()[1].end(-signal.SIGKILL)

    async def end(self) -> None:
        """Let it go, when its workers have ended."""
        if self._process is None or self._process.stdin is None:
            return
        self._process.stdin.close()
        await self._process.wait()
        if self._listening is not None:
            await self._listening


def _serve(data: Path, memory_mb: int) -> None:
    """Fork for every line on stdin, and say who has ended, until stdin ends."""
    woken, wake = os.pipe()
    os.set_blocking(wake, False)
    signal.signal(signal.SIGCHLD, lambda *_: None)
    signal.set_wakeup_fd(wake, warn_on_full_buffer=False)
    coming, living = b"", set[int]()
    while True:
        ready, _, _ = select.select([0, woken], [], [])
        if woken in ready:
            os.read(woken, 4096)
        for pid, code in _ended(living):
            living.discard(pid)
            _say(f"ended {pid} {code}")
        if 0 not in ready:
            continue
        part = os.read(0, 65_536)
        if not part:
            return
        *lines, coming = (coming + part).split(b"\n")
        for line in lines:
            run_id, name = line.decode().split()
            pid = os.fork()
            if not pid:
                _become_worker(data, memory_mb, run_id, name, (woken, wake))
            living.add(pid)
            _say(f"begun {run_id} {pid}")


def _ended(living: set[int]) -> list[tuple[int, int]]:
    """Those that have ended since the last time, with their exit codes."""
    found = []
    for pid in living:
        ended, status = os.waitpid(pid, os.WNOHANG)
        if ended:
            found.append((pid, os.waitstatus_to_exitcode(status)))
    return found


def _say(line: str) -> None:
    with suppress(BrokenPipeError):  # the service is gone: stdin ends as well
        os.write(1, f"{line}\n".encode())


def _become_worker(data: Path, memory_mb: int, run_id: str, name: str, pipes: tuple[int, ...]) -> None:
    """Be a worker from here on, with nothing of the nursery's open. Never comes back."""
    from hodcarrier.audit.worker import EXIT_BROKEN, do_run_of

    code = EXIT_BROKEN
    try:
        nursery = os.getppid()
        signal.set_wakeup_fd(-1)
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        os.setsid()
        for pipe in pipes:
            os.close(pipe)
        nothing = os.open(os.devnull, os.O_RDWR)
        os.dup2(nothing, 0)
        os.dup2(nothing, 1)
        os.close(nothing)
        code = do_run_of(data, memory_mb, run_id, name, lambda: os.getppid() != nursery)
    except BaseException:
        log.exception("worker broke off")
    finally:
        sys.stderr.flush()
        os._exit(code)


def load_everything() -> None:
    """Load what workers would load at their first step, which takes longer than a small audit."""
    from hodcarrier.core.catalogue import load
    from hodcarrier.register.database import settle_models

    import_module("hodcarrier.audit.worker")
    load()
    settle_models()


def main() -> None:
    """The entry point."""
    from hodcarrier.audit.logs import set_up_logs

    set_up_logs()
    load_everything()
    # What is loaded stays, and is shared with the workers as long as nobody touches it.
    gc.collect()
    gc.freeze()
    _serve(Path(sys.argv[1]), int(sys.argv[2]))


if __name__ == "__main__":
    main()
