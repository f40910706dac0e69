"""The simulated web: all made-up sites behind HTTP and HTTPS on loopback, told apart by host name.

Run as ``python -m hodcarrier.demo.web FOLDER HTTP_PORT HTTPS_PORT``. The folder receives ``ca.pem``, the throw-away test
authority. ``PUT /edition/N`` on the host ``control.example`` turns all sites to an edition.
"""

from __future__ import annotations

import asyncio
import gzip
import os
import ssl
import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path

import trustme
from aiohttp import web

from hodcarrier.demo.sites import EDITIONS, SITES, build

CONTROL = "control.example"
HTML_TYPES = ("text/html", "text/css", "application/xml", "text/plain")


class SimulatedWeb:
    """Answers for every host in the edition that is on."""

    def __init__(self) -> None:
        self.edition = EDITIONS

    async def answer(self, request: web.Request) -> web.StreamResponse:
        """One answer; http redirects to https, unknown paths answer 404."""
        host = request.host.partition(":")[0]
        if host == CONTROL:
            return self._control(request)
        if host not in SITES:
            return web.Response(status=421, text="no such site\n")
        if not request.secure:
            return web.Response(status=301, headers={"Location": f"https://{host}{request.raw_path}"})
        resources, compresses = build(host, self.edition)
        resource = resources.get(request.raw_path.partition("?")[0])
        if resource is None:
            return web.Response(
                status=404,
                text="<!doctype html><html lang=en><title>Not found</title><h1>Not found</h1>",
                content_type="text/html",
            )
        if resource.wait_s:
            await asyncio.sleep(resource.wait_s)
        headers = {"Content-Type": resource.content_type, **dict(resource.headers)}
        body = resource.body
        if (
            compresses
            and "gzip" in request.headers.get("Accept-Encoding", "")
            and resource.content_type.partition(";")[0] in HTML_TYPES
        ):
            body = gzip.compress(body, 3, mtime=0)
            headers["Content-Encoding"] = "gzip"
        return web.Response(status=resource.status, body=body, headers=headers)

    def _control(self, request: web.Request) -> web.Response:
        _, _, text = request.path.rpartition("/")
        if request.method != "PUT" or not text.isdigit() or not 1 <= int(text) <= EDITIONS:
            return web.Response(status=400, text=f"PUT /edition/1 to /edition/{EDITIONS}\n")
        self.edition = int(text)
        return web.Response(text=f"edition {text}\n")


def make_contexts(folder: Path) -> ssl.SSLContext:
    """A server context that shows every host its own certificate, and the authority's certificate in the folder."""
    authority = trustme.CA()
    authority.cert_pem.write_to_path(str(folder / "ca.pem"))
    contexts = {}
    for host, make in SITES.items():
        context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        ends = datetime.now(UTC) + timedelta(days=make(EDITIONS).certificate_days, hours=6)
        authority.issue_cert(host, not_after=ends).configure_cert(context)
        contexts[host] = context
    chosen = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    authority.issue_cert(CONTROL).configure_cert(chosen)

    def by_name(connection: ssl.SSLObject, name: str | None, _context: ssl.SSLContext) -> None:
        if name in contexts:
            connection.context = contexts[name]

    chosen.sni_callback = by_name
    return chosen


async def serve(folder: Path, http_port: int, https_port: int) -> None:
    """Serve until the parent process is gone."""
    application = web.Application()
    simulated = SimulatedWeb()
    application.router.add_route("*", "/{path:.*}", simulated.answer)
    runner = web.AppRunner(application, access_log=None)
    await runner.setup()
    await web.TCPSite(runner, "127.0.0.1", http_port).start()
    await web.TCPSite(runner, "127.0.0.1", https_port, ssl_context=make_contexts(folder)).start()
    (folder / "web.ready").write_text(str(os.getpid()))
    parent = os.getppid()
    while os.getppid() == parent:
        await asyncio.sleep(1)


if __name__ == "__main__":
    asyncio.run(serve(Path(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3])))
