"""The guide: every command in it can be read, and those that only read do what it says on the demo."""

from __future__ import annotations

import re
import shlex
from pathlib import Path

import pytest

from hodcarrier.cli.main import make_parser, run
from tests.conftest import Demo

GUIDE = (Path(__file__).parent.parent.parent / "docs" / "guide.md").read_text()
READING = {
    ("plan", "show"),
    ("plan", "explain"),
    ("plan", "try"),
    ("plan", "export"),
    ("run", "show"),
    ("run", "export"),
    ("finding", "list"),
    ("finding", "check"),
    ("finding", "causes"),
    ("page", "list"),
    ("page", "show"),
    ("page", "look"),
    ("catalogue", "show"),
    ("todo", "list"),
    ("todo", "paid"),
    ("metric", "kinds"),
    ("report", "list"),
    ("report", "show"),
    ("report", "sections"),
    ("report", "templates"),
    ("report", "schedules"),
    ("share", "list"),
    ("share", "portal"),
    ("position", "list"),
    ("link", "from"),
    ("metric", "list"),
    ("metric", "search"),
    ("benchmark", "show"),
    ("compare",),
    ("desk",),
    ("search",),
    ("trend",),
}


def commands() -> list[list[str]]:
    """The commands of the guide's blocks, without what is redirected and remarked."""
    found = []
    for block in re.findall(r"```(?:sh|console)?\n(.*?)```", GUIDE, re.S):
        for line in block.splitlines():
            if line.startswith("hodcarrier "):
                words = shlex.split(line, comments=True)[1:]
                found.append(words[: words.index(">")] if ">" in words else words)
    return found


def is_reading(words: list[str]) -> bool:
    return tuple(words[:1]) in READING or tuple(words[:2]) in READING


def test_the_guide_names_many_commands() -> None:
    assert len(commands()) > 40 and sum(map(is_reading, commands())) > 15


@pytest.mark.parametrize("words", commands(), ids=" ".join)
def test_every_command_of_the_guide_can_be_read(words: list[str]) -> None:
    words = ["7" if word in ("RUN", "FINGERPRINT") else word for word in words]
    assert callable(make_parser().parse_args(words).run)


@pytest.mark.parametrize("words", [words for words in commands() if is_reading(words)], ids=" ".join)
def test_what_only_reads_does_so_on_the_demo(
    words: list[str], demo: Demo, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    monkeypatch.setenv("HODCARRIER_URL", demo.url)
    monkeypatch.setenv("HODCARRIER_TOKEN", demo.token)
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    monkeypatch.chdir(tmp_path)
    if "RUN" in words:
        with demo.client() as desk:
            site = desk.find_site("tidewrack")
            first = sorted((r for r in desk.list_runs(site.id) if r.purpose == "audit"), key=lambda r: r.requested_at)[0]
        words = [first.id if word == "RUN" else word for word in words]
    capsys.readouterr()
    assert run(words) == 0, capsys.readouterr().err
    printed = capsys.readouterr()
    assert printed.out or "Wrote" in printed.err or "No " in printed.err


def test_the_guides_python_runs_on_the_demo(demo: Demo, capsys: pytest.CaptureFixture[str]) -> None:
    """As it is written, but for the address of the service."""
    (block,) = re.findall(r"```python\n(.*?)```", GUIDE, re.S)
    assert "http://127.0.0.1:8420" in block
    code = block.replace("http://127.0.0.1:8420", demo.url)
    exec(compile(code, "guide.md", "exec"), {"token": demo.token})
    assert "https://tidewrack.example/" in capsys.readouterr().out
