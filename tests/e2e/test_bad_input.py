"""What the service answers to input that cannot be used: a problem document that says what to do, and nothing is lost."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime, timedelta

import httpx
import pytest

from hodcarrier.client import RequestFailed
from hodcarrier.core.catalogue import Sample, doc, page, text_file
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import TokenBody
from hodcarrier.wire.sites import SiteBody
from tests.conftest import Demo
from tests.running import Service, free_ports, local_site


@pytest.fixture
def api(demo: Demo) -> Iterator[httpx.Client]:
    with httpx.Client(base_url=demo.url + "/api/v1", headers={"Authorization": f"Bearer {demo.token}"}, trust_env=False) as http:
        yield http


def problem(response: httpx.Response, status: int) -> dict[str, str]:
    assert response.status_code == status, response.text
    assert response.headers["content-type"] == "application/problem+json"
    body: dict[str, str] = response.json()
    assert body["type"].startswith("urn:hodcarrier:") and body["detail"]
    return body


YESTERDAY = (datetime.now(UTC).date() - timedelta(days=1)).isoformat()


@pytest.mark.parametrize(
    "address", ["", "not an address", "ftp://shop.example/", "https://", "http://[::1", "shop", "javascript:alert(1)"]
)
def test_an_address_that_is_none(api: httpx.Client, address: str) -> None:
    said = problem(api.post("/sites", json={"client_id": 1, "address": address}), 422)
    assert said["hint"] and said["field"] == "address"


@pytest.mark.parametrize(
    ("method", "path", "body", "status", "words"),
    [
        ("POST", "/todos", {"site_id": 1, "title": "x", "due": YESTERDAY}, 422, "in the past"),
        ("POST", "/todos", {"site_id": 1, "title": "x", "due": "soon"}, 422, "due"),
        ("POST", "/todos", {"site_id": 1, "title": "x", "assignee": 999}, 404, "no member 999"),
        ("POST", "/todos", {"site_id": 999, "title": "x"}, 404, "no site 999"),
        ("POST", "/todos", {"site_id": 1}, 422, "no title"),
        ("POST", "/todos", {"site_id": 1, "check": "no-such-check"}, 404, "No check is called"),
        ("POST", "/todos", {"site_id": 1, "check": "markup-doctype"}, 404, "no such findings"),
        ("POST", "/todos", {"site_id": 1, "cause": 99999}, 404, "no such findings"),
        ("POST", "/todos", {"site_id": 1, "fingerprints": ["zz"]}, 422, "not hexadecimal"),
        ("POST", "/todos", {"site_id": 1, "titel": "x"}, 422, "titel"),
        ("PATCH", "/todos/9999", {"note": "x"}, 404, "no todo 9999"),
        ("PATCH", "/todos/12", {"state": "confirmed"}, 409, "Only a run can confirm"),
        ("PATCH", "/sites/1/plan", {"values": {"rate_per_s": 0}}, 422, "rate_per_s"),
        ("PATCH", "/sites/1/plan", {"values": {"rate": 5}}, 422, "rate"),
        ("PATCH", "/sites/1/plan", {"values": {"thresholds": {"nothing_max": 1}}}, 422, "nothing_max"),
        ("PATCH", "/sites/1/plan", {"values": {"checks_off": ["nothing"]}}, 404, "nothing"),
        ("PATCH", "/sites/1/plan", {"values": {"time_zone": "Mars/Base"}}, 422, "time zone"),
        ("PATCH", "/sites/1/plan", {"values": {"private_addresses": ["127.0.0.0/8"]}}, 403, "needs an owner"),
        ("PUT", "/sites/1/schedule", {"rule": "hourly", "at": "02:00", "zone": "UTC"}, 422, "recurrence"),
        ("PUT", "/sites/1/schedule", {"rule": "daily", "at": "25:00", "zone": "UTC"}, 422, "time of day"),
        ("PUT", "/sites/1/schedule", {"rule": "daily", "at": "02:00", "zone": "UTC", "mail_to": ["nobody"]}, 422, "e-mail"),
        ("POST", "/sites/1/waivers", {"check": "text-thin", "reason": "because", "end": YESTERDAY}, 422, "in the past"),
        ("POST", "/sites/1/waivers", {"check": "text-thin", "reason": ""}, 422, "reason"),
        ("POST", "/sites/1/figures", {"kind": "site", "rows": [{"day": "2026-01-01", "name": "Visits"}]}, 422, "Value"),
        (
            "POST",
            "/sites/1/figures",
            {"kind": "site", "rows": [{"day": "2026-01-01", "name": "Visits", "value": "many"}]},
            422,
            "Row 1",
        ),
        ("POST", "/sites/1/figures", {"kind": "weather", "rows": [{"day": "2026-01-01"}]}, 422, "kind"),
        ("POST", "/sites/1/figure-files", {"name": "a.csv", "content": "no base64!"}, 422, "base64"),
        (
            "POST",
            "/members",
            {"name": "X", "email": "imke@cobble-lantern.example", "password": "long enough words"},
            409,
            "already",
        ),
        ("POST", "/members", {"name": "X", "email": "x@y.example", "password": "short"}, 422, "password"),
        ("POST", "/benchmarks", {"name": "B", "site_id": 1, "competitor_ids": []}, 422, "competitor"),
        ("POST", "/reports", {"site_id": 1, "from_day": "2026-11-02", "to_day": "2026-11-01"}, 422, "ends before"),
        ("GET", "/runs/nothing", None, 404, "no run nothing"),
        ("GET", "/runs/latest-1/inventory?colour=red", None, 422, "colour"),
        ("GET", "/runs/latest-1/inventory?words.near=3", None, 422, "near"),
        ("GET", "/runs/latest-1/inventory?sort=colour", None, 422, "colour"),
        ("GET", "/runs/latest-1/page?url=https://tidewrack.example/nowhere", None, 404, "does not know"),
        ("GET", "/runs/latest-1/export/xml", None, 422, "csv"),
        ("GET", "/sites/1/trend?figure=luck", None, 422, "luck"),
        ("GET", "/nothing/here", None, 404, "nothing/here"),
    ],
)
def test_input_that_cannot_be_used(
    api: httpx.Client, method: str, path: str, body: dict[str, object] | None, status: int, words: str
) -> None:
    said = problem(api.request(method, path, json=body), status)
    assert words in said["detail"] + said.get("hint", "") + said.get("field", "")


def test_runs_of_two_sites_are_not_compared(api: httpx.Client) -> None:
    said = problem(api.get("/comparisons?base=latest-1&head=latest-4"), 409)
    assert "tidewrack.example" in said["detail"] and "pellow-kiln.example" in said["detail"]


@pytest.mark.parametrize("header", [{}, {"Authorization": "Bearer nonsense"}, {"Cookie": "hodcarrier_session=nonsense"}])
@pytest.mark.parametrize("path", ["/session", "/desk", "/sites", "/runs/latest-1/findings", "/reports/1/pdf", "/catalogue"])
def test_a_signed_out_request(demo: Demo, path: str, header: dict[str, str]) -> None:
    said = problem(httpx.get(demo.url + "/api/v1" + path, headers=header, trust_env=False), 401)
    assert said["hint"]


def test_a_wrong_password_does_not_say_which_part_was_wrong(demo: Demo) -> None:
    said = [
        problem(httpx.post(demo.url + "/api/v1/session", json={"email": email, "password": "wrong"}, trust_env=False), 401)[
            "detail"
        ]
        for email in ("imke@cobble-lantern.example", "nobody@cobble-lantern.example")
    ]
    assert said[0] == said[1]


def test_a_form_on_another_site_cannot_use_the_session(demo: Demo) -> None:
    answer = httpx.post(demo.url + "/api/v1/sites/1/runs", headers={"Origin": "https://evil.example"}, trust_env=False)
    problem(answer, 403)


def test_a_revoked_token_is_worth_nothing(demo: Demo) -> None:
    with demo.client() as desk:
        token = desk.add_token(TokenBody(name="short-lived"))
        desk.revoke_token(token.id)
    assert (
        httpx.get(demo.url + "/api/v1/session", headers={"Authorization": f"Bearer {token.secret}"}, trust_env=False).status_code
        == 401
    )


def test_a_damaged_run_file(demo: Demo, api: httpx.Client) -> None:
    run = api.get("/runs?purpose=benchmark").json()["items"][-1]["id"]
    path = demo.folder / "service" / "runs" / f"{run}.sqlite"
    whole = path.read_bytes()
    try:
        path.write_bytes(whole[:100] + b"\xff" * 3000 + whole[3100:])
        assert "damaged" in problem(api.get(f"/runs/{run}/checks"), 410)["detail"]
        path.write_bytes(b"no database at all" * 100)
        problem(api.get(f"/runs/{run}/findings"), 410)
        path.unlink()
        assert "is not there" in problem(api.get(f"/runs/{run}/checks"), 410)["detail"]
    finally:
        path.write_bytes(whole)
    assert api.get(f"/runs/{run}/checks").status_code == 200


def audited(service: Service, address: str, name: str, **plan: object) -> tuple[str, str, dict[str, object]]:
    """Add site, audit it, and give the run's state, reason and summary."""
    with service.client() as desk:
        client = desk.add_client(ClientBody(name=name))
        site = desk.add_site(
            SiteBody(client_id=client.id, address=address, plan={"private_addresses": ["127.0.0.0/8"], "rate_per_s": 500, **plan})
        )
        run = desk.wait_for_run(desk.start_run(site.id).id, every_s=0.1)
        return run.state, run.reason, run.summary or {}


