"""Every operation of the OpenAPI document, for every role, signed out, and on another client's things."""

from __future__ import annotations

import asyncio
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import Any

import httpx
import pytest

from hodcarrier.audit.place import make_place
from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.permissions import PERMISSIONS, Extent, Permission, Role
from hodcarrier.core.states import ExportForm, SiteKind
from hodcarrier.register.models import Member
from hodcarrier.service.app import make_app
from hodcarrier.service.settings import Settings
from hodcarrier.usecases import benchmarks, clients, members, remarks, reports, sites, todos, waivers
from hodcarrier.wire.benchmarks import BenchmarkBody
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.operations import OPERATIONS
from hodcarrier.wire.remarks import RemarkBody
from hodcarrier.wire.reports import ReportBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from hodcarrier.wire.waivers import WaiverBody
from tests.usecases.conftest import START, KeptMail, Office

PASSWORD = "long enough words"
NOWHERE = {int: 999_999, str: "ffffffffff", ExportForm: ExportForm.CSV}


@dataclass
class Things:
    """One client's things, by the names that paths give them."""

    ids: dict[str, Any]

    def path(self, operation: str) -> str:
        found = OPERATIONS[operation]
        return "/api/v1" + found.path.format(**{name: self.ids.get(name, NOWHERE[kind]) for name, kind in found.path_parameters})


@dataclass
class Agency:
    """An agency with two clients, and somebody of each role. The guest belongs to the first client."""

    app: Any
    document: dict[str, Any]
    tokens: dict[Role, str]
    own: Things
    other: Things
    nothing: Things

    def request(self, method: str, path: str, role: Role | None, body: object = None) -> httpx.Response:
        headers = {"Authorization": f"Bearer {self.tokens[role]}"} if role else {}

        async def send() -> httpx.Response:
            transport = httpx.ASGITransport(self.app)
            async with httpx.AsyncClient(transport=transport, base_url="http://desk.example", headers=headers) as connection:
                return await connection.request(method, path, json=body)

        return asyncio.run(send())

    def ask(self, operation: str, path: str, role: Role | None) -> int:
        method = OPERATIONS[operation].method
        return self.request(method, path, role, {} if method in ("POST", "PUT", "PATCH") else None).status_code


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
    return Things(
        {
            "client_id": client,
            "site_id": site.id,
            "run_id": run,
            "todo_id": todos.add_todo(work, TodoBody(site_id=site.id, title="Ring them", assignee=fixer), None).id,
            "remark_id": remarks.add_remark(work, site.id, RemarkBody(day=START.date(), text="New theme"), None).id,
            "waiver_id": waivers.add_waiver(work, site.id, WaiverBody(check="text-thin", reason="Meant so"), None).id,
            "benchmark_id": benchmarks.add_benchmark(
                work, BenchmarkBody(name=name, site_id=site.id, competitor_ids=[rival.id]), None
            ).id,
            "report_id": report.id,
            "check_id": "title-long",
            "form": "csv",
        }
    )


@pytest.fixture(scope="module")
def agency(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Agency]:
    data: Path = tmp_path_factory.mktemp("agency")
    mail = KeptMail()
    work = make_place(data, mail, "https://desk.example")
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
    tokens = {}
    for role, number in people.items():
        with work.reading() as session:
            member = session.get_one(Member, number)
        tokens[role] = members.add_token(work, member, "tests").secret or ""
    app = make_app(Settings(data=data), work)
    yield Agency(app, app.openapi(), tokens, own, other, Things({"form": "csv"}))


def documented(document: dict[str, Any]) -> dict[str, dict[str, Any]]:
    return {op["operationId"]: op for operations in document["paths"].values() for op in operations.values()}


def test_the_document_shows_every_operation_with_its_permission(agency: Agency) -> None:
    found = documented(agency.document)
    assert set(found) == set(OPERATIONS) == set(PERMISSIONS)
    for name, operation in found.items():
        said = operation["x-permission"]
        permission = PERMISSIONS[name]
        assert said == {"public": permission.public, **{role: permission.of(role) for role in Role}}, name


@pytest.mark.parametrize("name", sorted(OPERATIONS))
def test_who_is_signed_out_may_do_nothing_but_sign_in(agency: Agency, name: str) -> None:
    status = agency.ask(name, agency.own.path(name), None)
    assert (status != 401) if PERMISSIONS[name].public else (status == 401)


@pytest.mark.parametrize("role", list(Role))
@pytest.mark.parametrize("name", sorted(OPERATIONS))
def test_every_role_may_do_what_the_table_says(agency: Agency, name: str, role: Role) -> None:
    permission = PERMISSIONS[name]
    if permission.public:
        return
    if permission.of(role) == Extent.NONE:
        assert agency.ask(name, agency.own.path(name), role) == 403
    else:
        assert agency.ask(name, agency.nothing.path(name), role) not in (401, 403)


def reaching(*extents: Extent) -> list[Any]:
    """Operations that name a thing which belongs to somebody, for roles whose permission reaches so far."""
    named = {"client_id", "site_id", "run_id", "todo_id", "remark_id", "waiver_id", "benchmark_id", "report_id", "alarm_id"}
    return [
        pytest.param(name, role, id=f"{name}-{role}")
        for name, operation in sorted(OPERATIONS.items())
        for role in Role
        if PERMISSIONS[name].of(role) in extents and {p for p, _ in operation.path_parameters} & named
    ]


@pytest.mark.parametrize(("name", "role"), reaching(Extent.OWN_CLIENT))
def test_a_guest_finds_what_is_theirs_and_nothing_of_another_client(agency: Agency, name: str, role: Role) -> None:
    assert agency.ask(name, agency.own.path(name), role) == 200
    assert agency.ask(name, agency.other.path(name), role) == 404


@pytest.mark.parametrize(("name", "role"), reaching(Extent.OWN_ITEMS))
def test_a_fixer_changes_their_own_and_not_a_colleagues(agency: Agency, name: str, role: Role) -> None:
    assert agency.ask(name, agency.own.path(name), role) == 200
    assert agency.ask(name, agency.other.path(name), role) == 403


def test_lists_hold_a_guests_own_things_alone(agency: Agency) -> None:
    shown = {name: agency.request("GET", f"/api/v1/{name}", Role.GUEST).json() for name in ("clients", "reports")}
    assert [c["name"] for c in shown["clients"]] == ["Rope"]
    assert [r["client_name"] for r in shown["reports"]] == ["Rope"]


def test_an_answer_about_oneself_says_what_one_may_do(agency: Agency) -> None:
    for role in agency.tokens:
        me = agency.request("GET", "/api/v1/session", role).json()
        assert set(me["may"]) == {name for name, p in PERMISSIONS.items() if p.of(role) != Extent.NONE}


@pytest.mark.parametrize(
    ("name", "roles"),
    [
        ("remove_client", "an owner or lead"),
        ("change_member", "an owner"),
        ("set_access", "an owner, lead or analyst"),
        ("add_todo", "an owner, lead or analyst"),
    ],
)
def test_what_reaches_far_is_for_few(agency: Agency, name: str, roles: str) -> None:
    """Said once more in words, so that loosening the table by mistake is noticed."""
    assert PERMISSIONS[name].words() == roles
    refused = agency.request(OPERATIONS[name].method, agency.own.path(name), Role.FIXER, {})
    assert roles in refused.json()["detail"] and "you are a fixer" in refused.json()["detail"]


def test_nobody_gets_in_where_the_table_says_nothing() -> None:
    assert Permission().roles == [] and Permission().words() == "nobody"
