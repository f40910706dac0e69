"""Plans over HTTP: explained, tried, copied, in and out as TOML; access that is never shown, written or sent elsewhere."""

from __future__ import annotations

import base64
import sqlite3
from collections.abc import Iterator

import pytest

from hodcarrier.client import Hodcarrier, RequestFailed
from hodcarrier.core.catalogue import Sample, doc, moved, page
from hodcarrier.core.plan import FIELDS
from hodcarrier.core.settings import GROUPS, SETTINGS
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.comparisons import LookBody
from hodcarrier.wire.plans import AccessBody, PlanBody, PlanCopy, PlanToml, PreviewBody
from hodcarrier.wire.sites import SiteBody
from tests.running import LocalSite, Service, local_site


@pytest.fixture
def desk(service: Service) -> Iterator[Hodcarrier]:
    with service.client() as connected:
        yield connected


def add(desk: Hodcarrier, name: str, address: str = "https://plan.example/", **plan: object) -> int:
    return desk.add_site(SiteBody(client_id=desk.add_client(ClientBody(name=name)).id, address=address, plan=plan)).id


def test_every_setting_is_explained_once() -> None:
    assert sorted(s.name for s in SETTINGS) == sorted(FIELDS)
    assert {s.group for s in SETTINGS} == set(GROUPS)
    assert all(s.label and s.text.endswith(".") for s in SETTINGS)


def test_the_form_is_told_what_settings_mean(desk: Hodcarrier) -> None:
    told = {s.name: s for s in desk.list_plan_settings()}
    assert told["rate_per_s"].group_name == "Crawl rate" and not told["rate_per_s"].advanced
    assert told["appearance"].choices == ["own", "desktop", "phone"]
    assert (told["time_max_s"].unit, told["bytes_max"].unit, told["agent"].unit) == ("seconds", "bytes", "")
    assert not any(s.locked for s in told.values()), "an owner may set everything"


def test_patterns_are_tried_before_they_are_saved(desk: Hodcarrier) -> None:
    site = add(desk, "Tried")
    rows = desk.preview_plan(
        site,
        PreviewBody(
            values={"include": ["/shop/*"], "exclude": ["regex:[?&]sort="], "drop_parameters": ["sid"]},
            addresses=["https://plan.example/shop/a?sid=1", "/shop/b?sort=up", "/about", "https://other.example/shop/"],
        ),
    )
    assert [(r.url, r.fetched) for r in rows] == [
        ("https://plan.example/shop/a", True),
        ("https://plan.example/shop/b?sort=up", False),
        ("https://plan.example/about", False),
        ("https://other.example/shop/", False),
    ]
    assert [r.why for r in rows[1:]] == [
        "excluded by the plan: regex:[?&]sort=",
        "not included by the plan",
        "not on plan.example",
    ]
    assert desk.get_plan(site).version == 1
    for wrong in ("regex:(", "shop"):
        with pytest.raises(RequestFailed, match=r"pattern|expression"):
            desk.preview_plan(site, PreviewBody(values={"exclude": [wrong]}, addresses=["/a"]))


def test_toml_goes_out_and_comes_back_the_same(desk: Hodcarrier) -> None:
    site = add(desk, "Out", rate_per_s=2, exclude=["/basket*"], thresholds={"words_min": 120}, expected=['<script src="x">'])
    other = add(desk, "In")
    text = desk.get_plan_toml(site).toml
    assert "rate_per_s = 2.0" in text and "pages_max" not in text
    desk.replace_plan(other, PlanToml(toml=text))
    assert desk.get_plan(other).values == desk.get_plan(site).values
    assert desk.replace_plan(other, PlanToml(toml="pages_max = 7")).values.rate_per_s == 5.0
    for wrong, words in (("pages_max = ", "not TOML"), ("speed = 3", "speed"), ("rate_per_s = 0", "rate_per_s")):
        with pytest.raises(RequestFailed, match=words):
            desk.replace_plan(other, PlanToml(toml=wrong))


def test_a_copied_plan_keeps_the_sites_own_addresses(desk: Hodcarrier) -> None:
    source = add(desk, "From", "https://from.example/", rate_per_s=3, sitemaps=["https://from.example/s.xml"])
    site = add(desk, "To", "https://to.example/", pages_max=9)
    copied = desk.copy_plan(site, PlanCopy(from_site=source)).values
    assert (copied.rate_per_s, copied.pages_max) == (3.0, 10_000)
    assert (copied.start, copied.sitemaps) == (("https://to.example/",), ())


SECRET = "open-sesame-9f3"


def guarded(*more: Sample) -> tuple[Sample, ...]:
    return (page(doc('<h1>In</h1><a href="/a">a</a><a href="/out">out</a>')), page(doc(), "/a"), *more)


