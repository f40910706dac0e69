"""The bare loop that the crawl is measured against: the same HTTP client and parser fetch the same pages at the same
parallelism, resolve links by the WHATWG rules, and keep nothing but the addresses."""

from __future__ import annotations

import asyncio

import ada_url
import aiohttp
from selectolax.lexbor import LexborHTMLParser
from yarl import URL


async def crawl(start: str, parallel: int) -> int:
    """Fetch every page that can be reached; returns how many."""
    queue: asyncio.Queue[str] = asyncio.Queue()
    seen = {start}
    queue.put_nowait(start)
    fetched = 0

    async def work(session: aiohttp.ClientSession) -> None:
        nonlocal fetched
        while True:
            url = await queue.get()
            async with session.get(URL(url, encoded=True), allow_redirects=False) as response:
                body = await response.read()
            fetched += 1
            resolved: dict[str, str] = {}
            for node in LexborHTMLParser(body).css("a[href]"):
                href = node.attributes["href"] or ""
                if href not in resolved:
                    try:
                        resolved[href] = ada_url.join_url(url, href).partition("#")[0]
                    except ValueError:
                        resolved[href] = ""
            for target in resolved.values():
                if target not in seen and target.startswith(start):
                    seen.add(target)
                    queue.put_nowait(target)
            queue.task_done()

    async with aiohttp.ClientSession(connector=aiohttp.TCPConnector(limit=0), trust_env=False) as session:
        tasks = [asyncio.create_task(work(session)) for _ in range(parallel)]
        done = asyncio.create_task(queue.join())
        await asyncio.wait([done, *tasks], return_when=asyncio.FIRST_COMPLETED)
        for task in tasks:
            if task.done():
                task.result()  # the site is gone
            task.cancel()
        await asyncio.gather(*tasks, return_exceptions=True)
    return fetched
