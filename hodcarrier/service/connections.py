"""How long a connection may take, how many there may be, and whose word counts for where one comes from."""

from __future__ import annotations

import asyncio
import gc
from types import FrameType
from typing import Any

import h11
import uvicorn
from fastapi import FastAPI
from uvicorn.protocols.http.h11_impl import H11Protocol

from hodcarrier.service.settings import Settings

# A browser sends the head of a request at once; whoever takes longer holds a place for nothing.
HEAD_S = 15.0
CONNECTIONS_MAX = 512
# What is being answered when the service is told to end may go on so long; whoever sends half a request would hold it for a minute.
GRACE_S = 8
# So many objects more than were given up, before the young ones are looked through: one request for the desk makes thousands.
COLLECT_AFTER = 20_000
TOO_SLOW = b"HTTP/1.1 408 Request Timeout\r\nconnection: close\r\ncontent-length: 0\r\n\r\n"


class PatientProtocol(H11Protocol):
    """HTTP/1.1 that waits so long for the head of a request and no longer, however slowly it trickles in."""

    _head_timer: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """A connection is there: its first request is waited for."""
        super().connection_made(transport)
        self._watch_head()

    def data_received(self, data: bytes) -> None:
        """Some bytes came: is the head of the request whole?"""
        super().data_received(data)
        self._watch_head()

    def connection_lost(self, exc: Exception | None) -> None:
        """Nothing is waited for any more."""
        self._stop_watching()
        super().connection_lost(exc)

    def _watch_head(self) -> None:
        if self.conn.their_state is not h11.IDLE:
            self._stop_watching()
        elif self._head_timer is None:
            self._head_timer = self.loop.call_later(HEAD_S, self._give_up)

    def _stop_watching(self) -> None:
        if self._head_timer is not None:
            self._head_timer.cancel()
            self._head_timer = None

    def _give_up(self) -> None:
        self._head_timer = None
        if not self.transport.is_closing():
            self.transport.write(TOO_SLOW)
            self.transport.close()


class PromptServer(uvicorn.Server):
    """A server that tells streams of events to end when the process is told to: else it would wait for whoever listens to go."""

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """The process is told to end."""
        app: Any = self.config.app
        app.state.counts.ended = True
        super().handle_exit(sig, frame)


def serve(app: FastAPI, settings: Settings) -> None:
    """Serve until the process is told to end.

    What was loaded until now stays for good: without the freeze, every full round of the collector looks through all of it, and whoever asks in
    that moment waits 150 ms more.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(COLLECT_AFTER, 20, 20)
    PromptServer(uvicorn.Config(app, **server_options(settings))).run()


def server_options(settings: Settings) -> dict[str, Any]:
    """How the service is served: bounded in time and number, believing the proxies that are named and nobody else."""
    return {
        "host": settings.host,
        "port": settings.port,
        "log_level": "warning",
        "server_header": False,
        "http": PatientProtocol,
        "limit_concurrency": CONNECTIONS_MAX,
        "timeout_graceful_shutdown": GRACE_S,
        "proxy_headers": True,
        "forwarded_allow_ips": settings.trusted_proxies,
    }
