"""The worker of one run, in a process of its own (:mod:`hodcarrier.audit.nursery` brings it forth).

SIGTERM, the death of the service, or a claim that was taken over means: leave the file as it is, to be gone on with later. A stop is
asked for in the register.
"""

from __future__ import annotations

import asyncio
import os
import resource
import signal
import sqlite3
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path

import structlog
from sqlalchemy.exc import OperationalError

from hodcarrier.audit.audit import LEAVE, again, audit
from hodcarrier.audit.channel import JobChannel, LocalJobChannel
from hodcarrier.audit.place import open_place
from hodcarrier.core.errors import DamagedRun, HodcarrierError
from hodcarrier.core.progress import Progress
from hodcarrier.crawl.fetch import Access
from hodcarrier.crawl.readers import Readers
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.store import RunStore
from hodcarrier.usecases.finishing import Job

EXIT_DONE, EXIT_FAILED, EXIT_BROKEN, EXIT_LATER = 0, 1, 3, 75
ASK_EVERY_S = 0.5
RENEW_EVERY_ASKS = 20
NICE = 10
log = structlog.get_logger()


@dataclass
class Watch:
    """Asks the channel from a thread of its own, so that a claim is kept while this process computes."""

    channel: JobChannel
    should_leave: Callable[[], bool]
    stop: bool = False
    leave: bool = False
    _end: threading.Event = field(default_factory=threading.Event)

    def ask(self) -> None:
        """Ask once whether to stop or to leave."""
        self.leave = self.leave or self.should_leave()
        try:
            self.stop = self.stop or self.channel.stop_requested()
        except OperationalError as error:  # the register is busy: asked again soon
            log.warning("the register could not be asked", error=str(error))

    def run(self) -> None:
        """Ask until the end, and renew the claim from time to time."""
        asks = 0
        while not self._end.wait(ASK_EVERY_S):
            self.ask()
            asks += 1
            if asks % RENEW_EVERY_ASKS == 0:
                try:
                    self.leave = self.leave or not self.channel.renew()
                except OperationalError as error:
                    log.warning("the claim could not be renewed", error=str(error))

    @contextmanager
    def on(self) -> Iterator[None]:
        """Watch while the body runs."""
        self.ask()
        thread = threading.Thread(target=self.run, daemon=True)
        thread.start()
        try:
            yield
        finally:
            self._end.set()
            thread.join()

    def verdict(self) -> str:
        """What the crawl asks: empty, ``stopped`` or ``leave``."""
        if self.leave:
            return LEAVE
        return "stopped" if self.stop else ""


async def work(channel: JobChannel, should_leave: Callable[[], bool], readers: Readers) -> int:
    """Do one run; returns the exit code."""
    job, store = channel.job(), channel.store
    if store.has(job.run_id):
        return EXIT_DONE  # it was sealed before the service could take it in
    offset = timedelta(seconds=job.clock_offset_s)
    stopped_by_system = threading.Event()
    asyncio.get_running_loop().add_signal_handler(signal.SIGTERM, stopped_by_system.set)

    def now() -> datetime:
        return datetime.now(UTC) + offset

    def tell(progress: Progress) -> None:
        try:
            channel.tell(progress)
        except OperationalError as error:
            log.warning("progress could not be told", error=str(error))

    watch = Watch(channel, lambda: stopped_by_system.is_set() or should_leave())
    if job.source_id is not None:
        return _examine_again(channel, job, job.source_id, now)
    writer = store.begin(job.run_id, job.plan, {"site": job.host, "started_at": now().isoformat()})
    try:
        with watch.on():
            audited = await audit(
                writer,
                job.plan,
                now,
                access=Access(**job.access) if job.access else None,
                waivers=job.waivers,
                notices=job.notices,
                open_base=partial(_open_base, store, job.base_id),
                should_stop=watch.verdict,
                on_progress=tell,
                on_examining=channel.examining,
                readers=readers,
            )
        if audited.summary is not None and audited.base_read and job.base_id:
            _compare(store, job.base_id, job.run_id, RunFile(writer.db))
    finally:
        writer.close()
    if audited.left:
        return EXIT_LATER
    if audited.failed:
        channel.fail(audited.failed)
        store.drop_part(job.run_id)
        return EXIT_FAILED
    store.seal(job.run_id)
    return EXIT_DONE


