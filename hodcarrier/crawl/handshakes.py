"""Handshakes of TLS that are no request: which versions a host takes, and which certificate it shows."""

from __future__ import annotations

import asyncio
import ssl
import warnings
from collections.abc import AsyncIterator, Callable
from contextlib import AbstractAsyncContextManager, asynccontextmanager, suppress
from dataclasses import dataclass

from hodcarrier.core.facts.probes import Accepted, CertificateFacts
from hodcarrier.core.plan import Plan
from hodcarrier.core.web.urls import split
from hodcarrier.crawl.certificates import read_certificate
from hodcarrier.crawl.guard import Guard, GuardedResolver

TIMEOUT_S = 10.0
# Of OpenSSL: not yet valid, and expired. The dates tell that by themselves.
_DATES = frozenset({9, 10})


@dataclass
class Handshakes:
    """Shakes hands with hosts. ``turn`` waits for a request's turn at the host of a URL."""

    plan: Plan
    guard: Guard
    resolver: GuardedResolver
    turn: Callable[[str], AbstractAsyncContextManager[None]]

    async def takes(self, url: str, version: ssl.TLSVersion) -> Accepted:
        """Whether the host of a URL takes a TLS version. Certificates are not judged here."""
        if self.guard.why_refused(url):
            return Accepted.UNKNOWN
        try:
            async with self._shaken(url, _only(version)):
                return Accepted.YES
        except (ssl.SSLError, ConnectionResetError):
            return Accepted.NO
        except (OSError, IndexError, ValueError):
            return Accepted.UNKNOWN

    async def certificate(self, url: str) -> CertificateFacts | None:
        """The certificate that the host of a URL shows, by two handshakes: one that takes any, one that judges it. ``None`` when it shows
        none."""
        if self.guard.why_refused(url):
            return None
        why = ""
        try:
            async with self._shaken(url, _any_certificate()) as writer:
                shown = writer.get_extra_info("ssl_object").getpeercert(binary_form=True) or b""
            try:
                async with self._shaken(url, self._judging()):
                    pass
            except ssl.SSLCertVerificationError as error:
                why = "" if error.verify_code in _DATES else error.verify_message
        except (OSError, IndexError, ValueError):
            return None
        return read_certificate(shown, split(url).host.strip("[]"), why)

    def _judging(self) -> ssl.SSLContext:
        """A context that judges who issued a certificate; whether it covers the host is told apart from that."""
        context = ssl.create_default_context()
        context.check_hostname = False
        if self.plan.ca_file:
            with suppress(OSError):
                context.load_verify_locations(self.plan.ca_file)
        return context

    @asynccontextmanager
    async def _shaken(self, url: str, context: ssl.SSLContext) -> AsyncIterator[asyncio.StreamWriter]:
        parts = split(url)
        name = parts.host.strip("[]")
        async with self.turn(url):
            place = (await self.resolver.resolve(name, parts.port))[0]
            async with asyncio.timeout(min(TIMEOUT_S, self.plan.answer_timeout_s)):
                _, writer = await asyncio.open_connection(place["host"], place["port"], ssl=context, server_hostname=name)
            try:
                yield writer
            finally:
                writer.close()
                with suppress(OSError):
                    await writer.wait_closed()


def _any_certificate() -> ssl.SSLContext:
    """A context that trusts anybody, to see what a host shows; weak keys are to be seen as well."""
    context = ssl.create_default_context()
    context.check_hostname = False
    context.verify_mode = ssl.CERT_NONE
    context.set_ciphers("DEFAULT:@SECLEVEL=0")
    return context


def _only(version: ssl.TLSVersion) -> ssl.SSLContext:
    """A context that speaks one version of TLS, old ones included, and trusts anybody."""
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_CLIENT)
    context.check_hostname = False
    context.verify_mode = ssl.CERT_NONE
    context.set_ciphers("ALL:@SECLEVEL=0")
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", DeprecationWarning)  # asking for an old version is the point
        context.minimum_version = context.maximum_version = version
    return context
