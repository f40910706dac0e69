"""Sign-in over HTTP: what the browser keeps, and how guessing is answered."""

from __future__ import annotations

from pathlib import Path

import pytest

from hodcarrier.core.permissions import Role
from hodcarrier.service.app import make_app
from hodcarrier.service.settings import Settings
from tests.service.agency import PASSWORD, Agency, make_agency


@pytest.fixture
def agency(tmp_path: Path) -> Agency:
    return make_agency(tmp_path)


def test_guessing_is_answered_by_waiting(agency: Agency) -> None:
    assert [
        agency.request("POST", "/api/v1/session", None, {"email": "owner@agency.example", "password": "guess"}).status_code
        for _ in range(6)
    ] == [
        *[401] * 5,
        429,
    ]
    refused = agency.request("POST", "/api/v1/session", None, {"email": "Owner@agency.example ", "password": PASSWORD})
    assert refused.status_code == 429 and int(refused.headers["retry-after"]) >= 1, "nor does the right one help now"
    other = {"email": "lead@agency.example", "password": PASSWORD}
    assert agency.request("POST", "/api/v1/session", None, other).status_code == 200


@pytest.mark.parametrize(
    ("address", "name", "secure"),
    [("", "hodcarrier_session", False), ("https://desk.example", "__Host-hodcarrier_session", True)],
)
def test_the_cookie_is_for_this_host_and_for_https_where_there_is_https(
    agency: Agency, tmp_path: Path, address: str, name: str, secure: bool
) -> None:
    agency.app = make_app(Settings(data=tmp_path, address=address), agency.app.state.work)
    answer = agency.request("POST", "/api/v1/session", None, {"email": "owner@agency.example", "password": PASSWORD})
    cookie = answer.headers["set-cookie"]
    assert cookie.startswith(f"{name}=") and "HttpOnly" in cookie and "SameSite=lax" in cookie and "Path=/" in cookie
    assert ("Secure" in cookie) is secure
    secret = cookie.partition("=")[2].partition(";")[0]
    headers: dict[str, str | bytes] = {"Cookie": f"{name}={secret}"}
    assert agency.send("GET", "/api/v1/session", None, headers=headers).json()["email"] == "owner@agency.example"


def test_private_answers_are_kept_by_nobody(agency: Agency) -> None:
    for path in ("/api/v1/session", "/api/v1/desk", "/api/v1/reports", "/api/v1/nothing"):
        assert agency.request("GET", path, Role.LEAD).headers["cache-control"] == "no-store"
