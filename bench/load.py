"""``make bench LOAD=1``: fifty people at their screens while four sites are crawled, for two minutes.

Each person looks at the desk, at findings and at pages in turn, with a pause as people make them. What counts is how long the slowest
twentieth of each waits, and that nothing fails.
"""

from __future__ import annotations

import asyncio
import random
import time
from collections import defaultdict
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from statistics import median, quantiles

import httpx

from hodcarrier.client import Hodcarrier
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.plans import PlanBody
from hodcarrier.wire.sites import SiteBody
from tests.running import free_ports, start_service

PEOPLE, CRAWLS, QUIET_SITES = 50, 4, 16
SECONDS = 120.0
PAUSE_S = 2.0
WANTED_MS = 300.0


@contextmanager
def service(data: Path) -> Iterator[tuple[str, str]]:
    """The service with four workers; its address and an owner's token."""
    found = start_service(data, free_ports(1), workers=str(CRAWLS))
    try:
        yield found.url, found.token
    finally:
        found.process.terminate()
        found.process.wait(60)


def prepare(desk: Hodcarrier, addresses: list[str]) -> list[int]:
    """Sites with a finished audit each; gives those that are to be crawled meanwhile."""
    plan = {"private_addresses": ["127.0.0.1"], "rate_per_s": 1000, "parallel": 8}
    busy = []
    for number in range(CRAWLS + QUIET_SITES):
        client = desk.add_client(ClientBody(name=f"Client {number}"))
        pages = 2_000 if number < CRAWLS else 100
        site = desk.add_site(SiteBody(client_id=client.id, address=addresses[number % CRAWLS], plan={**plan, "pages_max": pages}))
        busy += [site.id] * (number < CRAWLS)
        desk.start_run(site.id)
    for run in desk.list_runs():
        done = desk.wait_for_run(run.id, every_s=0.2)
        if done.state != "done":
            raise SystemExit(f"A run failed: {done.reason}")
    return busy


async def look(url: str, token: str, sites: list[int]) -> dict[str, list[float]]:
    """Fifty people for two minutes; gives the milliseconds of each kind of request. Raises what any of them met."""
    taken: dict[str, list[float]] = defaultdict(list)
    began = time.monotonic()
    async with httpx.AsyncClient(
        base_url=f"{url}/api/v1",
        headers={"Authorization": f"Bearer {token}"},
        timeout=60,
        limits=httpx.Limits(max_connections=PEOPLE),
    ) as client:

        async def person(number: int) -> None:
            draw = random.Random(number)
            kinds = ["desk", "findings", "pages"]
            await asyncio.sleep(draw.uniform(0, PAUSE_S))
            while time.monotonic() - began < SECONDS:
                kind, run = draw.choice(kinds), f"latest-{draw.choice(sites)}"
                path = "/desk" if kind == "desk" else f"/runs/{run}/{kind}?limit=100"
                sent = time.perf_counter()
                (await client.get(path)).raise_for_status()
                taken[kind].append((time.perf_counter() - sent) * 1000)
                await asyncio.sleep(draw.expovariate(1 / PAUSE_S))

        await asyncio.gather(*(person(number) for number in range(PEOPLE)))
    return taken


def measure(folder: Path, served: Callable[[int, int], object], pages: int) -> int:
    """Measure and print; 1 when somebody waited too long."""
    with ExitStack() as stack:
        addresses = [stack.enter_context(served(pages, 9)) for _ in range(CRAWLS)]  # type: ignore[arg-type]
        url, token = stack.enter_context(service(folder))
        with Hodcarrier(url, token) as desk:
            sites = prepare(desk, addresses)
            for site in sites:
                desk.change_plan(site, PlanBody(values={"pages_max": pages, "rate_per_s": 60.0}))
            runs = [desk.start_run(site).id for site in sites]
            taken = asyncio.run(look(url, token, sites))
            states = [desk.get_run(run).state for run in runs]
    slow = False
    for kind, times in sorted(taken.items()):
        late = quantiles(times, n=20)[-1]
        slow = slow or late > WANTED_MS
        print(
            f"{kind}: {len(times):,} requests, median {median(times):.0f} ms, 95 of 100 within {late:.0f} ms, wanted {WANTED_MS:.0f}"
        )
    print(
        f"{PEOPLE} people, {SECONDS:.0f} s, {sum(map(len, taken.values())):,} requests without an error; runs were {', '.join(states)}"
    )
    return int(slow)
