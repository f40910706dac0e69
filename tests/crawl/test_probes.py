"""Questions to a site that no page answers: what is asked, what is not, and what is made of the answers."""

from __future__ import annotations

import asyncio
import json
import ssl
from collections.abc import Awaitable, Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import TypeVar

import pytest
import trustme

from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.probes import Accepted, CertificateFacts, HttpsFacts, IconFacts
from hodcarrier.core.plan import read_plan
from hodcarrier.core.web.urls import split
from hodcarrier.crawl import probes
from hodcarrier.crawl.fetch import Fetched, HttpFetcher
from hodcarrier.crawl.probes import certificate, https, icon, missing, tls, variants
from hodcarrier.crawl.probes.question import HOPS_MAX, Question
from hodcarrier.runfile.writer import RunWriter
from tests.listening import listening
from tests.sample_site import SampleFetcher

T = TypeVar("T")


@dataclass
class Web(SampleFetcher):
    """Answers by URL: a status, or where a redirect leads. What is not there does not answer."""

    samples: dict[str, object] = field(default_factory=dict)  # type: ignore[assignment]
    answers: dict[str, int | str] = field(default_factory=dict)

    async def get(self, url: str, method: str = "GET", bytes_max: int = 0, begin_bytes: int = 0) -> Fetched:
        self.asked.append(url)
        given = self.answers.get(url)
        if given is None:
            return Fetched(Answer(None, "refused"))
        return Fetched(Answer(301), location=given) if isinstance(given, str) else Fetched(Answer(given))


def asked_of(
    start: str,
    answers: dict[str, int | str],
    ask: Callable[[Question], Awaitable[T]],
    disallowed: str = "nothing",
    **plan: object,
) -> tuple[T, Web]:
    """What a probe finds on a site with these answers, and what it asked for."""
    web = Web(answers=answers)

    async def verdict(url: str) -> tuple[bool, str]:
        return disallowed not in url, ""

    async def work() -> T:
        return await ask(Question(read_plan({"start": [start], **plan}), web, verdict))

    return asyncio.run(work()), web


def test_all_forms_of_an_origin_are_followed_to_where_they_lead() -> None:
    answers: dict[str, int | str] = {
        "http://shop.example/": "https://shop.example/",
        "https://shop.example/": 200,
        "http://www.shop.example/": "http://shop.example/",
        "https://www.shop.example/": 200,
    }
    found, _ = asked_of("https://shop.example/", answers, variants.ask)
    assert found is not None
    assert {v.origin: v.leads_to for v in found.variants} == {
        "http://shop.example": "https://shop.example",
        "https://shop.example": "https://shop.example",
        "http://www.shop.example": "https://shop.example",
        "https://www.shop.example": "https://www.shop.example",
    }


def test_a_form_that_does_not_answer_leads_nowhere() -> None:
    found, _ = asked_of("https://www.shop.example/", {"https://www.shop.example/": 200}, variants.ask)
    assert found is not None
    silent = next(v for v in found.variants if v.origin == "http://shop.example")
    assert (silent.status, silent.failure, silent.leads_to) == (None, "refused", "")


@pytest.mark.parametrize("start", ["http://127.0.0.1:8000/", "http://127.0.0.1/", "https://shop.example:8443/"])
def test_addresses_and_odd_ports_have_no_other_forms(start: str) -> None:
    found, web = asked_of(start, {}, variants.ask)
    assert found is None
    assert web.asked == []


def test_where_hosts_are_mapped_only_those_are_asked() -> None:
    mapped = {"shop.example:443": "127.0.0.1:9443"}
    found, web = asked_of("https://shop.example/", {"https://shop.example/": 200}, variants.ask, host_map=mapped)
    assert found is not None
    assert web.asked == ["https://shop.example/"]


def test_robots_txt_holds_for_probes_too() -> None:
    found, web = asked_of("https://shop.example/", {}, variants.ask, disallowed="www.")
    assert found is not None
    assert not any("www." in url for url in web.asked)
    assert asked_of("https://shop.example/", {}, missing.ask, disallowed="shop.example")[0] is None


def test_redirects_are_followed_so_far_and_no_farther() -> None:
    round_about: dict[str, int | str] = {"https://shop.example/": "https://shop.example/"}
    _, web = asked_of("https://shop.example/", round_about, variants.ask)
    assert web.asked.count("https://shop.example/") == HOPS_MAX + 1


