"""What a connection tells beside the answer: the peer's address and the certificate it showed.

The library gives a connection back as soon as a short answer has been read, often before its caller sees the answer. So
these facts are noted when the request is sent.
"""

from __future__ import annotations

from dataclasses import dataclass

import aiohttp
from aiohttp.connector import Connection


@dataclass(frozen=True, slots=True)
class Peer:
    """The other end of a connection. ``certificate_ends`` is the certificate's *notAfter* as OpenSSL writes it."""

    address: str = ""
    certificate_ends: str = ""


class NotedResponse(aiohttp.ClientResponse):
    """An answer with the peer it came from."""

    peer: Peer = Peer()


class NotingRequest(aiohttp.ClientRequest):
    """A request that notes its peer on the answer."""

    async def send(self, conn: Connection) -> aiohttp.ClientResponse:
        """Send the request over a connection."""
        response = await super().send(conn)
        transport = conn.transport
        if transport is not None and isinstance(response, NotedResponse):
            name = transport.get_extra_info("peername") or ("",)
            certificate = transport.get_extra_info("peercert") or {}
            response.peer = Peer(str(name[0]), str(certificate.get("notAfter", "")))
        return response
