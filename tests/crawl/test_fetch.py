"""The HTTP client against a server that misbehaves on purpose, on loopback."""

from __future__ import annotations

import asyncio
import gzip
import ssl
import zlib
from collections.abc import Awaitable, Callable

import brotli
import pytest

from hodcarrier.core.bound import Bound
from hodcarrier.core.facts.probes import Accepted
from hodcarrier.core.plan import read_plan
from hodcarrier.crawl.fetch import SAMPLE_BYTES, Access, Fetched, HttpFetcher
from hodcarrier.crawl.guard import Guard
from tests.listening import listening

HTML = b"<!doctype html><title>Rope</title>" * 40
OK = b"HTTP/1.1 200 OK\r\nContent-Type: text/html\r\n"


def with_length(body: bytes, head: bytes = OK, extra: bytes = b"") -> bytes:
    return head + b"Content-Length: %d\r\n" % len(body) + extra + b"\r\n" + body


BODIES: dict[str, bytes] = {
    "/plain": with_length(HTML),
    "/body-for-head": with_length(HTML),
    "/too-much": with_length(HTML[:20]) + HTML[20:],
    "/two-heads": b"HTTP/1.1 103 Early Hints\r\nLink: </s.css>; rel=preload\r\n\r\n" + with_length(HTML),
    "/gzip": with_length(gzip.compress(HTML), extra=b"Content-Encoding: gzip\r\n"),
    "/deflate": with_length(zlib.compress(HTML), extra=b"Content-Encoding: deflate\r\n"),
    "/bare-deflate": with_length(zlib.compress(HTML)[2:-4], extra=b"Content-Encoding: deflate\r\n"),
    "/br": with_length(brotli.compress(HTML), extra=b"Content-Encoding: br\r\n"),
    "/bomb": with_length(gzip.compress(b"0" * 50_000_000), extra=b"Content-Encoding: gzip\r\n"),
    "/not-gzip": with_length(b"hello there", extra=b"Content-Encoding: gzip\r\n"),
    "/half": OK + b"Content-Length: 5000\r\n\r\n" + HTML[:100],
    "/large": with_length(b"x" * 3_000_000),
    "/redirect": b"HTTP/1.1 302 Found\r\nLocation: /plain\r\nContent-Length: 0\r\n\r\n",
    "/busy": b"HTTP/1.1 503 Busy\r\nRetry-After: 7\r\nContent-Length: 0\r\n\r\n",
    "/later": b"HTTP/1.1 429 Busy\r\nRetry-After: 121\r\nContent-Length: 0\r\n\r\n",
    "/picture": with_length(b"x" * 900_000, b"HTTP/1.1 200 OK\r\nContent-Type: image/png\r\n"),
    "/old": b"HTTP/1.0 200 OK\r\nContent-Type: text/html\r\n\r\n" + HTML,
    "/garbage": b"this is not http at all\r\n\r\n",
    "/close": b"",
    "/cookies": with_length(HTML, extra=b"Set-Cookie: a=1\r\nSet-Cookie: b=2\r\n"),
    "/chunked": OK + b"Transfer-Encoding: chunked\r\n\r\n" + b"%x\r\n" % len(HTML) + HTML + b"\r\n0\r\n\r\n",
    "/half-chunked": OK + b"Transfer-Encoding: chunked\r\n\r\nffff\r\n" + HTML,
}


