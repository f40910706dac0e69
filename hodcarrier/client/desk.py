"""The two clients: every operation of the service as a method, and what programs do with several of them."""

from __future__ import annotations

import asyncio
import time
from collections.abc import AsyncIterator, Callable, Iterator, Sequence

import httpx

from hodcarrier.client.calls.catalogue import AsyncCatalogue, Catalogue
from hodcarrier.client.calls.clients import AsyncClients, Clients
from hodcarrier.client.calls.feeds import AsyncFeeds, Feeds
from hodcarrier.client.calls.figures import AsyncFigures, Figures
from hodcarrier.client.calls.files import AsyncFiles, Files
from hodcarrier.client.calls.inventory import AsyncInventory, Inventory
from hodcarrier.client.calls.mail import AsyncMail, Mail
from hodcarrier.client.calls.pages import AsyncPages, Pages
from hodcarrier.client.calls.people import AsyncPeople, People
from hodcarrier.client.calls.plans import AsyncPlans, Plans
from hodcarrier.client.calls.profiles import AsyncProfiles, Profiles
from hodcarrier.client.calls.reports import AsyncReports, Reports
from hodcarrier.client.calls.runs import AsyncRuns, Runs
from hodcarrier.client.calls.setups import AsyncSetups, Setups
from hodcarrier.client.calls.sheets import AsyncSheets, Sheets
from hodcarrier.client.calls.sitemaps import AsyncSitemaps, Sitemaps
from hodcarrier.client.calls.sites import AsyncSites, Sites
from hodcarrier.client.calls.standings import AsyncStandings, Standings
from hodcarrier.client.calls.structure import AsyncStructure, Structure
from hodcarrier.client.calls.todos import AsyncTodos, Todos
from hodcarrier.client.calls.webhooks import AsyncWebhooks, Webhooks
from hodcarrier.client.calls.work import AsyncWork, Work
from hodcarrier.client.connection import ENDED, problem_of
from hodcarrier.client.errors import RequestFailed
from hodcarrier.wire.changes import ChangesOut
from hodcarrier.wire.runs import RunOut
from hodcarrier.wire.sites import SiteOut

EVENTS_TIMEOUT = httpx.Timeout(60, read=60)
_DATA = "data: "


SITES_NAMED = 12


def choose_site(found: Sequence[SiteOut], key: str | int) -> SiteOut:
    """A site by id, host or the unique beginning of its host. Raises :class:`LookupError` naming what there is."""
    text = str(key)
    exact = [s for s in found if text in (str(s.id), s.host)]
    near = exact or [s for s in found if s.host.startswith(text)]
    if len(near) == 1:
        return near[0]
    rows = near or found
    said = ", ".join(f"{s.host} (id {s.id}, {s.client_name})" for s in rows[:SITES_NAMED]) or "none yet"
    more = f" and {len(rows) - SITES_NAMED} more" if len(rows) > SITES_NAMED else ""
    what = f"{len(near)} sites {'have the host' if exact else 'begin with'}" if near else "No site begins with"
    raise LookupError(f"{what} “{text}”. Give the id of one: {said}{more}.")


class Hodcarrier(
    People,
    Clients,
    Setups,
    Sites,
    Plans,
    Profiles,
    Runs,
    Inventory,
    Figures,
    Standings,
    Feeds,
    Sheets,
    Pages,
    Structure,
    Sitemaps,
    Todos,
    Work,
    Reports,
    Mail,
    Webhooks,
    Files,
    Catalogue,
):
    """A connection to a service. Use it as a context manager, or call :meth:`close`.

    Every method raises :class:`RequestFailed` with the service's problem document, or :class:`Unreachable`.
    A ``run_id`` may be ``latest-7``, for the latest run of site 7.
    """

    def __enter__(self) -> Hodcarrier:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def find_site(self, key: str | int) -> SiteOut:
        """A site by id, host or the unique beginning of its host. Raises :class:`LookupError` naming what there is."""
        return choose_site(self.list_sites(), key)

    def watch_run(self, run_id: str) -> Iterator[RunOut]:
        """A run as it goes: one value whenever its state or progress changes, the last when it has ended."""
        for said in self._events(f"/runs/{run_id}/events"):
            yield RunOut.model_validate_json(said)

    def watch_changes(self, seconds: int = 600) -> Iterator[ChangesOut]:
        """The lists that have changed: one value whenever something was made, changed or removed, for so many seconds at most."""
        for said in self._events(f"/changes?seconds={seconds}"):
            yield ChangesOut.model_validate_json(said)

    def _events(self, path: str) -> Iterator[str]:
        with self._http.stream("GET", path, timeout=EVENTS_TIMEOUT) as response:
            if response.status_code >= 400:
                response.read()
                raise RequestFailed(problem_of(response))
            for line in response.iter_lines():
                if line.startswith(_DATA):
                    yield line.removeprefix(_DATA)

    def wait_for_run(self, run_id: str, progress: Callable[[RunOut], None] = lambda _run: None, every_s: float = 0.5) -> RunOut:
        """Wait until a run has ended; ``progress`` is called with each change. A connection that breaks is made anew."""
        while True:
            try:
                for found in self.watch_run(run_id):
                    progress(found)
            except httpx.TransportError:
                time.sleep(every_s)
            found = self.get_run(run_id)
            if found.state in ENDED:
                progress(found)
                return found


class AsyncHodcarrier(
    AsyncPeople,
    AsyncClients,
    AsyncSetups,
    AsyncSites,
    AsyncPlans,
    AsyncProfiles,
    AsyncRuns,
    AsyncInventory,
    AsyncFigures,
    AsyncStandings,
    AsyncFeeds,
    AsyncSheets,
    AsyncPages,
    AsyncStructure,
    AsyncSitemaps,
    AsyncTodos,
    AsyncWork,
    AsyncReports,
    AsyncMail,
    AsyncWebhooks,
    AsyncFiles,
    AsyncCatalogue,
):
    """Like :class:`Hodcarrier`, for asynchronous programs."""

    async def __aenter__(self) -> AsyncHodcarrier:
        return self

    async def __aexit__(self, *_: object) -> None:
        await self.close()

    async def find_site(self, key: str | int) -> SiteOut:
        """A site by id, host or the unique beginning of its host. Raises :class:`LookupError` naming what there is."""
        return choose_site(await self.list_sites(), key)

    async def watch_run(self, run_id: str) -> AsyncIterator[RunOut]:
        """A run as it goes: one value whenever its state or progress changes, the last when it has ended."""
        async for said in self._events(f"/runs/{run_id}/events"):
            yield RunOut.model_validate_json(said)

    async def watch_changes(self, seconds: int = 600) -> AsyncIterator[ChangesOut]:
        """The lists that have changed: one value whenever something was made, changed or removed, for so many seconds at most."""
        async for said in self._events(f"/changes?seconds={seconds}"):
            yield ChangesOut.model_validate_json(said)

    async def _events(self, path: str) -> AsyncIterator[str]:
        async with self._http.stream("GET", path, timeout=EVENTS_TIMEOUT) as response:
            if response.status_code >= 400:
                await response.aread()
                raise RequestFailed(problem_of(response))
            async for line in response.aiter_lines():
                if line.startswith(_DATA):
                    yield line.removeprefix(_DATA)

    async def wait_for_run(self, run_id: str, every_s: float = 0.5) -> RunOut:
        """Wait until a run has ended. A connection that breaks is made anew."""
        while True:
            try:
                async for _ in self.watch_run(run_id):
                    pass
            except httpx.TransportError:
                await asyncio.sleep(every_s)
            found = await self.get_run(run_id)
            if found.state in ENDED:
                return found