def _open_base(store: RunStore, base_id: str | None) -> RunFile | None:
    if not base_id:
        return None
    base = store.open(base_id)
    try:
        base.check_whole()  # once here, so that damage is never met half way through the examination
    except DamagedRun:
        base.db.close()
        raise
    return base


def _examine_again(channel: JobChannel, job: Job, source_id: str, now: Callable[[], datetime]) -> int:
    """Judge the facts of another run anew. One that broke off begins again: nothing was fetched that could be lost."""
    store = channel.store
    channel.examining()
    writer = store.begin_again(job.run_id, source_id, job.plan)
    try:
        again(writer, now, job.waivers, partial(_open_base, store, job.base_id))
        _compare(store, source_id, job.run_id, RunFile(writer.db))
    finally:
        writer.close()
    store.seal(job.run_id)
    return EXIT_DONE


def _compare(store: RunStore, base_id: str, run_id: str, head: RunFile) -> None:
    """Compare the run with the one before, while nobody waits for it: before the file is sealed, so that a sealed one has it."""
    with store.open(base_id) as base:
        store.keep_comparison(base_id, run_id, base, head)


def break_off_words(error: Exception) -> str:
    """Why a worker broke off, and what to do. What it had committed is kept."""
    if isinstance(error, MemoryError):
        return (
            "The run needs more memory than a worker may have. What was fetched until then is kept: raise `worker_memory_mb`, or lower"
            " the plan's page limit, and let the run go on."
        )
    if isinstance(error, sqlite3.OperationalError) and "full" in str(error):
        return "The disk is full. What was fetched until then is kept: make room, then let the run go on."
    if isinstance(error, sqlite3.OperationalError | OSError):
        reason = getattr(error, "strerror", None) or str(error)  # without the path, which is nobody's business
        return f"The run file could not be written: {reason}. What was fetched until then is kept; the run can go on."
    if isinstance(error, HodcarrierError):
        return str(error)
    return f"The worker broke off: {type(error).__name__}: {error}. What was fetched until then is kept; the run can go on."


def do_run(channel: JobChannel, run_id: str, should_leave: Callable[[], bool]) -> int:
    """Do one run under its lock, so that no two workers ever write one file, and say what became of it."""
    readers = Readers()
    readers.begin()  # before there are threads, and before the lock is held
    try:
        with channel.store.hold(run_id) as free:
            if not free:
                return EXIT_LATER
            code = asyncio.run(work(channel, should_leave, readers))
    except Exception as error:
        log.exception("worker broke off")
        channel.fail(break_off_words(error))
        return EXIT_BROKEN
    finally:
        readers.end()
    if code == EXIT_LATER:
        channel.leave()
    return code


def keep_within(memory_mb: int) -> None:
    """Let this process and those it starts have so much memory and no more, and go behind those that answer people."""
    limit = memory_mb * 1024 * 1024
    resource.setrlimit(resource.RLIMIT_DATA, (limit, limit))
    os.nice(NICE)


def do_run_of(data: Path, memory_mb: int, run_id: str, name: str, is_alone: Callable[[], bool]) -> int:
    """All that a worker's process does. ``data`` is the folder of the register, ``name`` the one under which the run was claimed,
    ``is_alone`` whether the service is gone."""
    keep_within(memory_mb)
    structlog.contextvars.bind_contextvars(run=run_id)
    return do_run(LocalJobChannel(open_place(data), run_id, name), run_id, is_alone)
