"""The simulated web: all made-up sites behind HTTP and HTTPS on loopback, told apart by host name, with a figure feed and a registry of domains.

A site may answer phones with other pages. It may be careless in an edition: its certificate does not hold, it answers over http as well,
under www as well, or to any URL.

Run as ``python -m hodcarrier.demo.web FOLDER HTTP_PORT HTTPS_PORT``. The folder receives ``ca.pem``, the throw-away test
authority. ``PUT /edition/N`` on the host ``control.example`` turns all sites to an edition.
"""

from __future__ import annotations

import asyncio
import gzip
import os
import ssl
import sys
import warnings
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from pathlib import Path
from tempfile import NamedTemporaryFile

import trustme
from aiohttp import web
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec, rsa
from cryptography.x509.oid import NameOID

from hodcarrier.demo import registry
from hodcarrier.demo.feed import FEED_HOST, FeedStandIn
from hodcarrier.demo.pages import Resource
from hodcarrier.demo.registry import REGISTRY_HOST
from hodcarrier.demo.sites import EDITIONS, SITES, build

CONTROL = "control.example"
FEEDS = "feeds"
HTML_TYPES = ("text/html", "text/css", "application/xml", "text/plain")


class SimulatedWeb:
    """Answers for every host in the edition that is on. ``feeds`` has the figures of the feed."""

    def __init__(self, feeds: Path = Path()) -> None:
        self.edition = EDITIONS
        self.feed = FeedStandIn(feeds)

    async def answer(self, request: web.Request) -> web.StreamResponse:
        """One answer; http redirects to https, unknown paths answer 404."""
        asked = request.host.partition(":")[0]
        host = asked.removeprefix("www.")
        if host == CONTROL:
            return self._control(request)
        if host == FEED_HOST:
            return await self.feed.answer(request)
        if host == REGISTRY_HOST:
            return registry.answer(request)
        if host not in SITES:
            return web.Response(status=421, text="no such site\n")
        site = build(host, self.edition)
        path = request.raw_path.partition("?")[0]
        if (asked != host and not site.www) or not (request.secure or {path, "*"} & set(site.plain)):
            return web.Response(status=301, headers={"Location": f"https://{host}{request.raw_path}"})
        phone = "Mobile" in request.headers.get("User-Agent", "")
        resource = (site.for_phones.get(path) if phone else None) or site.resources.get(path)
        if resource is None:
            return web.Response(
                status=200 if site.any_url else 404,
                text="<!doctype html><html lang=en><title>Not found</title><h1>Not found</h1>",
                content_type="text/html",
            )
        if resource.wait_s:
            await asyncio.sleep(resource.wait_s)
        if resource.manner:
            return await self.fail(request, resource)
        headers = {"Content-Type": resource.content_type, **dict(resource.headers)}
        body = resource.body
        if (
            site.gzip
            and "gzip" in request.headers.get("Accept-Encoding", "")
            and resource.content_type.partition(";")[0] in HTML_TYPES
        ):
            body = gzip.compress(body, 3, mtime=0)
            headers["Content-Encoding"] = "gzip"
        return web.Response(status=resource.status, body=body, headers=headers)

    async def fail(self, request: web.Request, resource: Resource) -> web.StreamResponse:
        """Answer in a manner that no server should."""
        response = web.StreamResponse()
        if resource.manner != "none" and request.transport is not None:
            line = "HTTP/1.0 200 OK" if resource.manner == "old" else "HTTP/1.1 200 OK"
            length = len(resource.body) * (2 if resource.manner == "cut" else 1)
            head = f"{line}\r\nContent-Type: {resource.content_type}\r\nContent-Length: {length}\r\nConnection: close\r\n\r\n"
            request.transport.write(head.encode() + resource.body)
        if request.transport is not None:
            request.transport.close()
        return response

    def _control(self, request: web.Request) -> web.Response:
        _, _, text = request.path.rpartition("/")
        if request.method != "PUT" or not text.isdigit() or not 1 <= int(text) <= EDITIONS:
            return web.Response(status=400, text=f"PUT /edition/1 to /edition/{EDITIONS}\n")
        self.edition = int(text)
        return web.Response(text=f"edition {text}\n")


