"""Starting the demo: simulated web, mail sink, service, and the story in the background."""

from __future__ import annotations

import shutil
import subprocess
import sys
import threading
import time
from dataclasses import replace
from pathlib import Path

import structlog

from hodcarrier.audit.logs import set_up_logs
from hodcarrier.audit.place import hold_folder
from hodcarrier.cli.serve import check_port
from hodcarrier.core.errors import Conflict, Unavailable
from hodcarrier.demo.mailsink import start_sink
from hodcarrier.demo.registry import REGISTRY_HOST
from hodcarrier.demo.scenario import AGENCY, PASSWORD, PEOPLE, Scenario, email_of, is_played, surroundings
from hodcarrier.service.app import make_app, make_workspace
from hodcarrier.service.connections import serve
from hodcarrier.service.settings import Settings

MARK = "hodcarrier-demo"
WEB_WAIT_S = 30
log = structlog.get_logger()


def start(data: Path, port: int, keep: bool) -> int:
    """Run the demo until interrupted; the console's port and the three after it are used."""
    set_up_logs()
    for used in range(port, port + 4):
        check_port("127.0.0.1", used)
    _prepare_folder(data, keep)
    with hold_folder(data / "service"):
        return _serve(data, port)


def _serve(data: Path, port: int) -> int:
    settings = Settings(
        data=data / "service",
        port=port,
        agency=AGENCY,
        smtp_host="127.0.0.1",
        smtp_port=port + 3,
        mail_from="desk@cobble-lantern.example",
        owner_email="owner@cobble-lantern.example",
        owner_name="Owner",
        owner_password=PASSWORD,
        registry=f"https://{REGISTRY_HOST}/",
    )
    simulated = _start_web(data, port + 1, port + 2)
    sink = start_sink(data / "mail", port + 3)
    try:
        work = replace(make_workspace(settings), surroundings=surroundings(data, port + 1, port + 2))
        app = make_app(settings, work)
        if not is_played(work):
            story = Scenario(work, data, port + 1, port + 2, lambda text: setattr(app.state, "building", text))
            threading.Thread(target=_play, args=(story, app), daemon=True).start()
        sys.stdout.write(f"The demo answers at {settings.url} · sign in as {email_of(PEOPLE[0][0])} with {PASSWORD}\n")
        sys.stdout.flush()
        serve(app, settings)
    finally:
        sink.stop()
        simulated.terminate()
        simulated.wait()
    return 0


def _play(story: Scenario, app: object) -> None:
    began = time.monotonic()
    try:
        story.play()
        sys.stdout.write(f"All audits of the demo's history are done ({time.monotonic() - began:.0f} s).\n")
        sys.stdout.flush()
    except Exception:
        log.exception("the demo's story broke off")
        sys.stdout.write("The demo's history broke off; the log says why.\n")
        sys.stdout.flush()
        app.state.building = "the history broke off; see the log"  # type: ignore[attr-defined]


def _prepare_folder(data: Path, keep: bool) -> None:
    """An empty folder of ours, or the kept one. Never touches a folder that holds anything else."""
    mark = data / MARK
    if data.exists() and any(data.iterdir()) and not mark.exists():
        raise Conflict(f"{data} holds something else.", "Name an empty or new folder with --data.")
    try:
        if mark.exists() and not keep:
            shutil.rmtree(data)
        data.mkdir(parents=True, exist_ok=True)
        mark.write_text("This folder belongs to the demo and is emptied when it starts.\n")
        (data / "web.ready").unlink(missing_ok=True)
    except OSError as error:
        raise Unavailable(f"{data} cannot be written: {error.strerror}.", "Name another folder with --data.") from None


def _start_web(data: Path, http_port: int, https_port: int) -> subprocess.Popen[bytes]:
    process = subprocess.Popen([sys.executable, "-m", "hodcarrier.demo.web", str(data), str(http_port), str(https_port)])
    until = time.monotonic() + WEB_WAIT_S
    while not (data / "web.ready").exists():
        if process.poll() is not None or time.monotonic() > until:
            process.kill()
            raise Unavailable("The simulated web did not start.", "See the lines above.")
        time.sleep(0.05)
    return process
