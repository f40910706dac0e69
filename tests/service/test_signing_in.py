"""Sign-in over HTTP: what the browser keeps, and how guessing is answered."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from pathlib import Path

import httpx
import pytest

from hodcarrier.core.permissions import Role
from hodcarrier.service.app import make_app
from hodcarrier.service.bounds import BODY_BYTES_MAX
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


def stream(agency: Agency, path: str, chunks: int, role: Role | None) -> tuple[int, int]:
    """Send a body in pieces of a MiB, as a client that names no length does; gives the status and how many were read."""
    read = 0

    async def body() -> AsyncIterator[bytes]:
        nonlocal read
        for _ in range(chunks):
            read += 1
            yield b"x" * 1024 * 1024

    headers = {"Content-Type": "application/json", **({"Authorization": f"Bearer {agency.tokens[role]}"} if role else {})}

    async def send() -> int:
        async with httpx.AsyncClient(transport=httpx.ASGITransport(agency.app), base_url="http://desk.example") as http:
            return (await http.post(path, content=body(), headers=headers)).status_code

    return asyncio.run(send()), read


def test_a_body_without_end_is_cut_off(agency: Agency) -> None:
    most = BODY_BYTES_MAX // 1024**2
    status, read = stream(agency, "/api/v1/clients", most + 20, Role.LEAD)
    assert (status, read) == (413, most + 1)
    assert stream(agency, "/api/v1/clients", most, Role.LEAD)[0] == 422, "just as large as it may be, and no JSON"


def test_whoever_is_signed_out_is_told_before_a_body_is_read(agency: Agency) -> None:
    assert stream(agency, "/api/v1/clients", 5, None) == (401, 0)


def test_a_length_that_is_too_large_is_refused_at_once(agency: Agency) -> None:
    headers: dict[str, str | bytes] = {"Content-Length": str(BODY_BYTES_MAX + 1)}
    answer = agency.send("POST", "/api/v1/clients", Role.LEAD, b"{}", headers)
    assert answer.status_code == 413 and answer.headers["content-type"] == "application/problem+json"


def test_a_method_that_there_is_not_names_those_that_there_are(agency: Agency) -> None:
    answer = agency.request("DELETE", "/api/v1/desk", Role.LEAD)
    assert answer.status_code == 405 and "GET" in answer.headers["allow"]


def test_whoever_signs_in_sends_little(agency: Agency) -> None:
    body = {"email": "owner@agency.example", "password": "x" * 70_000}
    assert agency.request("POST", "/api/v1/session", None, body).status_code == 413
    assert stream(agency, "/api/v1/session", 3, None) == (413, 1)


def test_a_forgotten_password_is_asked_for_without_being_signed_in(agency: Agency) -> None:
    for email in ("nobody@agency.example", "lead@agency.example"):
        answer = agency.request("POST", "/api/v1/session/reset", None, {"email": email})
        assert (answer.status_code, answer.content) == (204, b""), "whoever asks learns nothing"
    wrong = {"secret": "guessed", "password": "four words nobody guesses"}
    refused = agency.request("POST", "/api/v1/session/password", None, wrong)
    assert refused.status_code == 404 and "used already" in refused.json()["detail"]
    asked = [
        agency.request("POST", "/api/v1/session/reset", None, {"email": "lead@agency.example"}).status_code for _ in range(8)
    ]
    assert 429 in asked, "nobody's mailbox is filled"


def test_sessions_are_listed_and_ended_over_http(agency: Agency) -> None:
    assert agency.request("GET", "/api/v1/sessions", Role.LEAD).json() == []
    assert agency.request("DELETE", "/api/v1/sessions/0123456789abcdef", Role.LEAD).status_code == 404
