"""Commands run against the demo, in this process."""

from __future__ import annotations

import io
from collections.abc import Callable
from pathlib import Path

import pytest

from hodcarrier.cli.main import run
from tests.conftest import Demo

Command = Callable[..., tuple[int, str, str]]


@pytest.fixture
def command(demo: Demo, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], tmp_path: Path) -> Command:
    """Runs a command against the demo; gives exit code, stdout, stderr."""
    monkeypatch.setenv("HODCARRIER_URL", demo.url)
    monkeypatch.setenv("HODCARRIER_TOKEN", demo.token)
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    monkeypatch.setattr("sys.stdin", io.StringIO(""))

    def call(*words: str) -> tuple[int, str, str]:
        capsys.readouterr()
        try:
            code = run(list(words))
        except SystemExit as refused:
            code = int(refused.code or 0)
        printed = capsys.readouterr()
        return code, printed.out, printed.err

    return call
