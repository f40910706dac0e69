"""What probes ask with: the plan, the fetcher with its pace, and robots.txt."""

from __future__ import annotations

from collections.abc import Awaitable, Callable
from dataclasses import dataclass

from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.plan import Plan
from hodcarrier.core.web.urls import Parts, is_web, normalize, split
from hodcarrier.crawl.fetch import Fetched, Fetcher

HOPS_MAX = 5
BODY_BYTES = 65_536


@dataclass(frozen=True)
class Question:
    """``verdict`` says whether robots.txt lets our agent fetch a URL."""

    plan: Plan
    fetcher: Fetcher
    verdict: Callable[[str], Awaitable[tuple[bool, str]]]

    @property
    def start(self) -> Parts:
        """The parts of the start URL."""
        return split(self.plan.start[0])

    @property
    def on_default_port(self) -> bool:
        """Whether the site is where http and https usually are; elsewhere nobody knows its other forms."""
        return self.start.port in (80, 443)

    def reaches(self, host: str, port: int) -> bool:
        """Whether a host may be asked: where hosts are mapped, only mapped ones are part of the surroundings."""
        return not self.plan.host_map or f"{host}:{port}" in self.plan.host_map

    async def allowed(self, url: str) -> bool:
        """Whether the plan and robots.txt let us ask for a URL."""
        return not self.plan.obey_robots or (await self.verdict(url))[0]

    async def follow(self, url: str) -> tuple[Fetched, str]:
        """The answer at the end of a URL's redirects, and the URL it came from."""
        fetched = await self.fetcher.get(url, bytes_max=BODY_BYTES)
        for _ in range(HOPS_MAX):
            if not fetched.location:
                break
            try:
                following = normalize(fetched.location, url)
            except InvalidUrl:
                break
            if not is_web(following):
                break
            url, fetched = following, await self.fetcher.get(following, bytes_max=BODY_BYTES)
        return fetched, url