def test_a_host_that_does_not_resolve_fails_with_the_reason(service: Service) -> None:
    state, reason, _ = audited(service, "https://no-such-host.invalid/", "Nobody")
    assert state == "failed" and "does not resolve" in reason


def test_a_port_where_nobody_listens_fails_with_the_reason(service: Service) -> None:
    state, reason, _ = audited(service, f"http://127.0.0.1:{free_ports(1)}/", "Closed")
    assert state == "failed" and "no connection" in reason


def test_a_private_address_is_refused_unless_it_is_permitted(service: Service) -> None:
    with local_site(page(doc())) as site:
        state, reason, _ = audited(service, site.address, "Private", private_addresses=())
    assert (state, site.asked) == ("failed", [])
    assert "private" in reason


def test_robots_txt_that_shuts_us_out_is_said_plainly(service: Service) -> None:
    with local_site(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow: /")) as site:
        state, _, summary = audited(service, site.address, "Shut")
    assert (state, summary.health) == ("done", None)
    assert "blocks our user agent" in str(summary.notices)
    assert site.asked == ["/robots.txt"]


def test_robots_txt_with_a_server_error_shuts_everything(service: Service) -> None:
    with local_site(page(doc()), Sample("/robots.txt", "broken", 500)) as site:
        state, _, summary = audited(service, site.address, "Broken robots")
    assert state == "done" and "RFC 9309" in str(summary.notices)
    assert "/" not in site.asked


def test_bodies_that_are_not_what_their_type_says(service: Service) -> None:
    png = b"\x89PNG\r\n\x1a\n" + b"\x00" * 200
    with local_site(
        page(doc('<a href="/a">picture</a> <a href="/b">zipped</a> <a href="/c">text</a>')),
        Sample("/a", png),
        Sample("/b", b"not gzip at all", headers=(("content-type", "text/html"), ("content-encoding", "gzip"))),
        Sample("/c", "<h1>hello</h1>", headers=(("content-type", "image/png"),)),
    ) as site:
        state, _, summary = audited(service, site.address, "Liars")
        with service.client() as desk:
            run = f"latest-{desk.find_site(f'127.0.0.1:{site.port}').id}"
            rows = {p.values["url"]: p.values for p in desk.list_inventory(run, columns="url,status")}
    assert state == "done"
    assert rows[site.address + "a"]["status"] == rows[site.address + "b"]["status"] == 200
    assert summary.crashes == []


def test_a_start_page_that_is_no_page_says_so(service: Service) -> None:
    with local_site(Sample("/", b"%PDF-1.7", headers=(("content-type", "application/pdf"),))) as site:
        state, _, summary = audited(service, site.address, "Paper")
    assert state == "done" and "not an HTML page" in str(summary.notices)


def test_the_same_site_is_not_added_twice(service: Service) -> None:
    with service.client() as desk:
        client = desk.add_client(ClientBody(name="Twice"))
        body = SiteBody(client_id=client.id, address="https://twice.example/")
        desk.add_site(body)
        with pytest.raises(RequestFailed, match="already has the site"):
            desk.add_site(body)
        with pytest.raises(RequestFailed, match="no finished run yet"):
            list(desk.list_findings(f"latest-{desk.find_site('twice').id}"))