class Server:
    """Answers each path with exactly the bytes above; ``hang`` never answers."""

    def __init__(self) -> None:
        self.asked: list[tuple[str, str]] = []
        self.headers: list[dict[str, str]] = []
        self.now = 0
        self.most = 0

    async def answer(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        try:
            head = (await reader.readuntil(b"\r\n\r\n")).decode("latin-1").split("\r\n")
        except asyncio.IncompleteReadError:
            writer.close()
            return
        method, path, _ = head[0].split(" ")
        self.asked.append((method, path))
        self.headers.append({k.lower(): v for k, _, v in (line.partition(": ") for line in head[1:] if line)})
        self.now += 1
        self.most = max(self.most, self.now)
        if path == "/hang":
            await asyncio.sleep(30)
        await asyncio.sleep(0)
        self.now -= 1
        body = BODIES.get(path, b"HTTP/1.1 404 Not Found\r\nContent-Length: 0\r\n\r\n")
        bare = method == "HEAD" and path not in ("/body-for-head", "/two-heads")
        writer.write(body.partition(b"\r\n\r\n")[0] + b"\r\n\r\n" if bare else body)
        try:
            await writer.drain()
        except ConnectionError:
            return
        finally:
            writer.close()


def using(
    work: Callable[[HttpFetcher, str, Server], Awaitable[object]], **settings: object
) -> tuple[object, Server, list[float]]:
    """Run some work with a fetcher and the server; sleeps are recorded instead of slept, and its clock passes in them alone."""
    server, slept = Server(), []

    async def sleep(seconds: float) -> None:
        slept.append(seconds)
        await asyncio.sleep(0)

    def clock() -> float:
        return sum(slept)

    async def run() -> object:
        async with listening(server.answer) as port:
            base = f"http://127.0.0.1:{port}"
            plan = read_plan(
                {
                    "start": [base],
                    "private_addresses": ["127.0.0.0/8"],
                    "rate_per_s": 1000,
                    "bytes_max": 1_000_000,
                    "answer_timeout_s": 0.5,
                    **settings,
                }
            )
            async with HttpFetcher(plan, sleep=sleep, clock=clock) as fetcher:
                found = await work(fetcher, base, server)
        return found

    return asyncio.run(run()), server, slept


def fetch(path: str, method: str = "GET", **settings: object) -> Fetched:
    async def once(fetcher: HttpFetcher, base: str, _server: Server) -> Fetched:
        return await fetcher.get(base + path, method)

    found = using(once, **settings)[0]
    assert isinstance(found, Fetched)
    return found


@pytest.mark.parametrize("path", ["/plain", "/gzip", "/deflate", "/bare-deflate", "/br", "/chunked", "/old"])
def test_bodies_are_decoded(path: str) -> None:
    found = fetch(path)
    assert found.body == HTML
    assert (found.answer.status, found.answer.failure) == (200, "")
    assert found.answer.decoded_bytes == len(HTML)
    assert found.answer.content_type == "text/html"


def test_sizes_over_the_wire_and_decoded_differ() -> None:
    answer = fetch("/gzip").answer
    assert answer.wire_bytes == len(gzip.compress(HTML)) < answer.decoded_bytes


def test_http_version_is_noted() -> None:
    assert fetch("/old").answer.http_version == "1.0"
    assert fetch("/plain").answer.http_version == "1.1"


@pytest.mark.parametrize(
    ("path", "status", "failure"),
    [
        ("/bomb", 200, "too-large"),
        ("/large", 200, "too-large"),
        ("/not-gzip", 200, "decode"),
        ("/half", 200, "reset"),
        ("/half-chunked", 200, "reset"),
        ("/garbage", None, "protocol"),
        ("/close", None, "reset"),
        ("/hang", None, "timeout"),
    ],
)
def test_failures_are_outcomes(path: str, status: int | None, failure: str) -> None:
    answer = fetch(path).answer
    assert (answer.status, answer.failure) == (status, failure)


@pytest.mark.parametrize(
    ("path", "said"),
    [("/hang", "no answer in 0.5 s"), ("/garbage", "Bad status line"), ("/close", "Server disconnected"), ("/plain", "")],
)
def test_a_failure_is_told_in_words(path: str, said: str) -> None:
    detail = fetch(path).answer.detail
    assert said in detail if said else detail == ""


def test_a_bomb_costs_no_more_than_the_limit() -> None:
    assert len(fetch("/bomb").body) == 1_000_000


def test_redirects_are_given_back_not_followed() -> None:
    found = fetch("/redirect")
    assert (found.answer.status, found.location) == (302, "/plain")


def test_every_header_is_kept_in_lower_case() -> None:
    assert fetch("/cookies").answer.header_values("set-cookie") == ["a=1", "b=2"]


def test_head_has_no_body() -> None:
    found = fetch("/plain", "HEAD")
    assert (found.answer.status, found.body) == (200, b"")
    assert found.answer.header("content-length") == str(len(HTML))


def test_nobody_listens() -> None:
    async def once(fetcher: HttpFetcher, _base: str, _server: Server) -> Fetched:
        return await fetcher.get("http://127.0.0.1:9/")

    found = using(once, start=["http://127.0.0.1:9/"])[0]
    assert isinstance(found, Fetched)
    assert found.answer.failure == "connect"


def test_name_that_does_not_resolve() -> None:
    async def once(fetcher: HttpFetcher, _base: str, _server: Server) -> Fetched:
        return await fetcher.get("http://no-such-host.invalid/")

    found = using(once)[0]
    assert isinstance(found, Fetched)
    assert found.answer.failure == "dns"


@pytest.mark.parametrize("host", ["127.0.0.1", "[::1]", "localhost", "169.254.169.254", "[::ffff:127.0.0.1]"])
def test_private_addresses_are_refused_at_the_moment_of_connecting(host: str) -> None:
    async def once(fetcher: HttpFetcher, _base: str, server: Server) -> tuple[Fetched, int]:
        return await fetcher.get(f"http://{host}:80/plain"), len(server.asked)

    (found, asked), _, _ = using(once, private_addresses=())  # type: ignore[misc]
    assert found.answer.failure == "refused-address"
    assert asked == 0


def test_passing_failures_are_tried_three_times() -> None:
    async def once(fetcher: HttpFetcher, base: str, _server: Server) -> object:
        return await fetcher.get(base + "/close")

    _, server, slept = using(once)
    assert len(server.asked) == 3
    assert [s for s in slept if s >= 0.25] == [0.25, 0.75]


def test_retry_after_is_honoured_and_the_pace_slowed() -> None:
    async def once(fetcher: HttpFetcher, base: str, _server: Server) -> tuple[Fetched, float]:
        return await fetcher.get(base + "/busy"), fetcher.host(base + "/").pace.interval_s

    (found, interval), server, slept = using(once)  # type: ignore[misc]
    assert found.answer.status == 503
    assert len(server.asked) == 3
    assert slept[0] == pytest.approx(7, abs=0.2)
    assert interval >= 4 / 1000


def test_no_more_at_once_than_the_plan_says() -> None:
    async def many(fetcher: HttpFetcher, base: str, _server: Server) -> object:
        return await asyncio.gather(*(fetcher.get(base + "/plain") for _ in range(40)))

    _, server, _ = using(many, parallel=3)
    assert len(server.asked) == 40
    assert server.most <= 3


def test_we_say_who_we_are() -> None:
    async def once(fetcher: HttpFetcher, base: str, _server: Server) -> object:
        return await fetcher.get(base + "/plain")

    _, server, _ = using(once, agent="Trial/2.0")
    assert server.headers[0]["user-agent"] == "Trial/2.0"
    assert "cookie" not in server.headers[0]


@pytest.mark.parametrize("method", ["HEAD", "GET"])
@pytest.mark.parametrize(("path", "size"), [("/body-for-head", len(HTML)), ("/too-much", 20), ("/two-heads", len(HTML))])
def test_bytes_that_nobody_asked_for_do_no_harm(path: str, size: int, method: str) -> None:
    async def three_times(fetcher: HttpFetcher, base: str, _server: Server) -> list[Fetched]:
        return [await fetcher.get(base + asked, method) for asked in (path, "/plain", path)]

    first, plain, again = using(three_times)[0]  # type: ignore[misc]
    for found, expected in ((first, size), (plain, len(HTML)), (again, size)):
        assert (found.answer.status, found.answer.failure) == (200, "")
        assert found.answer.decoded_bytes == (expected if method == "GET" else 0)


@pytest.mark.parametrize(
    ("access", "lines"),
    [
        (Access(), {}),
        (Access(username="u"), {"Authorization": "Basic dTo="}),
        (Access(password="p"), {"Authorization": "Basic OnA="}),
        (Access(headers={"X-Preview": "1"}, cookies={"a": "1", "b": "2"}), {"X-Preview": "1", "Cookie": "a=1; b=2"}),
    ],
)
def test_what_opens_a_site_as_header_lines(access: Access, lines: dict[str, str]) -> None:
    assert access.header_lines() == lines


def test_a_host_that_asks_to_wait_longer_than_we_hold_is_asked_once() -> None:
    async def once(fetcher: HttpFetcher, base: str, _server: Server) -> tuple[int | None, float]:
        found = await fetcher.get(base + "/later")
        return found.answer.status, fetcher.host(base).pace.held_until

    (status, held), server, _ = using(once)  # type: ignore[misc]
    assert (status, len(server.asked)) == (429, 1)
    assert held == pytest.approx(120)


@pytest.fixture
def everything_is_public(monkeypatch: pytest.MonkeyPatch) -> None:
    """Servers on loopback stand for other sites."""
    monkeypatch.setattr(Guard, "allows", lambda *_: True)


@pytest.mark.usefixtures("everything_is_public")
def test_other_sites_are_asked_twice_and_one_thing_at_a_time() -> None:
    async def outside(fetcher: HttpFetcher, base: str, _server: Server) -> tuple[float, float]:
        await fetcher.get(base + "/close")
        return fetcher.host(base).pace.rate_per_s, fetcher.host("https://shop.example/").pace.rate_per_s

    (rate, own), server, _ = using(outside, start=["https://shop.example/"])  # type: ignore[misc]
    assert (len(server.asked), rate, own) == (2, 1.0, 1000)


@pytest.mark.usefixtures("everything_is_public")
def test_secrets_go_to_the_sites_own_hosts_alone() -> None:
    def seen(start: list[str] | None) -> list[bool]:
        async def once(fetcher: HttpFetcher, base: str, _server: Server) -> None:
            fetcher._access_lines = {"X-Preview": "1"}
            fetcher.access = Access(bound=Bound.of(fetcher.plan))
            await fetcher.get(base + "/plain")

        _, server, _ = using(once, **({"start": start} if start else {}))
        return ["x-preview" in headers for headers in server.headers]

    assert seen(None) == [True]
    assert seen(["http://shop.example/"]) == [False]
    assert seen(["https://127.0.0.1/"]) == [False], "an https site's never go out in the clear"


def test_of_a_large_file_the_beginning_is_read_and_its_size_told() -> None:
    found = fetch("/picture")
    assert (found.answer.status, found.answer.failure) == (200, "")
    assert found.answer.decoded_bytes == 900_000 and len(found.body) == SAMPLE_BYTES


@pytest.mark.parametrize("host", ["127.0.0.1", "localhost"])
def test_no_handshake_inside(host: str) -> None:
    async def shake(fetcher: HttpFetcher, base: str, server: Server) -> tuple[Accepted, int]:
        port = base.rpartition(":")[2]
        return await fetcher.handshake(f"https://{host}:{port}/", ssl.TLSVersion.TLSv1_2), len(server.asked)

    assert using(shake, private_addresses=())[0] == (Accepted.UNKNOWN, 0)


def test_the_beginning_of_a_file_is_asked_for_as_it_is() -> None:
    async def begin(fetcher: HttpFetcher, base: str, _server: Server) -> Fetched:
        return await fetcher.get(base + "/plain", begin_bytes=4096)

    found, server, _ = using(begin)
    assert isinstance(found, Fetched) and found.answer.status == 200, "a server may send all the same"
    assert (server.headers[0]["range"], server.headers[0]["accept-encoding"]) == ("bytes=0-4095", "identity")
    _, other, _ = using(lambda fetcher, base, _server: fetcher.get(base + "/plain"))
    assert "range" not in other.headers[0] and "gzip" in other.headers[0]["accept-encoding"]
