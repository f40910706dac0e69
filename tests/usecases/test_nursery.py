"""Workers are forked from one process that has loaded everything; whatever ends, the service learns of it."""

from __future__ import annotations

import asyncio
import os
import signal
from pathlib import Path

import pytest

from hodcarrier.audit.nursery import Nursery
from hodcarrier.audit.worker import EXIT_BROKEN
from tests.running import wait_for_end


def test_every_run_has_a_process_of_its_own_whose_end_is_told(tmp_path: Path) -> None:
    """There is no register in the folder, so that workers end at once and say that they could do nothing."""

    async def play() -> None:
        nursery = Nursery(tmp_path, 4096)
        first, second = await asyncio.gather(nursery.begin("a", "w"), nursery.begin("b", "w"))
        assert first.pid != second.pid and os.getpid() not in (first.pid, second.pid)
        assert await first.wait() == await second.wait() == first.returncode == EXIT_BROKEN
        with pytest.raises(ProcessLookupError):
            first.send_signal(signal.SIGTERM)
        await nursery.end()

    asyncio.run(asyncio.wait_for(play(), 60))


def test_a_nursery_that_was_killed_is_started_anew(tmp_path: Path) -> None:
    async def play() -> None:
        nursery = Nursery(tmp_path, 4096)
        await nursery.start()
        assert nursery._process is not None
        process = nursery._process.pid
        os.kill(process, signal.SIGKILL)
        wait_for_end(process)
        assert await (await nursery.begin("a", "w")).wait() == EXIT_BROKEN
        await nursery.end()

    asyncio.run(asyncio.wait_for(play(), 60))


def test_one_that_cannot_live_is_not_tried_for_ever(tmp_path: Path) -> None:
    async def play() -> None:
        nursery = Nursery(tmp_path, 4096)
        nursery.command = ["/bin/false"]
        with pytest.raises(OSError, match="no worker could be started"):
            await nursery.begin("a", "w")
        await nursery.end()

    asyncio.run(asyncio.wait_for(play(), 60))
