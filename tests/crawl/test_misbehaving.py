"""Crawls of a server that misbehaves in every way we know: each ends well, with the right outcome recorded."""

from __future__ import annotations

import asyncio
import ssl
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
import trustme

from hodcarrier.core.bound import Bound
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.plan import plan_values, read_plan
from hodcarrier.crawl import fetch, readers
from hodcarrier.crawl.engine import Crawl
from hodcarrier.crawl.fetch import Access, Fetched, HttpFetcher
from hodcarrier.examine.examination import examine
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.writer import RunWriter
from tests.listening import listening
from tests.misbehaving import BEHAVIOURS, LEGACY, Misbehaving, misbehaving

NOW = datetime(2026, 11, 24, tzinfo=UTC)
SLOW = ("/slow-drip", "/slow-headers", "/never")
TANGLED = ("/deep-html", "/many-attributes")


@dataclass
class VirtualClock:
    """Time passes only while somebody sleeps, and not before what was sent has arrived (``settled``)."""

    now: float = 1000.0
    settled: Callable[[], bool] = lambda: True

    def __call__(self) -> float:
        return self.now

    async def sleep(self, seconds: float) -> None:
        until = self.now + seconds
        await asyncio.sleep(0)
        while not self.settled():
            await asyncio.sleep(0.001)
        self.now = max(self.now, until)


@dataclass
class Crawled:
    run: RunFile
    server: Misbehaving
    end: str
    clock: VirtualClock

    def outcome(self, path: str) -> tuple[int | None, str]:
        """Status and failure of a path; (-1, reason) when it was not fetched."""
        url = f"http://127.0.0.1:{self.server.port}{path}"
        rows = self.run.rows(
            "SELECT status, failure, rule FROM address LEFT JOIN answer ON answer.address_id = id WHERE url = ?", url
        )
        status, failure, rule = rows[0]
        return (-1, rule) if failure is None else (status, failure)

    def pages(self) -> list[str]:
        return [url for (url,) in self.run.rows("SELECT url FROM address JOIN answer ON answer.address_id = id WHERE role = 0")]


def count_under_way(fetcher: HttpFetcher) -> list[int]:
    """Counts the requests that are under way."""
    under_way, once = [0], fetcher._once

    async def counted(*words: Any) -> Fetched:
        under_way[0] += 1
        try:
            return await once(*words)
        finally:
            under_way[0] -= 1

    fetcher._once = counted  # type: ignore[method-assign]
    return under_way


def crawl(*paths: str, **plan: Any) -> Crawled:
    clock = VirtualClock()

    async def work() -> Crawled:
        async with misbehaving(*paths, clock=clock) as server:
            values = {
                "start": [f"http://127.0.0.1:{server.port}/"],
                "private_addresses": ["127.0.0.0/8"],
                "rate_per_s": 1000,
                "answer_timeout_s": 0.5,
                "bytes_max": 10_000_000,
                "use_sitemaps": False,
            }
            parsed = read_plan({**values, **plan})
            writer = RunWriter.create(":memory:", {"plan": plan_values(parsed)})
            async with HttpFetcher(parsed, sleep=clock.sleep, clock=clock) as fetcher:
                under_way = count_under_way(fetcher)
                clock.settled = lambda: server.now >= under_way[0]
                end = await Crawl(parsed, writer, fetcher, lambda: NOW).run()
            writer.put_meta("end", end)
            if not end.startswith("failed: "):
                examine(writer.db, NOW)
            return Crawled(RunFile(writer.db), server, end, clock)

    return asyncio.run(work())


@pytest.fixture(scope="module")
def everything() -> Crawled:
    """One crawl of a site where every page misbehaves, kept-out, busy, slow and tangled ones aside.

    It waits long for answers: server and client share a loop here, and neither may take the other's work for silence.
    """
    aside = {"/", "/robots.txt", "/busy-seconds", "/busy-date", "/storm", "/hour", *SLOW, *TANGLED}
    return crawl(*(path for path in BEHAVIOURS if path not in aside and not path.startswith("/legacy/")), answer_timeout_s=60)


@pytest.fixture(scope="module")
def legacy() -> Crawled:
    """One crawl of pages in every legacy encoding."""
    return crawl(*(path for path in BEHAVIOURS if path.startswith("/legacy/")), answer_timeout_s=60)


