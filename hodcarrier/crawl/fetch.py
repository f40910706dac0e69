"""Fetching one address over HTTP, politely, within limits. Every failure is an outcome, never an exception."""

from __future__ import annotations

import asyncio
import base64
import ssl
import time
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime
from functools import partial
from typing import Protocol

import aiohttp
from yarl import URL

from hodcarrier.core.bound import Bound
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.probes import Accepted, CertificateFacts
from hodcarrier.core.plan import Plan
from hodcarrier.core.web.sniff import UNKNOWN, sniff
from hodcarrier.core.web.urls import same_site, split
from hodcarrier.crawl.connection import BrokenBody, NotedResponse, NotingRequest, PatientHandler
from hodcarrier.crawl.guard import Guard, GuardedResolver, RefusedAddress
from hodcarrier.crawl.handshakes import Handshakes
from hodcarrier.crawl.inflate import DECODE_ERRORS, inflater
from hodcarrier.crawl.pace import HOLD_MAX_S, Pace, retry_after_s

TRIES = 3
EXTERNAL_TRIES = 2
EXTERNAL_RATE_PER_S = 1.0
EXTERNAL_TIMEOUT_S = 10.0
# A whole answer may take so many times as long as a host may say nothing.
WHOLE_ANSWER_TIMES = 6
CHUNK_BYTES = 65_536
# Of a large document that a link leads to, the beginning is enough: what it weighs stands in its headers. Most pictures fit
# in here, and their connection can be used again.
SAMPLE_BYTES = 512 * 1024
READ_TYPES = UNKNOWN | {"text/html", "application/xhtml+xml"}
_PASSING = frozenset({"connect", "timeout", "reset"})


@dataclass(frozen=True, slots=True)
class Fetched:
    """An answer with its decoded body and, for a redirect, the ``Location`` as written."""

    answer: Answer
    body: bytes = b""
    location: str = ""


@dataclass(frozen=True)
class Access:
    """What opens a site that is not public. Sent to the origins it was entered for alone, never written anywhere."""

    username: str = field(default="", repr=False)
    password: str = field(default="", repr=False)
    headers: dict[str, str] = field(default_factory=dict, repr=False)
    cookies: dict[str, str] = field(default_factory=dict, repr=False)
    bound: Bound = field(default_factory=Bound)

    def header_lines(self) -> dict[str, str]:
        """The request headers all this makes (RFC 7617 for the password, RFC 6265 for cookies)."""
        lines = dict(self.headers)
        if self.username or self.password:
            pair = base64.b64encode(f"{self.username}:{self.password}".encode()).decode()
            lines["Authorization"] = f"Basic {pair}"
        if self.cookies:
            lines["Cookie"] = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        return lines


class Fetcher(Protocol):
    """What the crawl needs of an HTTP client."""

    async def get(self, url: str, method: str = "GET", bytes_max: int = 0, begin_bytes: int = 0) -> Fetched:
        """Ask for a URL without following redirects. ``bytes_max`` limits the decoded body (0: a document as the plan
        says, the beginning of anything else). ``begin_bytes``: so many bytes from the beginning on are enough, as they are; servers may send
        all the same."""
        ...

    def slow_to(self, url: str, interval_s: float) -> None:
        """Keep at least this distance between requests to the host of a URL."""
        ...

    def slower(self, url: str) -> float:
        """How many times slower than planned the host of a URL is asked now."""
        ...

    async def handshake(self, url: str, version: ssl.TLSVersion) -> Accepted:
        """Whether the host of a URL takes a TLS version."""
        ...

    async def certificate(self, url: str) -> CertificateFacts | None:
        """The certificate that the host of a URL shows; ``None`` when it shows none."""
        ...


@dataclass
class _Host:
    pace: Pace
    gate: asyncio.Semaphore
    turn: asyncio.Lock = field(default_factory=asyncio.Lock)


