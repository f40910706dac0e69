"""The courier: brings webhooks their messages over HTTP, several at once, in a thread of its own."""

from __future__ import annotations

import asyncio
from collections.abc import Sequence
from dataclasses import dataclass

import aiohttp
import structlog

from hodcarrier import __version__
from hodcarrier.core.signing import signature_headers
from hodcarrier.crawl.guard import Guard, GuardedResolver, RefusedAddress
from hodcarrier.usecases import webhooks
from hodcarrier.usecases.webhooks import Parcel
from hodcarrier.usecases.workspace import Workspace

EVERY_S = 1.0
TIMEOUT_S = 15
GONE = 410
SHOWN_CHARS = 200
log = structlog.get_logger()


def deliver_due(work: Workspace, guard: Guard) -> int:
    """Send what is due, each message by itself: what one meets is noted on it. Returns how many were taken."""
    return asyncio.run(_deliver(work, guard, parcels)) if (parcels := webhooks.claim_due(work)) else 0


async def _deliver(work: Workspace, guard: Guard, parcels: Sequence[Parcel]) -> int:
    connector = aiohttp.TCPConnector(resolver=GuardedResolver({}, guard), use_dns_cache=False, force_close=True)
    timeout = aiohttp.ClientTimeout(total=TIMEOUT_S)
    async with aiohttp.ClientSession(connector=connector, timeout=timeout, auto_decompress=False) as client:
        outcomes = await asyncio.gather(*(_send(client, work, guard, parcel) for parcel in parcels))
    for parcel, outcome in zip(parcels, outcomes, strict=True):
        if outcome.error:
            log.warning("webhook not told", webhook=parcel.webhook_id, error=outcome.error)
            webhooks.note_refused(work, parcel, outcome.status, outcome.error, gone=outcome.status == GONE)
        else:
            webhooks.note_taken(work, parcel, outcome.status or 0)
    return sum(not outcome.error for outcome in outcomes)


@dataclass(frozen=True)
class _Outcome:
    """What a receiver answered; ``error`` is empty when it took the message."""

    status: int | None
    error: str


async def _send(client: aiohttp.ClientSession, work: Workspace, guard: Guard, parcel: Parcel) -> _Outcome:
    if why := guard.why_refused(parcel.url):
        return _Outcome(None, f"Not sent: {why}.")
    headers = {
        "Content-Type": "application/json",
        "User-Agent": f"Hodcarrier/{__version__}",
        **signature_headers(parcel.secrets, parcel.message_id, work.now(), parcel.body),
    }
    try:
        async with client.post(parcel.url, data=parcel.body, headers=headers, allow_redirects=False) as answer:
            if 200 <= answer.status < 300:
                return _Outcome(answer.status, "")
            said = (await answer.content.read(SHOWN_CHARS)).decode(errors="replace").strip()
            return _Outcome(answer.status, f"The receiver answered {answer.status}." + (f" It said: {said}" if said else ""))
    except TimeoutError:
        return _Outcome(None, f"The receiver did not answer within {TIMEOUT_S} s.")
    except RefusedAddress as error:
        return _Outcome(None, f"Not sent: {error}.")
    except (aiohttp.ClientError, OSError) as error:
        refused = error.__cause__ or error.__context__
        said = str(refused) if isinstance(refused, RefusedAddress) else str(error) or type(error).__name__
        return _Outcome(None, f"The receiver cannot be reached: {said}.")
