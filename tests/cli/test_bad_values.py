"""Wrong values given to commands: one line that names the value and says what it takes, never the program's insides."""

from __future__ import annotations

from pathlib import Path

import pytest

from hodcarrier.cli.main import run
from hodcarrier.wire.refusals import refused
from hodcarrier.wire.waivers import WaiverBody


def said(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, str]:
    try:
        code = run(list(words))
    except SystemExit as left:
        code = int(left.code or 0)
    printed = capsys.readouterr().err
    assert "something broke inside" not in printed and "Traceback" not in printed
    return code, printed


@pytest.mark.parametrize("port", ["99999", "-1", "many", "٣"])
def test_a_port_that_there_is_not(capsys: pytest.CaptureFixture[str], port: str) -> None:
    code, words = said(capsys, "serve", f"--port={port}")
    assert code == 2 and "is no port" in words


@pytest.mark.parametrize("token", ["tök", "a b", "a\x07"])
def test_a_token_with_odd_characters(capsys: pytest.CaptureFixture[str], token: str) -> None:
    code, words = said(capsys, "desk", "--token", token)
    assert code == 2 and "token" in words


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"\xff\xfe", "not UTF-8"),
        (b"service = [", "not TOML"),
        (b"[servce]\nport = 1", "no use for servce"),
        (b"client = 3", "no section"),
    ],
)
def test_a_configuration_that_cannot_be_used(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch, tmp_path: Path, content: bytes, words: str
) -> None:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    path = tmp_path / "hodcarrier" / "hodcarrier.toml"
    path.parent.mkdir()
    path.write_bytes(content)
    code, printed = said(capsys, "desk")
    assert code == 2 and words in printed and str(path) in printed


@pytest.mark.parametrize(
    ("values", "place", "sentence"),
    [
        ({"check": "text-thin", "reason": "ok"}, "reason", "reason needs at least 3 characters."),
        ({"check": "text-thin", "reason": "    "}, "reason", "reason needs at least 3 characters."),
        ({"reason": "Meant so"}, "check", "check is missing."),
        ({"check": "text-thin", "reason": "Meant so", "end": "soon"}, "end", "end must be a day such as 2026-11-26."),
        ({"check": "text-thin", "reason": "Meant so", "colour": 1}, "colour", "colour is not known here."),
        ({"check": 3, "reason": "Meant so"}, "check", "check must be text."),
    ],
)
def test_what_a_model_refuses_is_said_in_words(values: dict[str, object], place: str, sentence: str) -> None:
    with pytest.raises(ValueError) as caught:
        WaiverBody.model_validate(values)
    assert refused(caught.value) == (place, sentence)  # type: ignore[arg-type]