def test_access_opens_the_site_and_nothing_else(service: Service, desk: Hodcarrier) -> None:
    with local_site() as other:
        elsewhere = other.address.replace("127.0.0.1", "localhost") + "taken"
        with local_site(*guarded(moved("/out", elsewhere))) as site:
            seen = record_headers(site), record_headers(other)
            mapped = {f"localhost:{other.port}": f"127.0.0.1:{other.port}"}
            number = add(desk, "Guarded", site.address, private_addresses=["127.0.0.0/8"], rate_per_s=500, host_map=mapped)
            kept = desk.set_access(
                number, AccessBody(username="imke", password=SECRET, headers={"X-Preview": SECRET}, cookies={"door": SECRET})
            )
            assert (kept.password, kept.headers, kept.cookies) == (True, ["X-Preview"], ["door"])
            assert SECRET not in desk._http.get(f"/sites/{number}/access").text
            run = desk.wait_for_run(desk.start_run(number).id, every_s=0.1)
            assert run.state == "done"
            exported = b"".join(desk.export_run(run.id, form) for form in ("csv", "json", "sarif", "file"))
    own, foreign = seen
    basic = base64.b64encode(f"imke:{SECRET}".encode()).decode()
    assert all(
        h["authorization"] == f"Basic {basic}" and h["x-preview"] == SECRET and h["cookie"] == f"door={SECRET}" for h in own
    )
    assert own and foreign and SECRET not in str(foreign) and basic not in str(foreign)
    assert SECRET.encode() not in exported and basic.encode() not in exported
    for path in service.data.rglob("*"):
        if path.is_file():
            assert SECRET.encode() not in path.read_bytes() and basic.encode() not in path.read_bytes(), path.name
    assert (service.data / "access.key").stat().st_mode & 0o077 == 0
    desk.remove_access(number)
    assert desk.get_access(number).changed_at is None


def test_access_does_not_follow_the_plan_to_another_origin(desk: Hodcarrier) -> None:
    with local_site(page(doc())) as site, local_site(page(doc()), page(doc(), "/a")) as other:
        number = add(desk, "Moved", site.address, private_addresses=["127.0.0.0/8"], rate_per_s=500)
        kept = desk.set_access(number, AccessBody(headers={"X-Preview": SECRET}))
        assert kept.origins == [site.address.rstrip("/")]
        assert desk.get_plan(number).notices == []
        desk.change_plan(number, PlanBody(values={"start": [other.address]}))
        (said,) = desk.get_plan(number).notices
        assert f"is not sent to {other.address.rstrip('/')}: enter it again" in said
        seen = record_headers(other)
        run = desk.wait_for_run(desk.start_run(number).id, every_s=0.1)
        assert run.summary is not None and said in run.summary.notices
        desk.look_at_page(number, LookBody(url=other.address + "a"))
        assert len(seen) >= 3 and SECRET not in str(seen)
        desk.set_access(number, AccessBody(headers={"X-Preview": SECRET}))
        assert desk.get_plan(number).notices == []
        desk.wait_for_run(desk.start_run(number).id, every_s=0.1)
        assert SECRET in str(seen)


def record_headers(site: LocalSite) -> list[dict[str, str]]:
    """The request headers that a site is sent from now on."""
    seen: list[dict[str, str]] = []
    site.on_headers = seen.append
    return seen


def test_access_that_cannot_be_sent_is_refused(desk: Hodcarrier) -> None:
    site = add(desk, "Odd")
    for headers in ({"X-A": "b\r\nX-C: d"}, {"": "x"}, {"a:b": "c"}, {"näme": "x"}):
        with pytest.raises(RequestFailed, match="cannot be sent"):
            desk.set_access(site, AccessBody(headers=headers))
    assert desk.get_access(site).headers == []


def test_a_lost_key_says_what_to_do(service: Service, desk: Hodcarrier) -> None:
    site = add(desk, "Lost key")
    desk.set_access(site, AccessBody(username="a", password="b"))
    key = service.data / "access.key"
    kept = key.read_bytes()
    try:
        key.unlink()
        with pytest.raises(RequestFailed, match="enter the access again"):
            desk.get_access(site)
    finally:
        key.unlink(missing_ok=True)
        key.write_bytes(kept)
    assert desk.get_access(site).password


def test_the_access_is_sealed_in_the_register(service: Service, desk: Hodcarrier) -> None:
    site = add(desk, "Sealed")
    desk.set_access(site, AccessBody(username="somebody", password=SECRET))
    with sqlite3.connect(service.data / "register.sqlite") as db:
        sealed = db.execute("SELECT sealed FROM site_access WHERE site_id = ?", (site,)).fetchone()[0]
    db.close()
    assert "somebody" not in sealed and SECRET not in sealed and len(sealed) > 50
