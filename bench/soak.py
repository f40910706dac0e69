"""``make soak``: the service at work for ten minutes while its processes are killed hard, its mail server goes away and people ask; then the
books are checked.

Nothing may be lost or done twice: every run that was asked for has ended and is there as often as it was asked for, every run that is done
has a whole file, every mail has gone out (twice at most where a kill fell between sending and noting), and no request was answered by 5xx.
"""

from __future__ import annotations

import os
import random
import secrets
import signal
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from contextlib import suppress
from dataclasses import dataclass, field
from email import message_from_bytes
from pathlib import Path

import httpx
from aiosmtpd.controller import Controller

from bench.__main__ import served
from hodcarrier.audit.doctor import examine_folder
from hodcarrier.client import Hodcarrier, RequestFailed, Unreachable
from hodcarrier.core.states import DeliveryState, RunState
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import SignInBody, TokenBody
from hodcarrier.wire.runs import RunBrief
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteBody
from tests.running import children, free_ports, wait_for_answer

EMAIL = "owner@agency.example"
SITES, PAGES, FAULTS = 6, 400, 3
ENDED = (RunState.DONE, RunState.STOPPED, RunState.FAILED)
SETTLE_S = 240


@dataclass
class Letters:
    """A mail server that counts what it is given by its Message-ID, and is away at times."""

    port: int
    taken: Counter[str] = field(default_factory=Counter)
    _controller: Controller | None = None

    async def handle_DATA(self, _server: object, _session: object, envelope: object) -> str:  # noqa: N802
        """Take one."""
        content: bytes = envelope.content  # type: ignore[attr-defined]
        self.taken[str(message_from_bytes(content)["Message-ID"])] += 1
        return "250 taken"

    def begin(self) -> None:
        """Be there."""
        self._controller = Controller(self, hostname="127.0.0.1", port=self.port)
        self._controller.start()

    def end(self) -> None:
        """Go away."""
        if self._controller is not None:
            self._controller.stop()
            self._controller = None


@dataclass
class House:
    """The service, which is killed and started again in the same folder."""

    data: Path
    port: int
    smtp_port: int
    password: str = field(default_factory=lambda: secrets.token_urlsafe(16))
    process: subprocess.Popen[bytes] | None = None

    @property
    def url(self) -> str:
        """Where it answers."""
        return f"http://127.0.0.1:{self.port}"

    def begin(self) -> None:
        """Start it and wait until it answers."""
        environment = {
            **{k: v for k, v in os.environ.items() if not k.startswith("HODCARRIER_")},
            "HODCARRIER_OWNER_EMAIL": EMAIL,
            "HODCARRIER_OWNER_PASSWORD": self.password,
            "HODCARRIER_SMTP_HOST": "127.0.0.1",
            "HODCARRIER_SMTP_PORT": str(self.smtp_port),
        }
        command = [sys.executable, "-m", "hodcarrier.cli.main", "serve", "--data", str(self.data), "--port", str(self.port)]
        self.process = subprocess.Popen(command, env=environment, stderr=subprocess.DEVNULL)
        wait_for_answer(self.url, self.process)

    def kill(self, sign: signal.Signals) -> None:
        """End it, hard or in order, and start it again."""
        assert self.process is not None
        self.process.send_signal(sign)
        self.process.wait(60)
        self.begin()

    def nurseries(self) -> list[int]:
        """Where its workers come from: one, or none while a new one begins."""
        assert self.process is not None
        return children(self.process.pid)

    def kill_a_worker(self, draw: random.Random) -> bool:
        """End one of its workers hard; returns whether there was one."""
        workers = [worker for nursery in self.nurseries() for worker in children(nursery)]
        if workers:
            with suppress(ProcessLookupError):
                os.kill(draw.choice(workers), signal.SIGKILL)
        return bool(workers)


@dataclass
class Asking:
    """People who ask all the time; counts what they are answered."""

    url: str
    token: str
    statuses: Counter[str] = field(default_factory=Counter)
    _ended: threading.Event = field(default_factory=threading.Event)

    def go_on(self) -> None:
        """Ask until it is ended. A service that is just being killed does not answer, which is in order."""
        with httpx.Client(headers={"Authorization": f"Bearer {self.token}"}, timeout=60) as client:
            while not self._ended.wait(0.05):
                for path in ("/desk", "/sites", "/runs", "/todos", "/deliveries"):
                    try:
                        self.statuses[f"{client.get(f'{self.url}/api/v1{path}').status_code // 100}xx"] += 1
                    except httpx.TransportError:
                        self.statuses["no answer"] += 1

    def end(self) -> None:
        """No more."""
        self._ended.set()


