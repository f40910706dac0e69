"""Settings of the service, from file, environment and options; the log; the mail that goes out."""

from __future__ import annotations

import json
import sqlite3
import subprocess
import sys
from email import message_from_bytes, policy
from pathlib import Path

import pytest
import structlog

from hodcarrier.audit.logs import set_up_logs
from hodcarrier.audit.place import hold_folder
from hodcarrier.audit.worker import break_off_words
from hodcarrier.core.errors import InvalidInput, Unavailable
from hodcarrier.demo.mailsink import start_sink
from hodcarrier.service.mail import LogMailer, SmtpMailer
from hodcarrier.service.settings import Settings, read_settings
from tests.running import free_ports


@pytest.fixture(autouse=True)
def no_environment(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    for name in Settings.__dataclass_fields__:
        monkeypatch.delenv("HODCARRIER_" + name.upper(), raising=False)
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "nowhere"))


def test_defaults_need_nothing() -> None:
    assert read_settings() == Settings()


def test_each_place_overrides_the_one_before(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "x.toml"
    path.write_text('[service]\nport = 9001\nworkers = 3\nagency = "From the file"\n')
    monkeypatch.setenv("HODCARRIER_PORT", "9002")
    monkeypatch.setenv("HODCARRIER_ALLOW_PRIVATE", "yes")
    found = read_settings(str(path), {"port": 9003, "host": None})
    assert (found.port, found.workers, found.agency, found.allow_private, found.host) == (
        9003,
        3,
        "From the file",
        True,
        "127.0.0.1",
    )


def test_the_file_in_the_usual_folder_is_read(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    (tmp_path / "hodcarrier").mkdir()
    (tmp_path / "hodcarrier" / "hodcarrier.toml").write_text('[service]\naddress = "https://desk.example"\n')
    assert read_settings().url == "https://desk.example"


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("[service]\nport = 'many'\n", "port cannot be"),
        ("[service]\nprot = 1\n", "no setting called prot"),
        ("[service\n", "not TOML"),
        ("[service]\nallow_private = 'perhaps'\n", "allow_private cannot be"),
    ],
)
def test_wrong_settings_are_named(tmp_path: Path, text: str, words: str) -> None:
    path = tmp_path / "x.toml"
    path.write_text(text)
    with pytest.raises(InvalidInput, match=words) as refused:
        read_settings(str(path))
    assert refused.value.hint


def test_a_file_that_is_named_must_be_there(tmp_path: Path) -> None:
    with pytest.raises(InvalidInput, match="no configuration file"):
        read_settings(str(tmp_path / "none.toml"))


def test_secrets_of_the_settings_are_not_printed() -> None:
    assert "sesame" not in repr(Settings(owner_password="sesame"))


def test_mail_goes_out_over_smtp(tmp_path: Path) -> None:
    port = free_ports(1)
    sink = start_sink(tmp_path / "mail", port)
    try:
        SmtpMailer("127.0.0.1", port, "desk@agency.example").send(
            "imke@agency.example", "Rope\r\nBcc: x@y.example", "Überblick\n", "<p>Überblick</p>"
        )
        with pytest.raises(OSError, match=r"refused|Connection"):
            SmtpMailer("127.0.0.1", free_ports(1), "a@b.example").send("c@d.example", "x", "y", "")
    finally:
        sink.stop()
    mail = message_from_bytes(next((tmp_path / "mail").glob("*.eml")).read_bytes(), policy=policy.default)
    assert (mail["To"], mail["Subject"], mail["Bcc"]) == ("imke@agency.example", "Rope Bcc: x@y.example", None)
    text, html = mail.iter_parts()
    assert (mail.get_content_type(), text.get_content().strip()) == ("multipart/alternative", "Überblick")
    assert (html.get_content_type(), html.get_content().strip()) == ("text/html", "<p>Überblick</p>")


def test_without_a_server_mail_is_noted_and_not_shown(capsys: pytest.CaptureFixture[str]) -> None:
    set_up_logs()
    try:
        LogMailer().send("imke@agency.example", "Subject", "the whole text", "")
    finally:
        structlog.reset_defaults()
    line = json.loads(capsys.readouterr().err)
    assert line["to"] == "imke@agency.example" and "the whole text" not in str(line)


def test_a_traceback_in_the_log_shows_no_values(capsys: pytest.CaptureFixture[str]) -> None:
    set_up_logs()
    secret = "sesame-" + "77"
    try:
        raise ValueError("broken") if secret else None  # type: ignore[misc]
    except ValueError:
        structlog.get_logger().exception("it broke")
    finally:
        structlog.reset_defaults()
    said = capsys.readouterr().err
    assert "ValueError" in said and "sesame-77" not in said


@pytest.mark.parametrize(
    ("error", "words"),
    [
        (sqlite3.OperationalError("database or disk is full"), "disk is full"),
        (sqlite3.OperationalError("disk I/O error"), "could not be written"),
        (OSError("no such device"), "could not be written"),
        (RuntimeError("odd"), "RuntimeError: odd"),
        (MemoryError(), "worker_memory_mb"),
    ],
)
def test_why_a_worker_broke_off_is_said_in_words(error: Exception, words: str) -> None:
    said = break_off_words(error)
    assert words in said and "kept" in said


@pytest.mark.parametrize(("megabytes", "said"), [(100, "there is room"), (700, "MemoryError")])
def test_a_worker_has_so_much_memory_and_no_more(megabytes: int, said: str) -> None:
    program = (
        "from hodcarrier.audit.worker import keep_within\nkeep_within(600)\n"
        f"bytearray({megabytes} * 2**20)\nprint('there is room')"
    )
    done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=False)
    assert said in done.stdout + done.stderr


def test_two_services_do_not_share_a_folder(tmp_path: Path) -> None:
    folder = tmp_path / "data"
    with hold_folder(folder), pytest.raises(Unavailable, match="Another service works"), hold_folder(folder):
        pass
    with hold_folder(folder):
        pass