class Certificates:
    """What every host shows in an edition: a certificate of the authority (its own ends when the site's ``certificate_days`` are over), or one
    that does not hold: ``expired``, ``name`` (of another host), ``untrusted``, ``weak`` (a short key), ``none`` (no https at all), ``old`` (TLS 1.0 too).
    """

    def __init__(self, simulated: SimulatedWeb) -> None:
        self.simulated = simulated
        self.authority = trustme.CA()
        self.stranger = trustme.CA(organization_name="Nobody in particular")
        self.shown = lru_cache(maxsize=64)(self._shown)

    def context(self) -> ssl.SSLContext:
        """A server context that chooses by the name that is asked for."""
        chosen = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        _be_lenient(chosen)
        self.authority.issue_cert(CONTROL, FEED_HOST, REGISTRY_HOST).configure_cert(chosen)

        def by_name(connection: ssl.SSLObject, name: str | None, _context: ssl.SSLContext) -> int | None:
            host = (name or "").removeprefix("www.")
            if host not in SITES:
                return None
            site = build(host, self.simulated.edition)
            if site.certificate == "none":
                return ssl.ALERT_DESCRIPTION_HANDSHAKE_FAILURE
            connection.context = self.shown(host, site.certificate, site.certificate_days)
            return None

        chosen.sni_callback = by_name
        return chosen

    def _shown(self, host: str, kind: str, days: int) -> ssl.SSLContext:
        context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        if kind == "old":
            _be_lenient(context)
        issuer = self.stranger if kind == "untrusted" else self.authority
        names = ("parked.example",) if kind == "name" else (host, f"www.{host}")
        ends = datetime.now(UTC) + (timedelta(days=-60) if kind == "expired" else timedelta(days=days, hours=6))
        begins = ends - timedelta(days=300)
        if kind == "weak":
            context.set_ciphers("DEFAULT:@SECLEVEL=0")
            _configure_weak(context, self.authority, host, begins, ends)
        else:
            issuer.issue_cert(*names, not_before=begins, not_after=ends).configure_cert(context)
        return context


def _be_lenient(context: ssl.SSLContext) -> None:
    """Accept what servers accepted long ago."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", DeprecationWarning)
        context.minimum_version = ssl.TLSVersion.TLSv1
    context.set_ciphers("DEFAULT:@SECLEVEL=0")


def _configure_weak(context: ssl.SSLContext, authority: trustme.CA, host: str, begins: datetime, ends: datetime) -> None:
    """Give a context a certificate of the authority for an RSA key of 1,024 bits."""
    signer = serialization.load_pem_private_key(authority.private_key_pem.bytes(), None)
    issuer = x509.load_pem_x509_certificate(authority.cert_pem.bytes())
    if not isinstance(signer, ec.EllipticCurvePrivateKey | rsa.RSAPrivateKey):
        raise TypeError("the test authority signs with another kind of key")
    key = rsa.generate_private_key(65537, 1024)
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, host)])
    made = x509.CertificateBuilder(issuer.subject, subject, key.public_key(), x509.random_serial_number(), begins, ends)
    made = made.add_extension(x509.SubjectAlternativeName([x509.DNSName(host), x509.DNSName(f"www.{host}")]), critical=False)
    form = serialization.PrivateFormat.PKCS8
    pem = key.private_bytes(serialization.Encoding.PEM, form, serialization.NoEncryption())
    pem += made.sign(signer, hashes.SHA256()).public_bytes(serialization.Encoding.PEM)
    with NamedTemporaryFile(suffix=".pem") as file:
        file.write(pem)
        file.flush()
        context.load_cert_chain(file.name)


async def serve(folder: Path, http_port: int, https_port: int) -> None:
    """Serve until the parent process is gone."""
    application = web.Application()
    simulated = SimulatedWeb(folder / FEEDS)
    application.router.add_route("*", "/{path:.*}", simulated.answer)
    runner = web.AppRunner(application, access_log=None)
    await runner.setup()
    await web.TCPSite(runner, "127.0.0.1", http_port).start()
    certificates = Certificates(simulated)
    certificates.authority.cert_pem.write_to_path(str(folder / "ca.pem"))
    await web.TCPSite(runner, "127.0.0.1", https_port, ssl_context=certificates.context()).start()
    (folder / "web.ready").write_text(str(os.getpid()))
    parent = os.getppid()
    while os.getppid() == parent:
        await asyncio.sleep(1)


if __name__ == "__main__":
    asyncio.run(serve(Path(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3])))
