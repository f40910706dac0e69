"""The puller: fetches what feeds of figures have that is new, several at once, in a thread of its own."""

from __future__ import annotations

import asyncio
import json
from collections.abc import Iterator
from datetime import date
from tempfile import TemporaryFile
from typing import IO, Any
from urllib.parse import urlencode

import structlog

from hodcarrier.core.errors import HodcarrierError, InvalidInput
from hodcarrier.core.figures.feed import VERSION, Manifest, Offer, Week, check_site, read_manifest, read_page, weeks_to_ask
from hodcarrier.core.states import FigureKind
from hodcarrier.figurefile.documents import ROWS_MAX
from hodcarrier.service.outside import Answer, Asker, Reach, Unanswered
from hodcarrier.usecases import figure_feeds
from hodcarrier.usecases.figure_feeds import Job
from hodcarrier.usecases.workspace import Workspace

EVERY_S = 5.0
_JSON, _LINES = "application/json", "application/jsonl"
_UNCHANGED = 304
log = structlog.get_logger()


def pull_due(work: Workspace, reach: Reach) -> int:
    """Ask the feeds that are due, each by itself: what one meets is noted on it. Returns how many went well."""
    jobs = figure_feeds.claim_due(work)
    return asyncio.run(_pull_all(work, reach, jobs)) if jobs else 0


async def _pull_all(work: Workspace, reach: Reach, jobs: list[Job]) -> int:
    async with reach.open() as asker:
        ended = await asyncio.gather(*(_try(work, asker, job) for job in jobs))
    return sum(ended)


async def _try(work: Workspace, asker: Asker, job: Job) -> bool:
    try:
        await _pull(work, asker, job)
    except Unanswered as error:
        figure_feeds.note_failed(work, job, str(error), error.asks_for_s)
    except HodcarrierError as error:
        figure_feeds.note_failed(work, job, f"{error.message} {error.hint}".strip())
    except Exception as error:
        log.exception("a feed could not be pulled", feed=job.id)
        figure_feeds.note_failed(work, job, f"It could not be taken in: {error or type(error).__name__}")
    else:
        figure_feeds.note_went_well(work, job)
        return True
    return False


async def _pull(work: Workspace, asker: Asker, job: Job) -> None:
    """Everything that is new, week by week: what was taken in stays when a later week fails."""
    base = f"{job.url.rstrip('/')}/{VERSION}"
    answer = await asker.get(f"{base}/manifest", _JSON, job.token, job.tag)
    manifest = job.manifest
    if answer.status != _UNCHANGED:
        _check(answer, "the manifest")
        manifest = read_manifest(answer.text)
        check_site(manifest, job.host)
    figure_feeds.note_manifest(work, job, manifest, answer.tag or job.tag)
    if answer.status == _UNCHANGED and _has_all(job, manifest):
        return
    for kind, offer in _wanted(job, manifest).items():
        for week in weeks_to_ask(offer, job.until.get(kind)):
            await _pull_week(work, asker, job, kind, offer, week)


def _wanted(job: Job, manifest: Manifest) -> dict[FigureKind, Offer]:
    return {kind: offer for kind, offer in manifest.offers.items() if not job.kinds or kind in job.kinds}


def _has_all(job: Job, manifest: Manifest) -> bool:
    return all(job.until.get(kind, date.min) >= offer.last for kind, offer in _wanted(job, manifest).items())


async def _pull_week(work: Workspace, asker: Asker, job: Job, kind: FigureKind, offer: Offer, week: Week) -> None:
    what = f"{kind} of the week from {week.first}"
    with TemporaryFile("w+", encoding="utf-8") as spool:
        tag = await _fetch_week(asker, job, kind, week, spool)
        if tag is None:
            figure_feeds.note_unchanged(work, job, kind, offer, week)
            return
        spool.seek(0)
        try:
            await asyncio.to_thread(figure_feeds.take_in_week, work, job, kind, offer, week, _rows_of(spool), tag)
        except InvalidInput as error:
            raise InvalidInput(f"{what.capitalize()}: {error.message}", error.hint) from None


async def _fetch_week(asker: Asker, job: Job, kind: FigureKind, week: Week, spool: IO[str]) -> str | None:
    """Put the rows of a week into a file. Returns the entity tag of the first page; ``None`` where nothing has changed."""
    after, rows, first_tag, seen = "", 0, "", {""}
    while True:
        query = {"from": week.first.isoformat(), "to": week.last.isoformat(), **({"after": after} if after else {})}
        url = f"{job.url.rstrip('/')}/{VERSION}/{kind}?{urlencode(query)}"
        answer = await asker.get(url, _LINES, job.token, "" if after else job.tags.get((kind, week.first), ""))
        if answer.status == _UNCHANGED:
            return None
        _check(answer, f"{kind} of the week from {week.first}")
        page = read_page(answer.text)
        rows += len(page.rows)
        if rows > ROWS_MAX:
            raise InvalidInput(
                f"{kind.capitalize()} of the week from {week.first} are more than {ROWS_MAX:,} rows.", "Send sums."
            )
        spool.writelines(json.dumps(row) + "\n" for row in page.rows)
        first_tag = first_tag if after else answer.tag
        if not page.after:
            return first_tag
        if page.after in seen:
            raise InvalidInput(f"The feed goes round in circles: “{page.after[:80]}” leads to itself.", "Correct the feed.")
        after = page.after
        seen.add(after)


def _rows_of(spool: IO[str]) -> Iterator[dict[str, Any]]:
    return (json.loads(line) for line in spool)


def _check(answer: Answer, what: str) -> None:
    """Raise :class:`InvalidInput` unless there is something to read."""
    if answer.status in (401, 403):
        raise InvalidInput(f"The feed refuses the token ({answer.status}).", "Give it a new one.")
    if answer.status != 200:
        raise InvalidInput(f"Asked for {what}, the feed answered {answer.status}.", "See that its address is right.")