@pytest.mark.parametrize(("path", "status"), [("/slow-drip", 200), ("/slow-headers", None), ("/never", None)])
def test_who_is_too_slow_times_out(path: str, status: int | None, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(fetch, "WHOLE_ANSWER_TIMES", 2)
    monkeypatch.setattr(fetch, "TRIES", 2)
    assert crawl(path).outcome(path) == (status, "timeout")


@pytest.mark.parametrize("path", TANGLED)
def test_a_page_that_takes_too_much_work_is_tangled(path: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(readers, "PROCESSOR_S", 1)
    assert crawl(path, answer_timeout_s=60).outcome(path) == (200, "tangled")


@pytest.mark.parametrize(
    ("path", "status", "failure"),
    [
        ("/half-body", 200, "reset"),
        ("/half-chunk", 200, "reset"),
        ("/bad-chunk", 200, "protocol"),
        ("/reset", 200, "reset"),
        ("/closes-at-once", None, "reset"),
        ("/endless-body", 200, "too-large"),
        ("/circle-a", 302, ""),
        ("/to-itself", 301, ""),
        ("/to-nowhere", 302, ""),
        ("/to-garbage", 302, ""),
        ("/to-mail", 302, ""),
        ("/to-private", 302, ""),
        ("/bomb", 200, "too-large"),
        ("/not-gzip", 200, "decode"),
        ("/too-short-length", 200, ""),
        ("/wrong-type", 200, ""),
        ("/no-type", 200, ""),
        ("/hundred-mb", 200, "too-large"),
        ("/hundred-mb.pdf", 200, ""),
        ("/big-headers", None, "protocol"),
        ("/many-headers", None, "protocol"),
        ("/old-http", 200, ""),
        ("/not-http", None, "protocol"),
        ("/odd-status", 999, ""),
        ("/teapot", 418, ""),
        ("/garbage-html", 200, ""),
        ("/nul-bytes", 200, ""),
        ("/gzip-twice", 200, ""),
        ("/bomb-twice", 200, "too-large"),
        ("/odd-coding", 200, "decode"),
        ("/nested", 200, ""),
        ("/big-attribute", 200, ""),
        ("/many-links", 200, ""),
        ("/fine", 200, ""),
        ("/wants-cookie", 302, ""),
        ("/refuses-us", 403, ""),
    ],
)
def test_the_outcome_is_recorded(everything: Crawled, path: str, status: int | None, failure: str) -> None:
    assert everything.outcome(path) == (status, failure)


def test_the_crawl_of_it_all_ends_well(everything: Crawled) -> None:
    assert everything.end == "complete"
    assert everything.run.meta("summary")["crashes"] == []
    assert everything.run.rows("PRAGMA integrity_check") == [("ok",)]
    assert everything.outcome("/kept-out") == (-1, "Disallow: /kept-out (line 2)")
    assert ("GET", "/kept-out") not in everything.server.asked


def test_endless_redirects_end(everything: Crawled) -> None:
    found = {
        row[0]
        for row in everything.run.rows("SELECT check_id FROM finding WHERE subject LIKE '%/for-ever%' OR subject LIKE '%circle%'")
    }
    assert "reach-redirect-loop" in found
    assert sum(1 for _, path in everything.server.asked if path.startswith("/for-ever")) < 1100


@pytest.mark.parametrize("encoding", LEGACY)
def test_every_legacy_encoding_is_read(legacy: Crawled, encoding: str) -> None:
    url = f"http://127.0.0.1:{legacy.server.port}/legacy/{encoding}"
    assert legacy.run.rows("SELECT title FROM page JOIN address ON id = address_id WHERE url = ?", url) == [(LEGACY[encoding],)]


def test_of_a_document_only_the_beginning_is_read(everything: Crawled) -> None:
    sql = "SELECT wire_bytes, decoded_bytes FROM answer JOIN address ON id = address_id WHERE url LIKE '%.pdf'"
    ((wire, size),) = everything.run.rows(sql)
    assert size == 100_000_000 and wire < 2_000_000


@pytest.mark.parametrize(("path", "h1"), [("/no-type", "a"), ("/too-short-length", "l")])
def test_odd_answers_are_read_as_browsers_read_them(everything: Crawled, path: str, h1: str) -> None:
    rows = everything.run.rows("SELECT h1 FROM page JOIN address ON id = address_id WHERE url LIKE ?", f"%{path}")
    assert rows == [(h1,)]


def test_half_a_page_is_read_as_far_as_it_came(everything: Crawled) -> None:
    page = everything.run.rows("SELECT words FROM page JOIN address ON id = address_id WHERE url LIKE '%/half-body'")
    assert page == [(2,)]


def test_an_inside_address_behind_a_redirect_is_refused() -> None:
    found = crawl("/to-private", private_addresses=(), host_map={})
    assert found.end.startswith("failed: ") and "private" in found.end and found.server.asked == []


def test_retry_after_in_seconds_and_as_a_date_is_honoured() -> None:
    found = crawl("/busy-seconds", "/busy-date", parallel=1)
    assert found.outcome("/busy-seconds") == found.outcome("/busy-date") == (200, "")
    firsts = {p: found.server.times[[a[1] for a in found.server.asked].index(p)] for p in ("/busy-seconds", "/busy-date")}
    lasts = {path: at for (_, path), at in zip(found.server.asked, found.server.times, strict=True)}
    assert lasts["/busy-seconds"] - firsts["/busy-seconds"] >= 2.0 and lasts["/busy-date"] - firsts["/busy-date"] >= 1.0


def test_a_host_that_stays_busy_is_given_up_and_never_hammered() -> None:
    found = crawl("/storm", parallel=4)
    assert found.outcome("/storm") == (503, "")
    assert found.server.tries["/storm"] == 3


def test_an_hour_is_not_waited_for() -> None:
    found = crawl("/hour")
    assert found.outcome("/hour") == (429, "") and found.server.tries["/hour"] == 1


@pytest.mark.parametrize(
    ("start", "pattern"),
    [
        ("/calendar/2026/1", "/calendar/#/#"),
        ("/in/00000000000000000000000a1/page", "/in/~/page"),
        ("/facets?x=1", "/facets?"),
        ("/grow/", "repeats itself"),
    ],
)
def test_traps_are_stopped_and_told(start: str, pattern: str) -> None:
    found = crawl(start, pattern_pages_max=60, query_pages_max=40, depth_max=200)
    assert found.end == "complete"
    assert len(found.pages()) < 400
    traps = found.run.meta("traps")
    assert any(pattern in trap["pattern"] for trap in traps) and all(trap["examples"] for trap in traps)
    assert found.run.rows("SELECT count(*) FROM finding WHERE check_id = 'reach-trap'")[0][0] >= 1


@pytest.mark.parametrize(("rate", "parallel"), [(5, 4), (2, 1), (20, 3), (0.5, 2)])
def test_rate_and_parallelism_never_exceed_the_plan(rate: float, parallel: int) -> None:
    found = crawl(
        "/fine",
        "/storm",
        "/reset",
        "/half-body",
        "/teapot",
        "/busy-seconds",
        "/closes-at-once",
        *(f"/none-{n}" for n in range(30)),
        rate_per_s=rate,
        parallel=parallel,
        use_sitemaps=True,
    )
    times = sorted(found.server.times)
    assert len(times) > 40
    for n, first in enumerate(times):
        assert sum(1 for t in times[n:] if t < first + 1.0) <= max(1, int(rate))
    assert found.server.most <= parallel


def test_a_crawl_delay_is_kept() -> None:
    before = BEHAVIOURS["/robots.txt"]
    from tests.misbehaving import says

    BEHAVIOURS["/robots.txt"] = says("User-agent: *\nCrawl-delay: 3\n", "200 OK", "Content-Type: text/plain")
    try:
        found = crawl("/fine", "/teapot", "/none")
        ignored = crawl("/fine", "/teapot", "/none", obey_crawl_delay=False)
    finally:
        BEHAVIOURS["/robots.txt"] = before
    gaps = [b - a for a, b in zip(found.server.times[1:], found.server.times[2:], strict=False)]
    assert min(gaps) >= 3.0 - 1e-9
    assert ignored.clock.now - 1000 < 1.0


def test_slow_answers_slow_us_down(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(fetch, "TRIES", 2)
    found = crawl("/storm", "/never", *(f"/none-{n}" for n in range(5)), rate_per_s=10)
    progress = found.run.meta("progress")
    assert progress["slower"] > 1.0
    steady = crawl("/storm", "/never", rate_per_s=10, adaptive=False)
    assert steady.run.meta("progress")["slower"] == 1.0


def over_tls(tmp_path: Path, make: Any, path: str, access: Access | None = None) -> tuple[Answer, HttpFetcher]:
    """What fetching a path over TLS ends with, and the fetcher that did it."""
    authority = trustme.CA()
    authority.cert_pem.write_to_path(str(tmp_path / "ca.pem"))
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    make(authority, context)

    async def work() -> tuple[Answer, HttpFetcher]:
        server = Misbehaving()
        async with listening(server.serve, tls=context) as port:
            plan = read_plan(
                {
                    "start": ["https://shop.example/"],
                    "host_map": {"shop.example:443": f"127.0.0.1:{port}"},
                    "ca_file": str(tmp_path / "ca.pem"),
                    "rate_per_s": 1000,
                }
            )
            async with HttpFetcher(plan, access or Access()) as fetcher:
                found = await fetcher.get(f"https://shop.example{path}")
        return found.answer, fetcher

    return asyncio.run(work())


def old_protocol(authority: trustme.CA, context: ssl.SSLContext) -> None:
    authority.issue_cert("shop.example").configure_cert(context)
    context.set_ciphers("ALL:@SECLEVEL=0")
    context.minimum_version = ssl.TLSVersion.TLSv1
    context.maximum_version = ssl.TLSVersion.TLSv1


@pytest.mark.filterwarnings("ignore::DeprecationWarning")
@pytest.mark.parametrize(
    ("make", "failure", "words"),
    [
        (lambda ca, c: ca.issue_cert("shop.example").configure_cert(c), "", ""),
        (
            lambda ca, c: ca.issue_cert("shop.example", not_after=datetime.now(UTC) - timedelta(days=1)).configure_cert(c),
            "tls",
            "expired",
        ),
        (
            lambda ca, c: ca.issue_cert("shop.example", not_before=datetime.now(UTC) + timedelta(days=1)).configure_cert(c),
            "tls",
            "not yet valid",
        ),
        (lambda ca, c: ca.issue_cert("other.example").configure_cert(c), "tls", "ostname mismatch"),
        (lambda _ca, c: trustme.CA().issue_cert("shop.example").configure_cert(c), "tls", "unable to get local issuer"),
        (old_protocol, "tls", ""),
    ],
    ids=["good", "expired", "not yet", "other name", "unknown authority", "old protocol"],
)
def test_certificates_of_each_kind(tmp_path: Path, make: Any, failure: str, words: str) -> None:
    secret = Access(username="desk", password="heather", bound=Bound(("https://shop.example",)))
    answer, _ = over_tls(tmp_path, make, "/fine", secret)
    assert answer.failure == failure, answer.detail
    assert words.lower() in answer.detail.lower()


@pytest.mark.parametrize(
    ("make", "doubted"),
    [
        (lambda ca, c: ca.issue_cert("shop.example").configure_cert(c), set()),
        (lambda ca, c: ca.issue_cert("other.example").configure_cert(c), {"shop.example"}),
        (lambda _ca, c: trustme.CA().issue_cert("shop.example").configure_cert(c), {"shop.example"}),
    ],
    ids=["good", "other name", "unknown authority"],
)
def test_a_site_whose_certificate_does_not_hold_is_audited_all_the_same(tmp_path: Path, make: Any, doubted: set[str]) -> None:
    answer, fetcher = over_tls(tmp_path, make, "/fine")
    assert (answer.status, fetcher.doubted) == (200, doubted)


def test_the_certificate_of_a_short_answer_is_noted(tmp_path: Path) -> None:
    ends = datetime(2031, 5, 6, 7, 8, 9, tzinfo=UTC)
    answer, fetcher = over_tls(
        tmp_path, lambda ca, c: ca.issue_cert("shop.example", not_after=ends).configure_cert(c), "/to-itself"
    )
    assert answer.status == 301 and answer.decoded_bytes == 0
    assert fetcher.certificates == {"https://shop.example": "May  6 07:08:09 2031 GMT"}