@dataclass
class HttpFetcher:
    """The HTTP client of a crawl. Every request of any kind passes the pace of its host."""

    plan: Plan
    access: Access = field(default_factory=Access)
    sleep: Callable[[float], Awaitable[None]] = asyncio.sleep
    clock: Callable[[], float] = time.monotonic
    certificates: dict[str, str] = field(default_factory=dict)
    tls: dict[str, dict[str, str]] = field(default_factory=dict)
    doubted: set[str] = field(default_factory=set)
    _hosts: dict[str, _Host] = field(default_factory=dict)
    _session: aiohttp.ClientSession | None = None
    _tls_context: ssl.SSLContext | None = None
    _bad_authority: str = ""

    async def __aenter__(self) -> HttpFetcher:
        self._guard = Guard.of(self.plan)
        self._resolver = GuardedResolver(self.plan.host_map, self._guard)
        connector = aiohttp.TCPConnector(resolver=self._resolver, limit=0, ttl_dns_cache=300)
        connector._factory = partial(PatientHandler, loop=asyncio.get_running_loop())  # type: ignore[assignment]
        self._handshakes = Handshakes(self.plan, self._guard, self._resolver, self._turn)
        self._session = aiohttp.ClientSession(
            connector=connector,
            request_class=NotingRequest,
            response_class=NotedResponse,
            auto_decompress=False,
            trust_env=False,
            cookie_jar=aiohttp.DummyCookieJar(),
            timeout=self._timeout(self.plan.answer_timeout_s),
            headers={
                "User-Agent": self.plan.user_agent,
                "Accept": "text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8",
                "Accept-Encoding": "gzip, deflate, br",
            },
            max_line_size=65_536,
            max_field_size=131_072,
        )
        # The library would repeat a request by itself when a connection breaks: a request that the pace knows nothing of.
        self._session._retry_connection = False
        self._external_timeout = self._timeout(min(EXTERNAL_TIMEOUT_S, self.plan.answer_timeout_s))
        self._access_lines = self.access.header_lines()
        return self

    def _context(self, url: str) -> ssl.SSLContext | bool:
        """How certificates are judged: as the library does, with the plan's own authority where it names one. That is read when the first
        https address is asked for, because it takes a while. Not at all where the site's own host showed one that does not hold."""
        if split(url).host in self.doubted:
            return False
        if not self.plan.ca_file or not url.startswith("https:"):
            return True
        if self._tls_context is None:
            self._tls_context = ssl.create_default_context()
            try:
                self._tls_context.load_verify_locations(self.plan.ca_file)
            except OSError as error:
                self._bad_authority = f"the plan's authority file {self.plan.ca_file} cannot be used: {error.strerror or error}"
        return self._tls_context

    @staticmethod
    def _timeout(seconds: float) -> aiohttp.ClientTimeout:
        return aiohttp.ClientTimeout(total=seconds * WHOLE_ANSWER_TIMES, sock_read=seconds, sock_connect=min(10, seconds))

    async def __aexit__(self, *_: object) -> None:
        if self._session is not None:
            await self._session.close()

    def _own(self, url: str) -> bool:
        return same_site(url, self.plan.host, subdomains=self.plan.subdomains)

    def host(self, url: str) -> _Host:
        """Pace and gate of the host a URL names. Hosts of other sites are asked one thing at a time, once a second."""
        name = split(url).host
        found = self._hosts.get(name)
        if found is None:
            own = self._own(url)
            rate = self.plan.rate_per_s if own else min(EXTERNAL_RATE_PER_S, self.plan.rate_per_s)
            found = _Host(Pace(rate, self.plan.adaptive), asyncio.Semaphore(self.plan.parallel if own else 1))
            self._hosts[name] = found
        return found

    def slow_to(self, url: str, interval_s: float) -> None:
        """Keep at least this distance between requests to the host of a URL."""
        self.host(url).pace.slow_to(interval_s)

    def slower(self, url: str) -> float:
        """How many times slower than planned the host of a URL is asked now."""
        return self.host(url).pace.slower

    async def get(self, url: str, method: str = "GET", bytes_max: int = 0, begin_bytes: int = 0) -> Fetched:
        """Ask for a URL, again after passing failures and when the host asks to wait (429, 503)."""
        host = self.host(url)
        tries = TRIES if self._own(url) else EXTERNAL_TRIES
        for attempt in range(tries):
            async with host.gate:
                await self._wait_for_turn(host)
                fetched = await self._once(url, method, bytes_max, begin_bytes)
            answer = fetched.answer
            if answer.status in (429, 503):
                host.pace.note_trouble()
                asked = retry_after_s(answer.header("retry-after"), datetime.now(UTC))
                host.pace.hold(self.clock(), asked if asked is not None else 2.0**attempt)
                if asked is not None and asked > HOLD_MAX_S:
                    return fetched
            elif answer.failure in _PASSING and answer.status is None:
                host.pace.note_trouble()
                if attempt < tries - 1:
                    await self.sleep(0.25 * 3.0**attempt)
            else:
                if answer.status is not None and answer.first_byte_ms is not None:
                    host.pace.note_answer(answer.first_byte_ms)
                return fetched
        return fetched

    async def _wait_for_turn(self, host: _Host) -> None:
        """Wait until the pace lets a request start. One after the other, so that a hold stops those that wait too."""
        async with host.turn:
            while (wait := host.pace.wait_s(self.clock())) > 0:
                await self.sleep(wait)
            host.pace.start(self.clock())

    async def _once(self, url: str, method: str, bytes_max: int, begin_bytes: int) -> Fetched:
        if why := self._guard.why_refused(url):
            return _failed("refused-address", why)
        if self._session is None:
            raise RuntimeError("the fetcher is used outside its context")
        began = time.perf_counter()
        try:
            own = self._own(url)
            lines = dict(self._access_lines) if own and self.access.bound.covers(url, self.plan.host_map) else {}
            if begin_bytes:
                # Ranges are of what is sent (RFC 9110, 14): only of the file as it is can a part be read.
                lines |= {"Range": f"bytes=0-{begin_bytes - 1}", "Accept-Encoding": "identity"}
            request = self._session.request(
                method,
                URL(url, encoded=True),
                allow_redirects=False,
                ssl=self._context(url),
                headers=lines or None,
                **({} if own else {"timeout": self._external_timeout}),  # type: ignore[arg-type]
            )
            async with request as response:
                self._note_certificate(url, response)
                return await self._read(response, began, method, bytes_max)
        except aiohttp.ClientConnectorDNSError as error:
            cause = error.os_error
            if isinstance(cause, RefusedAddress) or isinstance(cause.__cause__, RefusedAddress):
                return _failed("refused-address", str(cause))
            return _failed("dns", "")
        except aiohttp.ClientConnectorCertificateError as error:
            if self._goes_on_with_doubt(url):
                return await self._once(url, method, bytes_max, begin_bytes)
            return _failed("tls", self._bad_authority or str(error))
        except aiohttp.ClientSSLError as error:
            return _failed("tls", self._bad_authority or str(error))
        except RefusedAddress as error:
            return _failed("refused-address", str(error))
        except aiohttp.ClientConnectorError as error:
            if url.startswith("https:") and isinstance(
                error.os_error, ssl.SSLError | ConnectionResetError | ConnectionAbortedError
            ):
                return _failed("tls", f"the handshake broke off: {error.strerror or 'protocol or cipher not shared'}")
            return _failed("connect", error.strerror or str(error))
        except TimeoutError:
            return _failed("timeout", f"no answer in {self.plan.answer_timeout_s:g} s")
        except (aiohttp.ServerDisconnectedError, aiohttp.ClientOSError, ConnectionError) as error:
            return _failed("reset", str(error))
        except (aiohttp.ClientError, ValueError) as error:
            return _failed("protocol", str(error) or type(error).__name__)

    def _goes_on_with_doubt(self, url: str) -> bool:
        """Whether a site whose certificate does not hold is audited all the same: a check tells of it, and whoever mends it wants to know the
        rest as well. Not where anything secret is sent."""
        if not self._own(url) or self._access_lines or self._bad_authority:
            return False
        self.doubted.add(split(url).host)
        return True

    @asynccontextmanager
    async def _turn(self, url: str) -> AsyncIterator[None]:
        """A request's turn at the host of a URL, for what is no request of HTTP."""
        host = self.host(url)
        async with host.gate:
            await self._wait_for_turn(host)
            yield

    async def certificate(self, url: str) -> CertificateFacts | None:
        """The certificate that the host of a URL shows."""
        return await self._handshakes.certificate(url)

    async def handshake(self, url: str, version: ssl.TLSVersion) -> Accepted:
        """Whether the host of a URL takes a TLS version."""
        return await self._handshakes.takes(url, version)

    def _note_certificate(self, url: str, response: aiohttp.ClientResponse) -> None:
        if isinstance(response, NotedResponse) and response.peer.certificate_ends:
            origin = split(url).origin
            self.certificates[origin] = response.peer.certificate_ends
            self.tls[origin] = response.peer.tls

    async def _read(self, response: aiohttp.ClientResponse, began: float, method: str, bytes_max: int) -> Fetched:
        headers = tuple((k.lower(), v) for k, v in response.headers.items())
        wait = response.wait if isinstance(response, NotedResponse) else None
        declared = response.headers.get("Content-Type", "").partition(";")[0].strip().lower()
        begin_only = not bytes_max and declared not in READ_TYPES
        version = f"{response.version.major}.{response.version.minor}" if response.version else ""
        body, wire, failure, size = b"", 0, "", 0
        if method != "HEAD":
            body, wire, failure = await self._body(response, SAMPLE_BYTES if begin_only else bytes_max or self.plan.bytes_max)
            size = len(body)
            if begin_only and failure == "too-large":
                failure, size = "", max(size, response.content_length or 0)
        answer = Answer(
            response.status,
            failure,
            "",
            sniff(declared, body),
            headers,
            version,
            wire,
            size,
            None if wait is None or wait.first_byte_s is None else wait.first_byte_s * 1000,
            (time.perf_counter() - began) * 1000,
            response.peer.address if isinstance(response, NotedResponse) else "",
        )
        location = response.headers.get("Location", "") if 300 <= response.status < 400 else ""
        return Fetched(answer, body, location)

    async def _body(self, response: aiohttp.ClientResponse, limit: int) -> tuple[bytes, int, str]:
        """The decoded body, the bytes over the wire, and a failure if it was cut or could not be decoded."""
        chunks, size, wire = [], 0, 0
        try:
            inflate = inflater(", ".join(response.headers.getall("Content-Encoding", ())))
            async for chunk in response.content.iter_chunked(CHUNK_BYTES):
                wire += len(chunk)
                piece = inflate(chunk, limit + 1 - size)
                chunks.append(piece)
                size += len(piece)
                if size > limit:
                    return b"".join(chunks)[:limit], wire, "too-large"
        except BrokenBody:
            return b"".join(chunks), wire, "protocol"
        except (aiohttp.ClientPayloadError, aiohttp.ClientOSError, ConnectionError):
            return b"".join(chunks), wire, "reset"
        except TimeoutError:
            return b"".join(chunks), wire, "timeout"
        except DECODE_ERRORS:
            return b"".join(chunks), wire, "decode"
        return b"".join(chunks), wire, ""


def _failed(failure: str, detail: str) -> Fetched:
    return Fetched(Answer(None, failure, detail))
