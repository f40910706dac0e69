"""Other services: which addresses may be asked, and asking one with patience and bounds."""

from __future__ import annotations

import asyncio
import ssl
from collections.abc import AsyncIterator, Awaitable, Callable, Mapping
from contextlib import asynccontextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime

import aiohttp

from hodcarrier import __version__
from hodcarrier.core.errors import InvalidInput, InvalidUrl
from hodcarrier.core.web.permits import ALL_PRIVATE, read_permit
from hodcarrier.core.web.urls import normalize, split
from hodcarrier.crawl.guard import Guard, GuardedResolver, RefusedAddress
from hodcarrier.crawl.pace import retry_after_s

ANSWER_S = 60
SILENT_S = 20
BYTES_MAX = 64 * 1024 * 1024
# Waits before another try, and how long a service that asks for patience is waited for before it is left until later.
WAITS_S = (1.0, 4.0)
PATIENCE_S = 30.0
_PART_BYTES = 256 * 1024
NO_USE = float("inf")
_BUSY = 429


@dataclass(frozen=True)
class Purpose:
    """What another service is for, in the words of messages."""

    example: str
    why_encrypted: str
    who: str
    no_password: str


WEBHOOK = Purpose(
    "https://hooks.agency.example/audits",
    "Messages name clients and their sites, so they go out encrypted only.",
    "webhooks",
    "The signature shows who sends; leave them out.",
)
FEED = Purpose(
    "https://figures.agency.example/shop",
    "Figures and the token are a client's own business, so they are fetched encrypted only.",
    "feeds",
    "Give the token by itself; it is kept sealed.",
)


def guard_of(allow_private: bool) -> Guard:
    """Which addresses may be asked: public ones, and private ones if the operator allows it for all."""
    return Guard(tuple(map(read_permit, ALL_PRIVATE)), lambda _host, _port: True) if allow_private else Guard()


def checked_target(url: str, allow_private: bool, purpose: Purpose) -> str:
    """The address of another service as it is kept. Raises :class:`InvalidInput` for one that must not be asked."""
    try:
        found = normalize(url.strip())
        parts = split(found)
    except InvalidUrl as error:
        raise InvalidInput(error.message, f"Give an address such as {purpose.example}.", "url") from None
    if "@" in found.removeprefix(f"{parts.scheme}://").partition("/")[0]:
        raise InvalidInput("The address has a name or password in it.", purpose.no_password, "url")
    if allow_private:
        return found
    if parts.scheme != "https":
        raise InvalidInput(purpose.why_encrypted, "Give an https address.", "url")
    if why := Guard().why_refused(found):
        raise InvalidInput(f"{why[0].upper()}{why[1:]}; {purpose.who} go to public ones.", "Give another address.", "url")
    return found


class Unanswered(Exception):
    """Another service gave no answer that can be used, however often it was asked. ``wait_s``: it wants to be left alone for so long."""

    def __init__(self, message: str, wait_s: float | None = None) -> None:
        super().__init__(message)
        self.wait_s = wait_s

    @property
    def asks_for_s(self) -> float | None:
        """For how long it has asked to be left alone; ``None`` where it has not, or trying again is of no use."""
        return None if self.wait_s == NO_USE else self.wait_s


@dataclass(frozen=True)
class Answer:
    """What another service answered: a status below 500, the text of a 200, its entity tag, and where a redirect leads."""

    status: int
    text: str
    tag: str
    location: str = ""


@dataclass(frozen=True)
class Asker:
    """Asks other services, over connections that are kept."""

    client: aiohttp.ClientSession
    guard: Guard
    wait: Callable[[float], Awaitable[None]]

    async def get(self, url: str, accept: str, token: str = "", tag: str = "") -> Answer:
        """Ask for something. Connections that break and answers of 5xx are tried again. Raises :class:`Unanswered`."""
        for wait_s in (*WAITS_S, None):
            try:
                return await self._once(url, accept, token, tag)
            except Unanswered as error:
                if wait_s is None or (error.wait_s or 0) > PATIENCE_S:
                    raise
                await self.wait(error.wait_s if error.wait_s is not None else wait_s)
        raise AssertionError("the last try either answers or raises")

    async def _once(self, url: str, accept: str, token: str, tag: str) -> Answer:
        if why := self.guard.why_refused(url):
            raise Unanswered(f"{why[0].upper()}{why[1:]}; it is not asked.", NO_USE)
        headers = {"Accept": accept, "User-Agent": f"Hodcarrier/{__version__}"}
        headers |= {"Authorization": f"Bearer {token}"} if token else {}
        headers |= {"If-None-Match": tag} if tag else {}
        try:
            async with self.client.get(url, headers=headers, allow_redirects=False) as answer:
                if answer.status == _BUSY or answer.status >= 500:
                    asked = retry_after_s(answer.headers.get("Retry-After", ""), datetime.now(UTC))
                    raise Unanswered(f"It answered {answer.status}.", asked)
                text = await _text_of(answer) if answer.status == 200 else ""
                place = answer.headers.get("Location", "")
                return Answer(answer.status, text, answer.headers.get("ETag", ""), place)
        except TimeoutError:
            raise Unanswered(f"It did not answer within {ANSWER_S} s.") from None
        except RefusedAddress as error:
            raise Unanswered(f"{error}; it is not asked.", NO_USE) from None
        except (aiohttp.ClientError, OSError) as error:
            refused = error.__cause__ or error.__context__
            if isinstance(refused, RefusedAddress):
                raise Unanswered(f"{refused}; it is not asked.", NO_USE) from None
            raise Unanswered(f"It cannot be reached: {str(error) or type(error).__name__}.") from None


async def _text_of(answer: aiohttp.ClientResponse) -> str:
    body = bytearray()
    async for part in answer.content.iter_chunked(_PART_BYTES):
        body += part
        if len(body) > BYTES_MAX:
            raise Unanswered(f"It sends more than {BYTES_MAX // 1024**2} MiB at once.", NO_USE)
    try:
        return body.decode()
    except UnicodeDecodeError:
        raise Unanswered("It does not answer in UTF-8.", NO_USE) from None


@dataclass(frozen=True)
class Reach:
    """How other services are reached: by which guard, mapped hosts and further authority, and how one waits between tries."""

    guard: Guard = field(default_factory=Guard)
    host_map: Mapping[str, str] = field(default_factory=dict)
    ca_file: str = ""
    wait: Callable[[float], Awaitable[None]] = asyncio.sleep

    @asynccontextmanager
    async def open(self) -> AsyncIterator[Asker]:
        """Ask some services."""
        context = ssl.create_default_context()
        if self.ca_file:
            context.load_verify_locations(self.ca_file)
        resolver = GuardedResolver(dict(self.host_map), self.guard)
        connector = aiohttp.TCPConnector(resolver=resolver, use_dns_cache=False, ssl=context)
        timeout = aiohttp.ClientTimeout(total=ANSWER_S, sock_read=SILENT_S)
        async with aiohttp.ClientSession(connector=connector, timeout=timeout) as client:
            yield Asker(client, self.guard, self.wait)
