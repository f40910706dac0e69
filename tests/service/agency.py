"""An agency behind the application, without a network: two clients with everything kept for one, and somebody of each role."""

from __future__ import annotations

import asyncio
import json
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import Any

import httpx

from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import Appearance, ExportForm, SiteKind, TokenScope
from hodcarrier.register.models import Member
from hodcarrier.service.app import make_app
from hodcarrier.service.settings import Settings
from hodcarrier.usecases import benchmark_setup, clients, members, remarks, reports, sites, todos, waivers
from hodcarrier.wire.benchmarks import BenchmarkBody
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import MemberBody, TokenBody
from hodcarrier.wire.operations import OPERATIONS
from hodcarrier.wire.remarks import RemarkBody
from hodcarrier.wire.reports import ReportBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from hodcarrier.wire.waivers import WaiverBody
from tests.places import new_place
from tests.usecases.conftest import START, KeptMail, Office

PASSWORD = "long enough words"
NOWHERE = {int: 999_999, str: "ffffffffff", ExportForm: ExportForm.CSV, Appearance: Appearance.PHONE}


@dataclass
class Things:
    """One client's things, by the names that paths give them."""

    ids: dict[str, Any]

    def path(self, operation: str) -> str:
        found = OPERATIONS[operation]
        ends = "?seconds=0" if operation == "watch_changes" else ""
        return (
            "/api/v1"
            + found.path.format(**{name: self.ids.get(name, NOWHERE[kind]) for name, kind in found.path_parameters})
            + ends
        )


@dataclass
class Agency:
    """An agency with two clients, and somebody of each role. The guest belongs to the first client."""

    app: Any
    tokens: dict[str, str]
    own: Things
    other: Things
    nothing: Things

    def request(self, method: str, path: str, role: str | None, body: object = None) -> httpx.Response:
        return self.send(method, path, role, None if body is None else json.dumps(body).encode())

    def send(
        self, method: str, path: str, role: str | None, body: bytes | None = None, headers: dict[str, str | bytes] | None = None
    ) -> httpx.Response:
        """Send bytes as they are: what is no JSON, too."""
        sent: dict[str, Any] = {"Content-Type": "application/json", **(headers or {})}
        if role:
            sent["Authorization"] = f"Bearer {self.tokens[role]}"

        async def send() -> httpx.Response:
            transport = httpx.ASGITransport(self.app, raise_app_exceptions=False)
            async with httpx.AsyncClient(transport=transport, base_url="http://desk.example", headers=sent) as connection:
                return await connection.request(method, path, content=body)

        return asyncio.run(send())

    def ask(self, operation: str, path: str, role: str | None) -> int:
        method = OPERATIONS[operation].method
        return self.request(method, path, role, {} if method in ("POST", "PUT", "PATCH") else None).status_code


NOBODY = Member(id=None, name="")


def make_things(office: Office, name: str, fixer: int) -> Things:
    work = office.work
    client = clients.add_client(work, ClientBody(name=name), None).id
    host = f"https://{name.lower()}.example/"
    site = sites.add_site(work, SiteBody(client_id=client, address=host), None)
    rival = sites.add_site(
        work, SiteBody(client_id=client, address=f"https://rival-of-{name.lower()}.example/", kind=SiteKind.COMPETITOR), None
    )
    run = Office(work, office.mail, site).audit(START, [page(doc("<h1>Shop</h1>"), host)])
    report = reports.add_report(
        work, ReportBody(site_id=site.id, from_day=START.date(), to_day=(START + timedelta(days=1)).date()), None, "Agency"
    )
    reports.approve_report(work, report.id, None, NOBODY)
    return Things(
        {
            "client_id": client,
            "site_id": site.id,
            "run_id": run,
            "todo_id": todos.add_todo(work, TodoBody(site_id=site.id, title="Ring them", assignee=fixer), None).id,
            "remark_id": remarks.add_remark(work, site.id, RemarkBody(day=START.date(), text="New theme"), None).id,
            "waiver_id": waivers.add_waiver(work, site.id, WaiverBody(check="text-thin", reason="Meant so"), None).id,
            "benchmark_id": benchmark_setup.add_benchmark(
                work, BenchmarkBody(name=name, site_id=site.id, competitor_ids=[rival.id]), None
            ).id,
            "report_id": report.id,
            "check_id": "title-long",
            "form": "csv",
        }
    )


def make_agency(data: Path) -> Agency:
    """Make it in an empty folder."""
    mail = KeptMail()
    work = new_place(data)
    office = Office(work, mail, None)  # type: ignore[arg-type]
    people: dict[Role, int] = {}
    for role in (Role.OWNER, Role.LEAD, Role.ANALYST, Role.FIXER):
        people[role] = members.add_member(
            work, MemberBody(name=role, email=f"{role}@agency.example", role=role, password=PASSWORD)
        ).id
    colleague = members.add_member(
        work, MemberBody(name="Other", email="other@agency.example", role=Role.FIXER, password=PASSWORD)
    ).id
    own, other = make_things(office, "Rope", people[Role.FIXER]), make_things(office, "Twine", colleague)
    guest = MemberBody(name="Guest", email="g@rope.example", role=Role.GUEST, password=PASSWORD, client_id=own.ids["client_id"])
    people[Role.GUEST] = members.add_member(work, guest).id
    tokens: dict[str, str] = {}
    for role, number in people.items():
        with work.reading() as session:
            member = session.get_one(Member, number)
        tokens[role] = members.add_token(work, member, TokenBody(name="tests")).secret or ""
    with work.reading() as session:
        owner = session.get_one(Member, people[Role.OWNER])
    tokens["reading"] = members.add_token(work, owner, TokenBody(name="reading", scope=TokenScope.READ)).secret or ""
    app = make_app(Settings(data=data), work)
    return Agency(app, tokens, own, other, Things({"form": "csv"}))
