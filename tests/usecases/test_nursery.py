"""Workers are forked from one process that has loaded everything; whatever ends, the service learns of it."""

from __future__ import annotations

import asyncio
import os
import signal
import subprocess
import sys
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


def test_workers_find_everything_loaded(tmp_path: Path) -> None:
    """In a process of its own, as a test has loaded everything by itself."""
    play = """
import sys
from hodcarrier.audit.nursery import load_everything
load_everything()
loaded = set(sys.modules)
from hodcarrier.audit.worker import do_run
from hodcarrier.core.plan import read_plan
from hodcarrier.runfile.store import LocalRunStore
from pathlib import Path
from tests.e2e.channel import KeptChannel
from hodcarrier.register.models import Run
assert not Run.registry._new_mappers, "how the models hang together is known"
loaded |= {name for name in sys.modules if name.startswith("tests")}
plan = read_plan({"start": ["http://127.0.0.1:9/"], "private_addresses": ["127.0.0.0/8"]})
do_run(KeptChannel(LocalRunStore(Path(sys.argv[1])), plan), "r", lambda: False)
print(sorted(name for name in sys.modules.keys() - loaded if name.startswith(("hodcarrier", "sqlalchemy", "aiohttp", "selectolax"))))
"""
    said = subprocess.run([sys.executable, "-c", play, str(tmp_path)], capture_output=True, text=True, check=True)
    assert said.stdout == "[]\n", said.stderr


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
