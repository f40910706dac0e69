"""What a connection tells beside the answer: the peer's address and the certificate it showed.

The library gives a connection back as soon as a short answer has been read, often before its caller sees the answer. So
these facts are noted when the request is sent.
"""

from __future__ import annotations

import asyncio
import ssl
import time
from dataclasses import dataclass, field
from typing import Any

import aiohttp
from aiohttp.client_proto import ResponseHandler
from aiohttp.connector import Connection

from hodcarrier.crawl.waits import Wait, watch


@dataclass(frozen=True, slots=True)
class Peer:
    """The other end of a connection. ``certificate_ends`` is the certificate's *notAfter* as OpenSSL writes it; ``tls`` holds
    version, cipher, issuer, names and dates of a secure one."""

    address: str = ""
    certificate_ends: str = ""
    tls: dict[str, str] = field(default_factory=dict)


class NotedResponse(aiohttp.ClientResponse):
    """An answer with the peer it came from, and the wait for it."""

    peer: Peer = Peer(tls={})
    wait: Wait | None = None


class BrokenBody(aiohttp.ClientPayloadError):
    """The body is not framed as HTTP asks, such as a chunk without its length."""


class PatientHandler(ResponseHandler):
    """Reads the head of an answer by itself, before what follows it.

    A server that sends more bytes than its ``Content-Length`` says has answered all the same: browsers throw the rest away
    (RFC 9112, 6.3). The library gives up an answer whose head comes in one piece with such a rest, and waits in vain for a
    body whose framing breaks later.
    """

    wait: Wait | None = None

    def data_received(self, data: bytes) -> None:
        """Take bytes from the connection."""
        if self.wait is not None and not self.wait.has_come:
            self.wait.come(self.transport.get_extra_info("socket") if self.transport is not None else None)
        while (self._payload is None or self._payload.is_eof()) and self.exception() is None:
            head, blank_line, rest = data.partition(b"\r\n\r\n")
            if not rest:
                break
            super().data_received(head + blank_line)
            data = rest  # a body, or the next head after one of 1xx
        super().data_received(data)
        broken, body = self.exception(), self._payload
        if broken is not None and body is not None and not body.is_eof():
            body.set_exception(BrokenBody(str(broken)))


class NotingRequest(aiohttp.ClientRequest):
    """A request that notes its peer on the answer."""

    async def send(self, conn: Connection) -> aiohttp.ClientResponse:
        """Send the request over a connection."""
        wait = Wait(time.perf_counter(), watch(asyncio.get_running_loop()))
        if isinstance(conn.protocol, PatientHandler):
            conn.protocol.wait = wait
        response = await super().send(conn)
        if isinstance(response, NotedResponse):
            response.wait = wait
        transport = conn.transport
        if transport is not None and isinstance(response, NotedResponse):
            name = transport.get_extra_info("peername") or ("",)
            certificate = transport.get_extra_info("peercert") or {}
            secure = transport.get_extra_info("ssl_object")
            response.peer = Peer(
                str(name[0]), str(certificate.get("notAfter", "")), _tls_facts(secure, certificate) if secure else {}
            )
        return response


def _tls_facts(secure: ssl.SSLObject, certificate: dict[str, Any]) -> dict[str, str]:
    cipher = secure.cipher()
    issuer = {name: value for part in certificate.get("issuer", ()) for name, value in part}
    names = [value for kind, value in certificate.get("subjectAltName", ()) if kind == "DNS"]
    return {
        "version": secure.version() or "",
        "cipher": cipher[0] if cipher else "",
        "issuer": issuer.get("organizationName") or issuer.get("commonName") or "",
        "names": ", ".join(names[:20]),
        "not_before": str(certificate.get("notBefore", "")),
        "not_after": str(certificate.get("notAfter", "")),
    }
