"""Every operation of the OpenAPI document, for every role, signed out, and on another client's things."""

from __future__ import annotations

from typing import Any

import pytest

from hodcarrier.core.permissions import PERMISSIONS, Extent, Permission, Role
from hodcarrier.wire.operations import OPERATIONS
from tests.service.agency import Agency, make_agency


@pytest.fixture(scope="module")
def agency(tmp_path_factory: pytest.TempPathFactory) -> Agency:
    return make_agency(tmp_path_factory.mktemp("agency"))


def documented(document: dict[str, Any]) -> dict[str, dict[str, Any]]:
    return {op["operationId"]: op for operations in document["paths"].values() for op in operations.values()}


def test_the_document_shows_every_operation_with_its_permission(agency: Agency) -> None:
    found = documented(agency.app.openapi())
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
    named = {"client_id", "site_id", "run_id", "todo_id", "remark_id", "waiver_id", "benchmark_id", "report_id", "alert_id"}
    return [
        pytest.param(name, role, id=f"{name}-{role}")
        for name, operation in sorted(OPERATIONS.items())
        for role in Role
        if PERMISSIONS[name].of(role) in extents and {p for p, _ in operation.path_parameters} & named
    ]


@pytest.mark.parametrize(("name", "role"), reaching(Extent.OWN_CLIENT))
def test_a_guest_finds_what_is_theirs_and_nothing_of_another_client(agency: Agency, name: str, role: Role) -> None:
    # An answer without words is none.
    assert agency.ask(name, agency.own.path(name), role) == {"answer_approval": 422}.get(name, 200)
    assert agency.ask(name, agency.other.path(name), role) == 404


@pytest.mark.parametrize(("name", "role"), reaching(Extent.OWN_ITEMS))
def test_a_fixer_changes_their_own_and_not_a_colleagues(agency: Agency, name: str, role: Role) -> None:
    # What has no places cannot be checked, a link needs a name, and there is none to end: that is no matter of permission.
    refused = {"check_todo": 409, "add_todo_link": 422, "revoke_todo_link": 404, "add_todo_file": 422, "remove_todo_file": 404}
    assert agency.ask(name, agency.own.path(name), role) == refused.get(name, 200)
    assert agency.ask(name, agency.other.path(name), role) == 403


def test_lists_hold_a_guests_own_things_alone(agency: Agency) -> None:
    shown = agency.request("GET", "/api/v1/reports", Role.GUEST).json()
    assert [r["client_name"] for r in shown] == ["Rope"]
    portal = agency.request("GET", f"/api/v1/clients/{agency.own.ids['client_id']}/portal", Role.GUEST).json()
    assert portal["client_name"] == "Rope" and [r["id"] for r in portal["reports"]] == [r["id"] for r in shown]


def test_an_answer_about_oneself_says_what_one_may_do(agency: Agency) -> None:
    for role in Role:
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


@pytest.mark.parametrize("name", sorted(OPERATIONS))
def test_a_token_for_reading_changes_nothing(agency: Agency, name: str) -> None:
    """An owner's, who may do everything otherwise."""
    if PERMISSIONS[name].public:
        return
    status = agency.ask(name, agency.nothing.path(name), "reading")
    assert (status not in (401, 403)) if OPERATIONS[name].method == "GET" else (status == 403)


def test_an_owner_revokes_the_token_of_anybody(agency: Agency) -> None:
    made = agency.request("POST", "/api/v1/tokens", Role.FIXER, {"name": "old laptop"}).json()
    assert made["member_name"] == "fixer" and made["scope"] == "all"
    seen = {token["id"]: token for token in agency.request("GET", "/api/v1/tokens/everybody", Role.OWNER).json()}
    assert seen[made["id"]]["secret"] is None
    assert agency.request("DELETE", f"/api/v1/tokens/{made['id']}", Role.LEAD).status_code == 404
    assert agency.request("DELETE", f"/api/v1/tokens/{made['id']}", Role.OWNER).status_code == 204
