"""The story of the demo: members, clients, weekly audits, to-dos, waivers, remarks, benchmarks, figures, reports.

Everything goes through the ordinary use cases with a clock that is set back; the audits are real ones of the simulated web.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import httpx
from sqlalchemy import select

from hodcarrier.core.errors import HodcarrierError, Unavailable
from hodcarrier.core.permissions import Role
from hodcarrier.core.plan import SeverityChange
from hodcarrier.core.states import ACTIVE_RUN, FeedState, Severity
from hodcarrier.demo.feed import FEED_HOST
from hodcarrier.demo.figures import import_figures
from hodcarrier.demo.in_charge import put_in_charge
from hodcarrier.demo.registry import REGISTRY_HOST
from hodcarrier.demo.reporting import make_reports
from hodcarrier.demo.reviews import fill_in_sheets
from hodcarrier.demo.sites import EDITIONS
from hodcarrier.demo.sites.parts import ROUNDS
from hodcarrier.demo.web import CONTROL, FEEDS
from hodcarrier.register.models import Client, Member, Run, Site
from hodcarrier.usecases import (
    benchmark_setup,
    benchmarks,
    clients,
    figure_feeds,
    members,
    plans,
    profiles,
    remarks,
    runs,
    schedules,
    sites,
    todo_changes,
    todos,
    waivers,
)
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.benchmarks import BenchmarkBody, RoundScheduleBody
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.profiles import ProfileBody
from hodcarrier.wire.remarks import RemarkBody
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody, TodoChange
from hodcarrier.wire.waivers import WaiverBody

# Fewer than the largest site has: its figures in a benchmark are those of a sample.
BENCHMARK_PAGES = 200
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
# Sites whose start is not over https.
PLAIN = frozenset({"clayfold-school.example"})
WITH_WWW = ("harbour-and-hitch.example",)


def email_of(name: str) -> str:
    """The made-up e-mail address of a member."""
    return f"{name.split()[0].lower()}@cobble-lantern.example"


def surroundings(folder: Path, http_port: int, https_port: int) -> dict[str, Any]:
    """Where the simulated web is: settings that every site of the demo begins with."""
    hosts = [host for _, own, others in CLIENTS for host in (own, *others)]
    # Only one has a host under www: to ask the others would cost every run some seconds, at the pace that is kept with other hosts.
    names = [*hosts, *(f"www.{host}" for host in WITH_WWW)]
    mapping = {f"{name}:{port}": f"127.0.0.1:{to}" for name in names for port, to in ((80, http_port), (443, https_port))}
    mapping |= {f"{name}:443": f"127.0.0.1:{https_port}" for name in (FEED_HOST, REGISTRY_HOST)}
    return {"host_map": mapping, "ca_file": str((folder / "ca.pem").resolve())}


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
        # To-dos that the story comes back to.
        self.written: int | None = None
        self.back: int | None = None
        self.guide: int | None = None

    def at(self, moment: datetime) -> Workspace:
        """The workspace with its clock set to a moment."""
        return replace(self.work, now=lambda: moment)

    def play(self) -> None:
        """Everything, from the first member to last month's reports."""
        start = self.dates[0] - timedelta(days=3)
        self._people(self.at(start))
        self._clients(self.at(start))
        names = self._benchmarks(self.at(start))
        steps = {
            1: self._after_first,
            2: self._after_second,
            4: self._after_fourth,
            5: self._after_fifth,
            6: self._after_sixth,
            7: self._after_seventh,
            8: self._after_eighth,
            9: self._after_ninth,
            10: self._after_tenth,
        }
        self._profiles(self.at(start))
        put_in_charge(self.at(start), self.sites, self.people, self.dates[-1].year)
        for edition, moment in enumerate(self.dates, 1):
            self.say(f"auditing week {edition} of {EDITIONS}")
            self._turn_to(edition)
            for _, host, _ in CLIENTS:
                runs.queue_run(self.work, self.sites[host], at=moment)
            self._wait()
            if edition in ROUNDS:
                for benchmark in names:
                    benchmarks.start_round(self.work, benchmark, at=moment + timedelta(hours=1))
                self._wait()
            if edition in steps:
                steps[edition](moment)
        self.say("importing figures")
        feeds = self.folder / FEEDS
        import_figures(self.work, self.folder / "figures", feeds, self.sites, self.dates, self.people["Tobin"])
        self._await_feed()
        fill_in_sheets(self.at, self.sites, self.dates, self.people["Imke"])
        self._schedules()
        for benchmark in names:
            body = RoundScheduleBody(rule="monthly:1", zone="Europe/London")
            benchmark_setup.set_round_schedule(self.work, benchmark, body, self.people["Imke"])
        make_reports(self.at, self.sites, self.people, self.dates[2], datetime.now(UTC), AGENCY)
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

    def _await_feed(self) -> None:
        """Until the feed has given all that it has. Raises :class:`Unavailable` when it cannot be read."""
        while True:
            [feed] = figure_feeds.list_figure_feeds(self.work)
            if feed.state == FeedState.FAILING:
                raise Unavailable(f"The feed cannot be read: {feed.sentence}")
            if feed.went_well_at is not None:
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
        for client, host, competitors in CLIENTS:
            added = clients.add_client(work, ClientBody(name=client), None)
            for name in (host, *competitors):
                plan = {
                    "rate_per_s": RATE_PER_S,
                    "parallel": 8,
                    "time_zone": "Europe/London",
                    **({"expected": ["/static/count.js"]} if name == "tidewrack.example" else {}),
                }
                kind = "own" if name == host else "competitor"
                site = sites.add_site(
                    work,
                    SiteBody.model_validate(
                        {
                            "client_id": added.id,
                            "address": f"{'http' if name in PLAIN else 'https'}://{name}/",
                            "kind": kind,
                            "plan": plan,
                        }
                    ),
                    None,
                )
                self.sites[name] = site.id
            guest = client.split()[0].lower()
            body = MemberBody(
                name=f"Guest of {client}", email=f"guest@{guest}.example", role=Role.GUEST, password=PASSWORD, client_id=added.id
            )
            members.add_member(work, body)

    def _profiles(self, work: Workspace) -> None:
        """What shops have in common, and what pages for reading; both of the agency's large shops are judged by the first."""
        reason = "Customers choose by the picture, and so do those who cannot see it."
        body = ProfileBody(
            name="Shop",
            note="Product pages are short, and lists of products are long.",
            thresholds={"words_min": 120, "links_max": 400},
            severities={"media-alt-missing": SeverityChange(Severity.HIGH, reason)},
        )
        profiles.add_profile(work, body, self.people["Tobin"])
        reading = ProfileBody(name="Reading", note="Articles are long, and their lists short.", thresholds={"links_max": 40})
        profiles.add_profile(work, reading, self.people["Tobin"])
        for host, name in (
            ("tidewrack.example", "Shop"),
            ("saltline-stores.example", "Shop"),
            ("ardmoor-seeds.example", "Reading"),
        ):
            plans.change_plan(work, self.sites[host], {"profile": name}, None, self.people["Tobin"])

    def _benchmarks(self, work: Workspace) -> list[int]:
        made = []
        for client, host, competitors in CLIENTS:
            body = BenchmarkBody(
                name=client,
                site_id=self.sites[host],
                competitor_ids=[self.sites[c] for c in competitors],
                pages_max=BENCHMARK_PAGES,
                rate_per_s=RATE_PER_S,
            )
            made.append(benchmark_setup.add_benchmark(work, body, None).id)
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
            todo_changes.change_todo(self.at(moment), todo, change, None, self.people[who])

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

    def _remark(self, moment: datetime, host: str, days_before: int, text: str) -> None:
        body = RemarkBody(day=(moment - timedelta(days=days_before)).date(), text=text)
        remarks.add_remark(self.at(moment), self.sites[host], body, self.people["Tobin"])

    def _after_second(self, moment: datetime) -> None:
        self._remark(moment, "tidewrack.example", 1, "New theme went live")
        written = self._todo(
            moment,
            "tidewrack.example",
            "Oona",
            "desc-missing",
            38,
            "The new theme lost them. Two sentences each, from the first paragraph.",
        )
        self._set(
            moment + timedelta(days=5), written, "Oona", "done", "Rope and anchors are written; I took the rest for optional."
        )
        self.written = written
        self._todo(moment, "tidewrack.example", "Tobin", "media-alt-missing", 45)

    def _after_fourth(self, moment: datetime) -> None:
        self._remark(moment, "pellow-kiln.example", 2, "Welsh pages published")
        back = self._todo(moment, "pellow-kiln.example", "Casper", "lang-alt-no-return", 30)
        self._set(moment + timedelta(days=3), back, "Casper", "doing", "The template of the Welsh pages is with the translators.")
        self.back = back

    def _after_fifth(self, moment: datetime) -> None:
        guide = self._todo(
            moment, "tidewrack.example", "Casper", "link-broken", 12, "The guide now lives at /guides/rope/splicing-rope."
        )
        self._set(moment + timedelta(days=1), guide, "Casper", "doing", "Menu and guides first, product pages after that.")
        self.guide = guide

    def _after_sixth(self, moment: datetime) -> None:
        heavy = self._todo(moment, "pellow-kiln.example", "Imke", "media-heavy", 40)
        self._set(moment + timedelta(days=2), heavy, "Imke", "doing", "The photographer sends a smaller one.")
        self._todo(moment, "tidewrack.example", "Casper", "index-lost-noindex", 2, "Left over from the test server, I think.")
        self._set(moment + timedelta(days=4), self.guide, "Casper", "done", "Redirect in place, links changed.")
        self._set(moment + timedelta(days=5), self.written, "Oona", "done", "All written in the shop's back office.")

    def _after_seventh(self, moment: datetime) -> None:
        self._set(moment + timedelta(days=6), self.back, "Casper", "done", "All classes lead back now.")

    def _after_eighth(self, moment: datetime) -> None:
        self._todo(moment, "ardmoor-seeds.example", "Imke", "files-sitemap-entry-broken", 4)

    def _after_ninth(self, moment: datetime) -> None:
        filters = self._todo(
            moment,
            "tidewrack.example",
            "Casper",
            "link-to-noncanonical",
            20,
            "The filters of the lists are links; make them buttons.",
        )
        self._set(moment + timedelta(days=5), filters, "Casper", "done", "In the template since Wednesday.")

    def _after_tenth(self, moment: datetime) -> None:
        self._todo(
            moment, "pellow-kiln.example", "Casper", "secure-expiring", 3, "Ask the host why it was not renewed by itself."
        )

    def _schedules(self) -> None:
        for n, (_, host, _) in enumerate(CLIENTS):
            body = ScheduleBody(
                rule="weekly:TU", at=f"02:{4 + 27 * n:02d}", zone="Europe/London", mail_to=[email_of("Imke Aldersgate")]
            )
            schedules.set_schedule(self.work, self.sites[host], body, self.people["Imke"])


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