def play(house: House, letters: Letters, token: str, sites: list[int], seconds: float) -> tuple[set[str], Counter[str]]:
    """Kills, mail servers that go away and runs that are asked for; gives the runs and what was done how often."""
    draw, asked, deeds = random.Random(20261127), set(), Counter[str]()
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        with Hodcarrier(house.url, token) as desk:
            for site in sites:
                with suppress(RequestFailed, Unreachable):  # it is being audited already
                    asked.add(desk.start_run(site).id)
        time.sleep(draw.uniform(0.2, 2.5))
        deed = draw.choice(
            [
                "kill a worker",
                "kill a worker",
                "kill the nursery",
                "kill the service",
                "stop the service",
                "mail goes away",
                "mail comes back",
                "stop a run",
            ]
        )
        if deed == "kill a worker" and not house.kill_a_worker(draw):
            continue
        if deed == "kill the nursery":
            for nursery in house.nurseries():
                with suppress(ProcessLookupError):
                    os.kill(nursery, signal.SIGKILL)
        elif deed.endswith("the service"):
            house.kill(signal.SIGKILL if deed.startswith("kill") else signal.SIGTERM)
        elif deed == "mail goes away":
            letters.end()
        elif deed == "mail comes back":
            letters.end()
            letters.begin()
        elif deed == "stop a run" and asked:
            with Hodcarrier(house.url, token) as desk, suppress(RequestFailed, Unreachable):
                desk.stop_run(draw.choice(sorted(asked)))
        deeds[deed] += 1
    return asked, deeds


def runs_of(desk: Hodcarrier) -> list[RunBrief]:
    """The runs of all sites."""
    return [run for site in desk.list_sites() for run in desk.list_runs(site=site.id)]


def settle(house: House, token: str) -> None:
    """Wait until nothing is under way and no mail is due."""
    end = time.monotonic() + SETTLE_S
    with Hodcarrier(house.url, token) as desk:
        for row in desk.list_deliveries(DeliveryState.WAITING, limit=1000):
            desk.send_again(row.id)
        while time.monotonic() < end:
            waiting = [run for run in runs_of(desk) if run.state not in ENDED]
            mails = desk.list_deliveries(DeliveryState.WAITING, limit=1000)
            if not waiting and not mails:
                return
            time.sleep(0.5)
    raise SystemExit(
        f"After {SETTLE_S} s {len(waiting)} runs and {len(mails)} mails are still under way: "
        + ", ".join(f"{r.id} {r.state}" for r in waiting)
    )


def check_books(house: House, letters: Letters, token: str, asked: set[str], statuses: Counter[str]) -> list[str]:
    """What does not add up, in sentences."""
    with Hodcarrier(house.url, token) as desk:
        runs = {run.id: run for run in runs_of(desk)}
        sent = desk.list_deliveries(None, limit=1000)
        wrong = [f"Run {run_id} was asked for and is not there." for run_id in asked - set(runs)]
        wrong += [f"Run {run_id} is there and was not asked for." for run_id in set(runs) - asked]
        told = Counter(mail.run_id for mail in sent)
        for run in runs.values():
            if run.state == RunState.DONE:
                next(iter(desk.list_findings(run.id)), None)
            if run.state == RunState.FAILED and "broke off 3 times" not in run.reason:
                wrong.append(f"Run {run.id} failed: {run.reason}")
            if run.state != RunState.STOPPED and told[run.id] != 1:
                wrong.append(f"Run {run.id} ({run.state}) has {told[run.id]} mails.")
    wrong += [f"Mail {mail.id} is {mail.state}: {mail.error}" for mail in sent if mail.state != DeliveryState.SENT]
    lost = len(sent) - len(letters.taken)
    if lost:
        wrong.append(f"{lost} mails of {len(sent)} never arrived.")
    if more := [key for key, times in letters.taken.items() if times > 2]:
        wrong.append(f"{len(more)} mails arrived more than twice.")
    if statuses["5xx"]:
        wrong.append(f"{statuses['5xx']} requests were answered by 5xx.")
    return wrong + examine_folder(house.data).problems


def main() -> int:
    """Play, settle, check; 1 when something does not add up."""
    minutes = float(os.environ.get("MINUTES") or 10)
    with tempfile.TemporaryDirectory() as folder, served(PAGES, FAULTS) as address:
        port = free_ports(2)
        house, letters = House(Path(folder), port, port + 1), Letters(port + 1)
        letters.begin()
        house.begin()
        try:
            with Hodcarrier(house.url) as desk:
                desk.sign_in(SignInBody(email=EMAIL, password=house.password))
                token = desk.add_token(TokenBody(name="soak")).secret or ""
                plan = {"private_addresses": ["127.0.0.1"], "rate_per_s": 200.0, "pages_max": PAGES}
                sites = []
                for number in range(SITES):
                    client = desk.add_client(ClientBody(name=f"Client {number}"))
                    sites.append(desk.add_site(SiteBody(client_id=client.id, address=address, plan=plan)).id)
                    desk.set_schedule(
                        sites[-1],
                        ScheduleBody(rule="FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=1", at="02:00", zone="UTC", mail_to=[EMAIL]),
                    )
            asking = Asking(house.url, token)
            people = threading.Thread(target=asking.go_on, daemon=True)
            people.start()
            asked, deeds = play(house, letters, token, sites, minutes * 60)
            letters.end()
            letters.begin()
            settle(house, token)
            asking.end()
            people.join()
            wrong = check_books(house, letters, token, asked, asking.statuses)
        finally:
            letters.end()
            if house.process is not None:
                house.process.terminate()
                house.process.wait(60)
        print(
            f"{minutes:g} minutes: {len(asked)} runs; "
            + ", ".join(f"{deed} {times} times" for deed, times in sorted(deeds.items()))
        )
        print(
            f"answers: {dict(asking.statuses)}; mails: {len(letters.taken)} arrived, {sum(t - 1 for t in letters.taken.values())} of them twice"
        )
        for sentence in wrong:
            print(sentence)
        print("The books are in order." if not wrong else f"{len(wrong)} things are not in order.")
        return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
