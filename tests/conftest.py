"""Fixtures that many tests share."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import hypothesis
import pytest
import structlog
from argon2 import PasswordHasher
from xdist.scheduler import LoadScopeScheduling

# Commands are as wide as their terminal; tests have none, whatever the shell that starts them or their workers are told.
os.environ.pop("COLUMNS", None)

from hodcarrier.client import Hodcarrier
from hodcarrier.demo.scenario import PASSWORD, email_of
from hodcarrier.usecases import passwords
from hodcarrier.wire.members import SignInBody, TokenBody
from tests.running import Service, free_ports, local_site, start_service  # noqa: F401


@pytest.fixture(autouse=True)
def logs_of_its_own() -> Iterator[None]:
    """A command that sets up logs writes to the stderr of its test, which is closed afterwards: the next test begins without."""
    yield
    structlog.reset_defaults()


# How long an example takes says something of the machine, not of the code.
hypothesis.settings.register_profile("untimed", deadline=None)
hypothesis.settings.load_profile("untimed")
# A hash that withstands guessing takes a fifth of a second of a core. What a service makes in a process of its own is one of those.
passwords._hasher = PasswordHasher(time_cost=1, memory_cost=64, parallelism=1)

WITH_DEMO = (
    "tests/console/",
    "tests/e2e/test_bad_commands.py",
    "tests/e2e/test_bad_input.py",
    "tests/e2e/test_commands.py",
    "tests/e2e/test_demo_story.py",
    "tests/e2e/test_figures_agree.py",
    "tests/e2e/test_guide.py",
    "tests/e2e/test_new_client.py",
)


class OneDemo(LoadScopeScheduling):  # type: ignore[misc]
    """What two workers share out: all that asks for the demo goes to one of them, as there is one, and so does each other file."""

    def _split_scope(self, nodeid: str) -> str:
        return "demo" if nodeid.startswith(WITH_DEMO) else nodeid.partition("::")[0]


def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> OneDemo:
    """How tests are shared out where there is more than one worker."""
    return OneDemo(config, log)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Where a test of another folder asked for the demo, the second worker would begin one too."""
    for item in items:
        if "demo" in getattr(item, "fixturenames", ()) and not item.nodeid.startswith(WITH_DEMO):
            raise pytest.UsageError(f"{item.nodeid} asks for the demo: name it in WITH_DEMO, or put it into tests/console/")


@dataclass
class Demo:
    """The demo as ``make demo`` starts it, with its whole history audited. ``token`` is the lead's."""

    url: str
    folder: Path
    token: str

    def client(self) -> Hodcarrier:
        return Hodcarrier(self.url, self.token)


@pytest.fixture(scope="session")
def demo(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Demo]:
    """One demo for the whole session: about a minute of real audits. ``TEST_DEMO=port:folder`` uses one that is running."""
    if running := os.environ.get("TEST_DEMO"):
        number, _, place = running.partition(":")
        with Hodcarrier(f"http://127.0.0.1:{number}") as desk:
            desk.sign_in(SignInBody(email=email_of("Imke Aldersgate"), password=PASSWORD))
            yield Demo(f"http://127.0.0.1:{number}", Path(place), desk.add_token(TokenBody(name="tests")).secret or "")
        return
    folder = tmp_path_factory.mktemp("demo") / "data"
    port = free_ports(4)
    command = [sys.executable, "-m", "hodcarrier.cli.main", "demo", "--data", str(folder), "--port", str(port)]
    environment = {k: v for k, v in os.environ.items() if not k.startswith("HODCARRIER_")}
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment)
    assert process.stdout is not None
    try:
        first = process.stdout.readline()
        assert "answers at" in first and email_of("Imke Aldersgate") in first
        second = process.stdout.readline()
        assert second.startswith("All audits of the demo's history are done"), second
        with Hodcarrier(f"http://127.0.0.1:{port}") as desk:
            desk.sign_in(SignInBody(email=email_of("Imke Aldersgate"), password=PASSWORD))
            token = desk.add_token(TokenBody(name="tests")).secret or ""
        yield Demo(f"http://127.0.0.1:{port}", folder, token)
    finally:
        process.terminate()
        process.wait(30)
        process.stdout.close()


@pytest.fixture(scope="session")
def service(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Service]:
    """A service without any data but its owner, permitted to audit loopback."""
    started = start_service(tmp_path_factory.mktemp("service"), free_ports(1))
    yield started
    started.process.terminate()
    started.process.wait(30)
