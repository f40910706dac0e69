"""A stand-in for a figure feed: serves rows from a folder by the protocol of ``docs/figure-feed.md``. It can be made to misbehave."""

from __future__ import annotations

import asyncio
import gzip
import hashlib
import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from aiohttp import web

from hodcarrier.core.states import FigureKind

FEED_HOST = "figures.cobble-lantern.example"
FEED_TOKEN = "a-token-of-the-demo"
SETTLE_DAYS = 3
_DAYS = ("day", "first_seen", "last_seen", "lost_on")
Row = Mapping[str, Any]


def write_rows(folder: Path, kind: FigureKind, rows: Iterable[Row]) -> None:
    """Put rows of a kind where the stand-in finds them."""
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / f"{kind}.jsonl").open("w") as file:
        file.writelines(json.dumps(row) + "\n" for row in rows)


@dataclass
class FeedStandIn:
    """Serves the rows in ``folder/NAME``, ``page_rows`` at a time, to whoever has the token. ``manner`` is how it misbehaves: ``slow`` drips, ``cut`` breaks off in the
    middle of an answer, ``open`` leaves the closing line away, ``wrong`` sends a row that is none, ``late`` has nothing new, ``busy`` asks for patience, ``down`` fails.
    ``left`` is how many answers it misbehaves for (below 0: all). ``asked`` notes every question."""

    folder: Path
    page_rows: int = 2_000
    manner: str = ""
    left: int = -1
    asked: list[str] = field(default_factory=list)
    _known: dict[Path, tuple[float, list[Row]]] = field(default_factory=dict)

    async def answer(self, request: web.Request) -> web.StreamResponse:
        """One answer."""
        self.asked.append(request.path_qs)
        if request.headers.get("Authorization") != f"Bearer {FEED_TOKEN}":
            return web.Response(status=401, text="the token is wrong\n", headers={"WWW-Authenticate": "Bearer"})
        parts = request.path.strip("/").split("/")
        folder = self.folder / parts[0] if len(parts) == 3 and parts[1] == "v1" and ".." not in parts[0] else None
        if folder is None or not folder.is_dir():
            return web.Response(status=404, text="no such feed\n")
        manner = self.manner if self.left else ""
        if manner:
            self.left -= 1
        if manner == "busy":
            return web.Response(status=429, text="not so fast\n", headers={"Retry-After": "3600" if self.left < 0 else "1"})
        if manner == "down":
            return web.Response(status=503, text="the store is being tidied\n")
        if parts[2] == "manifest":
            return _tagged(request, json.dumps(self._manifest(folder)), "application/json")
        if parts[2] not in list(FigureKind) or not (folder / f"{parts[2]}.jsonl").is_file():
            return web.Response(status=404, text="no such figures\n")
        return await self._page(request, folder / f"{parts[2]}.jsonl", manner)

    def _rows(self, path: Path) -> list[Row]:
        written = path.stat().st_mtime
        if self._known.get(path, (0.0, []))[0] != written:
            self._known[path] = (written, [json.loads(line) for line in path.read_text().splitlines()])
        return self._known[path][1]

    def _manifest(self, folder: Path) -> dict[str, Any]:
        kinds = {}
        for path in sorted(folder.glob("*.jsonl")):
            days = sorted({day for row in self._rows(path) for day in _days_of(row)})
            if days:
                kinds[path.stem] = {"first": days[0], "last": days[-1], "settle_days": SETTLE_DAYS}
        return {"site": folder.name, "kinds": kinds}

    async def _page(self, request: web.Request, path: Path, manner: str) -> web.StreamResponse:
        first, last, after = (request.query.get(name, "") for name in ("from", "to", "after"))
        chosen = [row for row in self._rows(path) if any(first <= day <= last for day in _days_of(row))]
        begin = int(after) if after.isdecimal() else 0
        rows: Sequence[Row] = chosen[begin : begin + self.page_rows]
        following = str(begin + self.page_rows) if begin + self.page_rows < len(chosen) else None
        lines = [json.dumps(row) for row in rows]
        if manner == "wrong" and lines:
            lines[-1] = json.dumps({**rows[-1], "clicks": "many", "sessions": "many", "rank": "many"})
        if manner != "open":
            lines.append(json.dumps({"rows": len(rows), "after": following}))
        text = "\n".join(lines) + "\n"
        if manner in ("slow", "cut"):
            return await _drip(request, text, whole=manner == "slow")
        return _tagged(request, text, "application/jsonl")


def _days_of(row: Row) -> list[str]:
    return [row[name] for name in _DAYS if row.get(name)]


def _tagged(request: web.Request, text: str, content_type: str) -> web.Response:
    """An answer with its entity tag, packed where that is understood; none where it is known already (RFC 9110, 13.1.2)."""
    tag = f'"{hashlib.sha256(text.encode()).hexdigest()[:24]}"'
    if request.headers.get("If-None-Match") == tag:
        return web.Response(status=304, headers={"ETag": tag})
    packed = "gzip" in request.headers.get("Accept-Encoding", "")
    body = gzip.compress(text.encode(), 3, mtime=0) if packed else text.encode()
    headers = {"ETag": tag, **({"Content-Encoding": "gzip"} if packed else {})}
    return web.Response(body=body, content_type=content_type, headers=headers)


async def _drip(request: web.Request, text: str, *, whole: bool) -> web.StreamResponse:
    """An answer in small parts; one that is not ``whole`` breaks off in the middle."""
    answer = web.StreamResponse(headers={"Content-Type": "application/jsonl"})
    answer.enable_chunked_encoding()
    await answer.prepare(request)
    body = text.encode()
    for place in range(0, len(body) if whole else len(body) // 2, 64):
        await answer.write(body[place : place + 64])
        await asyncio.sleep(0)
    if not whole and request.transport is not None:
        request.transport.abort()
    return answer