def test_https_is_asked_of_sites_that_are_audited_over_http() -> None:
    found, _ = asked_of("http://shop.example/", {"https://shop.example/": 200}, https.ask)
    assert found is not None and found.status == 200
    found, _ = asked_of("http://shop.example/", {}, https.ask)
    assert found is not None and (found.status, found.failure) == (None, "refused")
    assert asked_of("https://shop.example/", {}, https.ask)[0] is None
    # A robots.txt that cannot be had shuts the origin; that nothing answers there is known all the same.
    found, web = asked_of("http://shop.example/", {}, https.ask, disallowed="https:")
    assert found is not None and found.failure == "refused" and web.asked == ["https://shop.example/robots.txt"]
    assert asked_of("http://shop.example/", {"https://shop.example/robots.txt": 200}, https.ask, disallowed="https:")[0] is None


def test_a_made_up_url_is_the_same_in_every_run_and_below_the_path_of_the_plan() -> None:
    first, web = asked_of("https://shop.example/", {}, missing.ask, path_prefix="/shop/")
    second, _ = asked_of("https://shop.example/", {}, missing.ask, path_prefix="/shop/")
    assert first == second and first is not None
    assert split(web.asked[0]).path.startswith("/shop/")


def test_a_made_up_url_that_is_sent_elsewhere_says_where() -> None:
    nothing, web = asked_of("https://shop.example/", {}, missing.ask)
    assert nothing is not None
    answers: dict[str, int | str] = {web.asked[0]: "https://shop.example/", "https://shop.example/": 200}
    found, _ = asked_of("https://shop.example/", answers, missing.ask)
    assert found is not None
    assert (found.status, found.leads_to) == (200, "https://shop.example/")


