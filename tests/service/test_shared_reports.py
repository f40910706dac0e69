"""Share links of reports over HTTP, as a browser without an account meets them."""

from __future__ import annotations

import asyncio
from collections.abc import Iterator
from typing import Any

import httpx
import pytest

from hodcarrier.register.models import Member
from hodcarrier.usecases import report_links
from hodcarrier.wire.reports import ReportLinkBody
from tests.service.agency import Agency, make_agency


@pytest.fixture(scope="module")
def agency(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Agency]:
    yield make_agency(tmp_path_factory.mktemp("agency"))


def visit(agency: Agency, *steps: tuple[str, str, dict[str, str] | None]) -> list[httpx.Response]:
    """What one visitor is answered, step by step, with the cookies of a browser."""

    async def go() -> list[httpx.Response]:
        transport: Any = httpx.ASGITransport(agency.app, raise_app_exceptions=False)
        async with httpx.AsyncClient(transport=transport, base_url="http://desk.example") as browser:
            return [await browser.request(method, path, data=data) for method, path, data in steps]

    return asyncio.run(go())


def path_of(agency: Agency, passphrase: str = "") -> str:
    """The path of a new link."""
    body = ReportLinkBody(name="Rosa", passphrase=passphrase)
    link = report_links.add_report_link(agency.app.state.work, agency.own.ids["report_id"], body, Member(id=None, name=""))
    assert link.url is not None
    return link.url[link.url.index("/shared/") :]


def test_a_link_opens_the_report_for_nobody_else_to_find(agency: Agency) -> None:
    path = path_of(agency)
    page, document, stranger = visit(
        agency, ("GET", path, None), ("GET", path + "/report.pdf", None), ("GET", "/shared/reports/guess", None)
    )
    assert page.status_code == 200 and "rope.example" in page.text and f'href="{path}/report.pdf"' in page.text
    assert page.headers["X-Robots-Tag"] == "noindex, nofollow" and 'name="robots" content="noindex' in page.text
    assert "no-store" in page.headers["Cache-Control"] and page.headers["Referrer-Policy"] == "same-origin"
    assert "default-src 'none'" in page.headers["Content-Security-Policy"]
    assert document.content.startswith(b"%PDF") and document.headers["X-Robots-Tag"] == "noindex, nofollow"
    assert stranger.status_code == 404 and "not valid any more" in stranger.text
    (link, *_) = report_links.list_report_links(agency.app.state.work, agency.own.ids["report_id"])
    assert link.seen == 1, "opening counts, the PDF of what is open does not"


def test_a_passphrase_is_asked_for_before_anything_is_told(agency: Agency) -> None:
    path = path_of(agency, "harbour lights")
    asked, no_pdf, wrong, right, opened, pdf = visit(
        agency,
        ("GET", path, None),
        ("GET", path + "/report.pdf", None),
        ("POST", path, {"passphrase": "harbour light"}),
        ("POST", path, {"passphrase": "harbour lights"}),
        ("GET", path, None),
        ("GET", path + "/report.pdf", None),
    )
    for answer in (asked, no_pdf, wrong):
        assert 'type="password"' in answer.text and "In short" not in answer.text
    assert (wrong.status_code, right.status_code) == (403, 303) and "not the passphrase" in wrong.text
    cookie = right.headers["Set-Cookie"]
    assert f"Path={path}" in cookie and "HttpOnly" in cookie and "SameSite=strict" in cookie
    assert "In short" in opened.text and pdf.content.startswith(b"%PDF")


def test_a_cookie_opens_its_own_link_alone(agency: Agency) -> None:
    mine, other = path_of(agency, "harbour lights"), path_of(agency, "other lights")
    (right,) = visit(agency, ("POST", mine, {"passphrase": "harbour lights"}))
    stolen = right.headers["Set-Cookie"].split(";")[0]

    async def go() -> httpx.Response:
        transport: Any = httpx.ASGITransport(agency.app)
        async with httpx.AsyncClient(transport=transport, base_url="http://desk.example", headers={"Cookie": stolen}) as browser:
            return await browser.get(other)

    assert 'type="password"' in asyncio.run(go()).text


def test_guessing_is_slowed_down(agency: Agency) -> None:
    path = path_of(agency, "harbour lights")
    answers = visit(agency, *[("POST", path, {"passphrase": f"guess number {n}"}) for n in range(8)])
    assert [a.status_code for a in answers[:5]] == [403] * 5 and 429 in {a.status_code for a in answers[5:]}
    late = next(a for a in answers if a.status_code == 429)
    assert int(late.headers["Retry-After"]) >= 1 and "Wait" in late.text
