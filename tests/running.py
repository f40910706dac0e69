"""Starting what the end-to-end tests talk to: a site on loopback, the service, the demo."""

from __future__ import annotations

import os
import random
import socket
import subprocess
import sys
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from hodcarrier.client import Hodcarrier
from hodcarrier.core.catalogue import Sample
from hodcarrier.core.states import DeliveryState
from hodcarrier.wire.members import SignInBody, TokenBody

OWNER, PASSWORD = "owner@agency.example", "a-long-password-for-tests"


def free_ports(count: int) -> int:
    """The first of ``count`` neighbouring ports that are free now.

    They lie below what the system gives out by itself (32,768 and up), so no connection made meanwhile can take one.
    """
    while True:
        first = random.randrange(20_000, 32_000)
        try:
            for port in range(first, first + count):
                with socket.socket() as probe:
                    probe.bind(("127.0.0.1", port))
        except OSError:
            continue
        return first


@dataclass
class LocalSite:
    """A real site on loopback that answers from samples. ``asked`` lists every request path in order.

    ``on_request`` is called with the number of the request before it is answered.
    """

    samples: dict[str, Sample]
    on_request: Callable[[int], None] = lambda _number: None
    asked: list[str] = field(default_factory=list)
    port: int = 0
    on_headers: Callable[[dict[str, str]], None] = lambda _headers: None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}/"


@contextmanager
def local_site(*samples: Sample, on_request: Callable[[int], None] = lambda _number: None) -> Iterator[LocalSite]:
    """Serve samples on loopback; an unknown path answers 404."""
    site = LocalSite({sample.path: sample for sample in samples}, on_request)
    lock = threading.Lock()

    class Handler(BaseHTTPRequestHandler):
        protocol_version = "HTTP/1.1"

        def do_GET(self) -> None:
            with lock:
                site.asked.append(self.path)
                number = len(site.asked)
            site.on_headers({name.lower(): value for name, value in self.headers.items()})
            site.on_request(number)
            sample = site.samples.get(self.path) or Sample(self.path, "not here", 404, (("content-type", "text/plain"),))
            body = sample.body.encode() if isinstance(sample.body, str) else sample.body
            self.send_response(sample.status)
            for name, value in sample.headers:
                self.send_header(name, value)
            self.send_header("Content-Length", str(len(body)))
            self.end_headers()
            if self.command != "HEAD":
                self.wfile.write(body)

        do_HEAD = do_GET  # noqa: N815

        def log_message(self, *_: object) -> None:
            """Quiet."""

    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    server.daemon_threads = True
    site.port = server.server_address[1]
    thread = threading.Thread(target=server.serve_forever, args=(0.05,), daemon=True)
    thread.start()
    try:
        yield site
    finally:
        server.shutdown()
        server.server_close()


@dataclass
class Service:
    """A running service process."""

    url: str
    data: Path
    process: subprocess.Popen[bytes]
    token: str = ""

    def client(self) -> Hodcarrier:
        return Hodcarrier(self.url, self.token)


def start_service(data: Path, port: int, **settings: str) -> Service:
    """Start ``hodcarrier serve`` and wait until it answers; signed in as its owner by a token."""
    environment = {
        **{k: v for k, v in os.environ.items() if not k.startswith("HODCARRIER_")},
        "HODCARRIER_OWNER_EMAIL": OWNER,
        "HODCARRIER_OWNER_PASSWORD": PASSWORD,
        "HODCARRIER_ALLOW_PRIVATE": "true",
        **{f"HODCARRIER_{name.upper()}": value for name, value in settings.items()},
    }
    command = [sys.executable, "-m", "hodcarrier.cli.main", "serve", "--data", str(data), "--port", str(port)]
    process = subprocess.Popen(command, env=environment)
    service = Service(f"http://127.0.0.1:{port}", data, process)
    wait_for_answer(service.url, process)
    with Hodcarrier(service.url) as desk:
        desk.sign_in(SignInBody(email=OWNER, password=PASSWORD))
        service.token = desk.add_token(TokenBody(name="tests")).secret or ""
    return service


def wait_for_mails(desk: Hodcarrier, count: int, seconds: float = 30) -> None:
    """Until so many mails have been sent."""
    wait = threading.Event()
    for _ in range(int(seconds / 0.1)):
        if len(desk.list_deliveries(DeliveryState.SENT, limit=1000)) >= count:
            return
        wait.wait(0.1)
    raise AssertionError("the mails did not go out")


def wait_for_answer(url: str, process: subprocess.Popen[bytes], seconds: float = 60) -> None:
    """Until the service's health address answers; fails when its process has ended."""
    wait = threading.Event()
    host, _, port = url.rpartition("//")[2].partition(":")
    for _ in range(int(seconds / 0.1)):
        with socket.socket() as probe:
            if probe.connect_ex((host, int(port))) == 0:
                return
        assert process.poll() is None, "the service ended while starting"
        wait.wait(0.1)
    raise AssertionError(f"nothing answers at {url}")


def children(pid: int) -> list[int]:
    """Ids of the processes a process has started."""
    found = []
    for folder in Path("/proc").glob("[0-9]*"):
        try:
            parent = int((folder / "stat").read_text().rpartition(")")[2].split()[1])
        except OSError:
            continue
        if parent == pid:
            found.append(int(folder.name))
    return found


def wait_for_end(pid: int, seconds: float = 60) -> None:
    """Until a process is gone, or is only a name that its parent has not collected yet."""
    wait = threading.Event()
    for _ in range(int(seconds / 0.05)):
        try:
            if (Path("/proc") / str(pid) / "stat").read_text().rpartition(")")[2].split()[0] == "Z":
                return
        except OSError:
            return
        wait.wait(0.05)
    raise AssertionError(f"process {pid} does not end")