def over_tls(tmp_path: Path, least: ssl.TLSVersion, most: ssl.TLSVersion) -> dict[str, Accepted]:
    """Which versions a server is found to take that takes these."""
    authority = trustme.CA()
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    authority.issue_cert("shop.example").configure_cert(context)
    context.minimum_version, context.maximum_version = least, most

    async def serve(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        await reader.read()

    async def verdict(_url: str) -> tuple[bool, str]:
        return True, ""

    async def work() -> dict[str, Accepted]:
        async with listening(serve, tls=context) as port:
            plan = read_plan(
                {"start": ["https://shop.example/"], "host_map": {"shop.example:443": f"127.0.0.1:{port}"}, "rate_per_s": 1000}
            )
            async with HttpFetcher(plan) as fetcher:
                found = await tls.ask(Question(plan, fetcher, verdict))
        assert found is not None
        return found.versions

    return asyncio.run(work())


def certificate_of(tmp_path: Path, make: Callable[[trustme.CA], trustme.LeafCert], known: bool = True) -> CertificateFacts:
    """The facts of a certificate that a server shows; ``known``: the plan trusts who issued it."""
    authority = trustme.CA(organization_name="Tidal Sample Authority")
    authority.cert_pem.write_to_path(str(tmp_path / "ca.pem"))
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    make(authority).configure_cert(context)

    async def serve(reader: asyncio.StreamReader, _writer: asyncio.StreamWriter) -> None:
        await reader.read()

    async def verdict(_url: str) -> tuple[bool, str]:
        return True, ""

    async def work() -> CertificateFacts | None:
        async with listening(serve, tls=context) as port:
            mapped = {"host_map": {"shop.example:443": f"127.0.0.1:{port}"}, "rate_per_s": 1000}
            trusted = {"ca_file": str(tmp_path / "ca.pem")} if known else {}
            plan = read_plan({"start": ["https://shop.example/"], **mapped, **trusted})
            async with HttpFetcher(plan) as fetcher:
                return await certificate.ask(Question(plan, fetcher, verdict))

    found = asyncio.run(work())
    assert found is not None
    return found


def test_a_certificate_says_whom_it_is_for_and_who_vouches_for_it(tmp_path: Path) -> None:
    good = certificate_of(tmp_path, lambda ca: ca.issue_cert("shop.example", "*.shop.example"))
    assert (good.names, good.covers_host, good.why_untrusted) == (["shop.example", "*.shop.example"], True, "")
    assert (good.issuer, good.signature) == ("Tidal Sample Authority", "sha256") and good.key_bits >= 256
    other = certificate_of(tmp_path, lambda ca: ca.issue_cert("other.example"))
    assert (other.covers_host, other.why_untrusted) == (False, "")
    unknown = certificate_of(tmp_path, lambda ca: ca.issue_cert("shop.example"), known=False)
    assert unknown.covers_host and "issuer" in unknown.why_untrusted


def test_an_expired_certificate_is_not_called_untrusted_too(tmp_path: Path) -> None:
    ended = datetime.now(UTC) - timedelta(days=1)
    found = certificate_of(tmp_path, lambda ca: ca.issue_cert("shop.example", not_after=ended))
    assert found.why_untrusted == "" and datetime.fromisoformat(found.ends) < datetime.now(UTC)


def test_no_certificate_is_asked_for_over_http_or_of_a_silent_host() -> None:
    assert asked_of("http://shop.example/", {}, certificate.ask)[0] is None
    assert asked_of("https://shop.example/", {}, certificate.ask)[0] is None


def test_the_usual_place_of_the_icon_is_asked_for_where_robots_txt_lets_us() -> None:
    usual = "https://shop.example/favicon.ico"
    assert asked_of("https://shop.example/", {usual: 404}, icon.ask)[0] == IconFacts(usual, 404)
    assert asked_of("https://shop.example/", {usual: "https://shop.example/i", "https://shop.example/i": 200}, icon.ask)[
        0
    ] == IconFacts(usual, 200)
    assert asked_of("https://shop.example/", {usual: 200}, icon.ask, disallowed="favicon")[0] is None


def test_tls_versions_are_those_the_server_takes(tmp_path: Path) -> None:
    found = over_tls(tmp_path, ssl.TLSVersion.TLSv1_2, ssl.TLSVersion.TLSv1_2)
    assert (found["TLSv1.2"], found["TLSv1.3"]) == (Accepted.YES, Accepted.NO)
    found = over_tls(tmp_path, ssl.TLSVersion.TLSv1_3, ssl.TLSVersion.TLSv1_3)
    assert (found["TLSv1.2"], found["TLSv1.3"]) == (Accepted.NO, Accepted.YES)
    assert Accepted.YES not in (found["TLSv1"], found["TLSv1.1"])


def test_a_host_that_does_not_answer_leaves_the_versions_unknown() -> None:
    async def work() -> Accepted:
        plan = read_plan({"start": ["https://127.0.0.1:9/"], "private_addresses": ["127.0.0.0/8"], "rate_per_s": 1000})
        async with HttpFetcher(plan) as fetcher:
            return await fetcher.handshake("https://127.0.0.1:9/", ssl.TLSVersion.TLSv1_3)

    assert asyncio.run(work()) is Accepted.UNKNOWN


def test_no_handshake_with_the_inside_unless_the_plan_permits_it() -> None:
    connections = 0

    async def serve(_reader: asyncio.StreamReader, _writer: asyncio.StreamWriter) -> None:
        nonlocal connections
        connections += 1

    async def work() -> Accepted:
        async with listening(serve) as port:
            plan = read_plan({"start": ["https://public.example/"], "rate_per_s": 1000})
            async with HttpFetcher(plan) as fetcher:
                return await fetcher.handshake(f"https://127.0.0.1:{port}/", ssl.TLSVersion.TLSv1_3)

    assert asyncio.run(work()) is Accepted.UNKNOWN
    assert connections == 0


def test_all_probes_are_asked_once_and_what_goes_wrong_stops_no_other(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[str] = []

    def probe(name: str, answer: object) -> Callable[[Question], Awaitable[object]]:
        async def ask(_question: Question) -> object:
            asked.append(name)
            if isinstance(answer, Exception):
                raise answer
            return answer

        return ask

    facts = HttpsFacts("https://shop.example/", 301)
    answers = {"a": facts, "b": None, "c": ValueError("odd"), "d": facts}
    monkeypatch.setattr(probes, "PROBES", {name: probe(name, answer) for name, answer in answers.items()})
    writer = RunWriter.create(":memory:", {})
    stops = iter(["", "", "", "stopped"])
    asyncio.run(probes.ask_all(None, writer, lambda: next(stops, "")))  # type: ignore[arg-type]
    assert asked == ["a", "b", "c"]
    asyncio.run(probes.ask_all(None, writer, lambda: ""))  # type: ignore[arg-type]
    assert asked == ["a", "b", "c", "c", "d"], "what was asked is not asked again"
    kept = {name: json.loads(text) for name, text in writer.db.execute("SELECT name, facts FROM probe")}
    assert set(kept) == {"a", "b", "d"} and kept["b"] is None and kept["a"]["status"] == 301
