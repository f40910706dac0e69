"""The story of the demo: members, clients, weekly audits, to-dos, waivers, remarks, benchmarks, figures, reports.

Everything goes through the ordinary use cases with a clock that is set back; the audits are real ones of the simulated web.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import httpx
from sqlalchemy import select

from hodcarrier.core.errors import HodcarrierError
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import ACTIVE_RUN
from hodcarrier.demo.sites import EDITIONS
from hodcarrier.demo.web import CONTROL
from hodcarrier.register.models import Client, Member, Run, Site
from hodcarrier.usecases import benchmarks, clients, members, metrics, remarks, reports, runs, schedules, sites, todos, waivers
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.benchmarks import BenchmarkBody
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.remarks import RemarkBody
from hodcarrier.wire.reports import ReportBody
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody, TodoChange
from hodcarrier.wire.waivers import WaiverBody

RATE_PER_S = 400
AGENCY = "Cobble & Lantern"
PASSWORD = "heather-and-gravel"
PEOPLE = (
    ("Imke Aldersgate", Role.LEAD),
    ("Tobin Wraysbury", Role.ANALYST),
    ("Oona Featherby", Role.FIXER),
    ("Casper Dunmore", Role.FIXER),
)
CLIENTS = (
    ("Tidewrack Chandlery", "tidewrack.example", ("saltline-stores.example", "harbour-and-hitch.example")),
    ("Pellow Kiln Studio", "pellow-kiln.example", ("clayfold-school.example",)),
    ("Ardmoor Seed Library", "ardmoor-seeds.example", ("two-rivers-seedbank.example",)),
)
FIGURES = {
    "tidewrack.example": ((18400, 18950, 19900, 20350), (412, 418, 431, 436), (96, 97, 99, 101)),
    "saltline-stores.example": ((26100, 26300, 26250, 26900), (655, 660, 662, 671), (188, 190, 191, 195)),
    "harbour-and-hitch.example": ((7200, 7150, 6900, 6850), (140, 138, 133, 130), (41, 41, 41, 40)),
    "pellow-kiln.example": ((3100, 3180, 3350, 3420), (88, 90, 95, 97), (34, 34, 36, 37)),
    "clayfold-school.example": ((4200, 4230, 4100, 4180), (120, 121, 118, 119), (52, 52, 53, 53)),
    "ardmoor-seeds.example": ((9800, 10150, 10600, 11200), (510, 522, 540, 561), (143, 146, 150, 155)),
    "two-rivers-seedbank.example": ((8900, 9000, 9150, 9300), (398, 402, 409, 415), (120, 121, 123, 126)),
}


def email_of(name: str) -> str:
    """The made-up e-mail address of a member."""
    return f"{name.split()[0].lower()}@cobble-lantern.example"


class Scenario:
    """Plays the story on a workspace whose service is running."""

    def __init__(self, work: Workspace, folder: Path, http_port: int, https_port: int, say: Callable[[str], None]) -> None:
        self.work = work
        self.folder = folder
        self.ports = (http_port, https_port)
        self.say = say
        last_night = datetime.now(UTC).replace(hour=2, minute=4, second=0, microsecond=0)
        if last_night > datetime.now(UTC) - timedelta(minutes=10):
            last_night -= timedelta(days=1)
        self.dates = [last_night - timedelta(weeks=EDITIONS - n) for n in range(1, EDITIONS + 1)]
        self.sites: dict[str, int] = {}
        self.people: dict[str, Member] = {}

    def at(self, moment: datetime) -> Workspace:
        """The workspace with its clock set to a moment."""
        return replace(self.work, now=lambda: moment)

    def play(self) -> None:
        """Everything, from the first member to last month's reports."""
        start = self.dates[0] - timedelta(days=3)
        self._people(self.at(start))
        self._clients(self.at(start))
        names = self._benchmarks(self.at(start))
        steps = {1: self._after_first, 2: self._after_second, 3: self._after_third, 4: self._after_fourth}
        for edition, moment in enumerate(self.dates, 1):
            self.say(f"auditing week {edition} of {EDITIONS}")
            self._turn_to(edition)
            for _, host, _ in CLIENTS:
                runs.queue_run(self.work, self.sites[host], at=moment)
            self._wait()
            for benchmark in names:
                benchmarks.start_round(self.work, benchmark, at=moment + timedelta(hours=1))
            self._wait()
            steps[edition](moment)
        self._figures()
        self._schedules()
        self._reports()
        self.say("")

    def _turn_to(self, edition: int) -> None:
        response = httpx.put(f"http://127.0.0.1:{self.ports[0]}/edition/{edition}", headers={"Host": CONTROL}, trust_env=False)
        response.raise_for_status()

    def _wait(self) -> None:
        """Until no run is waiting or under way."""
        while True:
            with self.work.session() as session:
                if session.scalar(select(Run.id).where(Run.state.in_(ACTIVE_RUN)).limit(1)) is None:
                    return
            time.sleep(0.1)

    def _people(self, work: Workspace) -> None:
        for name, role in PEOPLE:
            members.add_member(work, MemberBody(name=name, email=email_of(name), role=role, password=PASSWORD))
        with work.session() as session:
            for member in session.scalars(select(Member)):
                session.expunge(member)
                self.people[member.name.split()[0]] = member

    def _clients(self, work: Workspace) -> None:
        http_port, https_port = self.ports
        for client, host, competitors in CLIENTS:
            added = clients.add_client(work, ClientBody(name=client), None)
            for name in (host, *competitors):
                plan = {
                    "host_map": {f"{name}:80": f"127.0.0.1:{http_port}", f"{name}:443": f"127.0.0.1:{https_port}"},
                    "ca_file": str((self.folder / "ca.pem").resolve()),
                    "rate_per_s": RATE_PER_S,
                    "parallel": 8,
                    "time_zone": "Europe/London",
                }
                kind = "own" if name == host else "competitor"
                site = sites.add_site(
                    work,
                    SiteBody.model_validate({"client_id": added.id, "address": f"https://{name}/", "kind": kind, "plan": plan}),
                    None,
                )
                self.sites[name] = site.id
            guest = client.split()[0].lower()
            body = MemberBody(
                name=f"Guest of {client}", email=f"guest@{guest}.example", role=Role.GUEST, password=PASSWORD, client_id=added.id
            )
            members.add_member(work, body)

    def _benchmarks(self, work: Workspace) -> list[int]:
        made = []
        for client, host, competitors in CLIENTS:
            body = BenchmarkBody(
                name=client,
                site_id=self.sites[host],
                competitor_ids=[self.sites[c] for c in competitors],
                pages_max=300,
                rate_per_s=RATE_PER_S,
            )
            made.append(benchmarks.add_benchmark(work, body, None).id)
        return made

    def _todo(self, moment: datetime, host: str, who: str, check: str, days: int, note: str = "") -> int | None:
        """A to-do from all findings of a check in the run of that week; ``None`` when there are none."""
        body = TodoBody(
            site_id=self.sites[host],
            check=check,
            assignee=self.people[who].id,
            due=(moment + timedelta(days=days)).date(),
            note=note,
        )
        try:
            return todos.add_todo(self.at(moment + timedelta(hours=7)), body, self.people["Tobin"]).id
        except HodcarrierError:
            return None

    def _set(self, moment: datetime, todo: int | None, who: str, state: str, comment: str = "") -> None:
        if todo is not None:
            change = TodoChange(state=state, **({"comment": comment} if comment else {}))  # type: ignore[arg-type]
            todos.change_todo(self.at(moment), todo, change, None, self.people[who])

    def _after_first(self, moment: datetime) -> None:
        broken = self._todo(
            moment, "tidewrack.example", "Casper", "link-broken", 6, "The kedge is out of the range; link to the anchors instead."
        )
        self._set(moment + timedelta(days=4), broken, "Casper", "done", "Pointed at /shop/anchors/.")
        self._set(
            moment + timedelta(days=2),
            self._todo(moment, "ardmoor-seeds.example", "Casper", "speed-uncompressed", 10),
            "Casper",
            "doing",
        )
        self._todo(moment, "ardmoor-seeds.example", "Oona", "desc-missing", 12)
        for host in ("tidewrack.example", "ardmoor-seeds.example"):
            body = WaiverBody(
                check="text-thin",
                pattern=f"https://{host}/contact",
                reason="Kept short on purpose: address and nothing else",
                end=(self.work.now() + timedelta(days=4)).date(),
            )
            waivers.add_waiver(self.at(moment + timedelta(hours=8)), self.sites[host], body, self.people["Imke"])

    def _after_second(self, moment: datetime) -> None:
        remarks.add_remark(
            self.at(moment),
            self.sites["tidewrack.example"],
            RemarkBody(day=(moment - timedelta(days=1)).date(), text="New theme went live"),
            self.people["Tobin"],
        )
        remarks.add_remark(
            self.at(moment),
            self.sites["pellow-kiln.example"],
            RemarkBody(day=(moment - timedelta(days=2)).date(), text="Welsh pages published"),
            self.people["Tobin"],
        )
        written = self._todo(
            moment,
            "tidewrack.example",
            "Oona",
            "desc-missing",
            12,
            "The new theme lost them. Two sentences each, from the first paragraph.",
        )
        self._set(moment + timedelta(days=5), written, "Oona", "done", "All written in the shop's back office.")
        self._todo(moment, "pellow-kiln.example", "Casper", "lang-alt-no-return", 9)
        self._todo(moment, "tidewrack.example", "Tobin", "media-alt-missing", 25)

    def _after_third(self, moment: datetime) -> None:
        guide = self._todo(
            moment, "tidewrack.example", "Casper", "link-broken", 5, "The guide now lives at /guides/rope/splicing-rope."
        )
        self._set(moment + timedelta(days=1), guide, "Casper", "doing", "Menu and guides first, product pages after that.")
        self._todo(moment, "ardmoor-seeds.example", "Imke", "files-sitemap-entry-broken", 4)
        self._todo(moment, "pellow-kiln.example", "Imke", "media-heavy", 3)

    def _after_fourth(self, moment: datetime) -> None:
        self._todo(
            moment, "pellow-kiln.example", "Casper", "secure-expiring", 3, "Ask the host why it was not renewed by itself."
        )

    def _figures(self) -> None:
        folder = self.folder / "figures"
        folder.mkdir(exist_ok=True)
        for host, columns in FIGURES.items():
            lines = ["day,name,value,source"]
            for name, values in zip(("Visits", "Ranking keywords", "Referring domains"), columns, strict=True):
                lines += [
                    f"{moment.date()},{name},{value},made up for the demo"
                    for moment, value in zip(self.dates, values, strict=True)
                ]
            path = folder / f"{host}.csv"
            path.write_text("\n".join(lines) + "\n")
            metrics.import_metrics(self.work, self.sites[host], path.read_text(), self.people["Tobin"])

    def _schedules(self) -> None:
        for n, (_, host, _) in enumerate(CLIENTS):
            body = ScheduleBody(
                rule="weekly:TU", at=f"02:{4 + 27 * n:02d}", zone="Europe/London", mail_to=[email_of("Imke Aldersgate")]
            )
            schedules.set_schedule(self.work, self.sites[host], body, self.people["Imke"])

    def _reports(self) -> None:
        for _, host, _ in CLIENTS:
            body = ReportBody(site_id=self.sites[host], from_day=(self.dates[0]).date(), to_day=self.dates[-1].date(), note="")
            reports.add_report(self.work, body, self.people["Imke"], AGENCY)


def is_played(work: Workspace) -> bool:
    """Whether the story has been played to its end in this register."""
    with work.session() as session:
        wanted = len(CLIENTS) * EDITIONS
        done = len(session.scalars(select(Run.id).where(Run.purpose == "audit", Run.state == "done")).all())
        return (
            done >= wanted
            and session.scalar(select(Client.id).limit(1)) is not None
            and session.scalar(select(Site.id).limit(1)) is not None
        )
