"""Feeds of figures: made, changed, claimed while they are asked, and what they brought."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy import ColumnElement, func, or_, select, update
from sqlalchemy.orm import joinedload

from hodcarrier.core.figures.feed import Manifest, Offer, Week, is_stale, read_rows, said, state_of
from hodcarrier.core.states import FeedState, FigureKind
from hodcarrier.figurefile.writer import Merged
from hodcarrier.register.models import FigureFeed, Member, Site
from hodcarrier.usecases.figure_files import take_in
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.feeds import FigureFeedBody, FigureFeedChange, FigureFeedKind, FigureFeedOut

# A feed is claimed for so long at a time: a week of rows takes seconds, and whoever dies meanwhile is replaced after this.
CLAIM = timedelta(minutes=15)
EVERY = timedelta(days=1)
# How long to wait after each round that failed; the last one is repeated.
WAITS = tuple(timedelta(minutes=m) for m in (10, 60, 180, 360, 720))
AT_ONCE = 4
ERROR_CHARS = 1000
_EVER = datetime.min


@dataclass(frozen=True)
class Job:
    """A feed that is to be asked now: where, with what token, and what is known of it so far."""

    id: int
    site_id: int
    host: str
    base: str
    name: str
    url: str
    token: str
    kinds: Sequence[str]
    tag: str
    manifest: Manifest
    until: Mapping[FigureKind, date] = field(default_factory=dict)
    tags: Mapping[tuple[FigureKind, date], str] = field(default_factory=dict)


def list_figure_feeds(work: Workspace, site_id: int | None = None) -> list[FigureFeedOut]:
    """Feeds of figures, of one site or of all."""
    with work.reading() as session:
        chosen = select(FigureFeed).join(Site).order_by(Site.host, FigureFeed.id).options(joinedload(FigureFeed.site))
        if site_id is not None:
            fetch(session, Site, site_id, "site")
            chosen = chosen.where(FigureFeed.site_id == site_id)
        today = work.now().date()
        return [_out(feed, today) for feed in session.scalars(chosen)]


def add_figure_feed(work: Workspace, site_id: int, body: FigureFeedBody, member: Member) -> FigureFeedOut:
    """Make a feed, which is asked at once. Raises :class:`Conflict` for an address that the site has already."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        feed = FigureFeed(
            site_id=site_id,
            name=body.name or "Figure feed",
            url=body.url,
            sealed=work.vault.seal({"token": body.token}) if body.token else "",
            kinds=list(body.kinds),
            created_at=work.now(),
            next_at=work.now(),
        )
        session.add(feed)
        with unless_taken(session, f"{site.host} has a feed at this address already.", "Change that one."):
            session.flush()
        log(session, work.now(), member.id, "feed added", f"{feed.name}, {site.host}")
        return _out(feed, work.now().date())


def change_figure_feed(work: Workspace, feed_id: int, change: FigureFeedChange, member: Member) -> FigureFeedOut:
    """Change a feed; what is other about it is tried at once. An empty token: it needs none."""
    with work.session() as session:
        feed = fetch(session, FigureFeed, feed_id, "feed")
        if change.token is not None:
            feed.sealed = work.vault.seal({"token": change.token}) if change.token else ""
        if change.url is not None and change.url != feed.url:
            # Another address may have other figures: what is there is asked for anew.
            feed.url, feed.tag, feed.offers, feed.progress = change.url, "", {}, {}
        for name in ("name", "active"):
            value = getattr(change, name)
            if value is not None:
                setattr(feed, name, value)
        if change.kinds is not None:
            feed.kinds, feed.tag = list(change.kinds), ""
        if {"token", "url", "kinds"} & change.model_fields_set or change.active:
            feed.failures, feed.error, feed.next_at = 0, "", work.now()
        with unless_taken(session, "The site has a feed at this address already.", "Change that one."):
            session.flush()
        log(session, work.now(), member.id, "feed changed", f"{feed.name}, {feed.site.host}")
        return _out(feed, work.now().date())


def remove_figure_feed(work: Workspace, feed_id: int, member: Member) -> None:
    """Remove a feed; the figures that it brought stay."""
    with work.session() as session:
        feed = fetch(session, FigureFeed, feed_id, "feed")
        log(session, work.now(), member.id, "feed removed", f"{feed.name}, {feed.site.host}")
        session.delete(feed)


def pull_figure_feed(work: Workspace, feed_id: int) -> FigureFeedOut:
    """Have a feed asked now, whatever it was asked before."""
    with work.session() as session:
        feed = fetch(session, FigureFeed, feed_id, "feed")
        feed.next_at, feed.failures, feed.error = work.now(), 0, ""
        session.flush()
        return _out(feed, work.now().date())


def claim_due(work: Workspace) -> list[Job]:
    """Feeds for the caller to ask, those that wait the longest first."""
    now = work.now()
    free = or_(FigureFeed.claimed_until.is_(None), FigureFeed.claimed_until < now)
    due = (
        select(FigureFeed.id)
        .join(Site)
        .where(FigureFeed.active, FigureFeed.next_at <= now, free, ~Site.archived)
        .order_by(FigureFeed.next_at)
        .limit(AT_ONCE)
    )
    with work.reading() as session:
        if session.scalar(due) is None:
            return []
    with work.session() as session:
        claimed = (
            update(FigureFeed)
            .where(FigureFeed.id.in_(due.scalar_subquery()))
            .values(claimed_until=now + CLAIM)
            .returning(FigureFeed.id)
            .execution_options(synchronize_session=False)
        )
        ids = session.scalars(claimed).all()
        feeds = session.scalars(select(FigureFeed).where(FigureFeed.id.in_(ids)).options(joinedload(FigureFeed.site)))
        return [_job(work, feed) for feed in feeds]


def note_manifest(work: Workspace, job: Job, manifest: Manifest, tag: str) -> None:
    """Keep what a feed says that it has."""
    with work.session() as session:
        feed = session.get(FigureFeed, job.id)
        if feed is not None:
            feed.tag = tag
            feed.offers = {
                kind.value: {"first": f"{offer.first}", "last": f"{offer.last}", "settle_days": offer.settle_days}
                for kind, offer in manifest.offers.items()
            }


def take_in_week(
    work: Workspace, job: Job, kind: FigureKind, offer: Offer, week: Week, rows: Iterable[Mapping[str, Any]], tag: str
) -> Merged:
    """Take in the rows of a week, all or none: what the feed had said of it before and does not say any more goes. Raises :class:`InvalidInput` for rows that cannot be read."""
    read = read_rows(kind, rows, job.base, week)
    merged = take_in(work, job.site_id, kind, read, job.name, (week.first, week.last))
    _note_week(work, job, kind, offer, week, tag, merged)
    return merged


def note_unchanged(work: Workspace, job: Job, kind: FigureKind, offer: Offer, week: Week) -> None:
    """Note that a week is as it was."""
    _note_week(work, job, kind, offer, week, None, Merged())


def _note_week(work: Workspace, job: Job, kind: FigureKind, offer: Offer, week: Week, tag: str | None, merged: Merged) -> None:
    """How far a kind has come; tags are kept of those weeks that will be asked for again."""
    with work.session() as session:
        feed = session.get(FigureFeed, job.id)
        if feed is None:
            return
        before = feed.progress.get(kind.value, {})
        until = max(min(week.last, offer.last).isoformat(), before.get("until", ""))
        again = (date.fromisoformat(until) - timedelta(days=offer.settle_days + 7)).isoformat()
        tags = {first: kept for first, kept in before.get("tags", {}).items() if first > again}
        if tag:
            tags[week.first.isoformat()] = tag
        rows = before.get("rows", 0) + merged.new
        feed.progress = {**feed.progress, kind.value: {"until": until, "rows": rows, "tags": tags}}
        feed.claimed_until = work.now() + CLAIM


def note_went_well(work: Workspace, job: Job) -> None:
    """Note that a feed has given all that it has; it is asked again at the same time of the next day."""
    now = work.now()
    with work.session() as session:
        feed = session.get(FigureFeed, job.id)
        if feed is not None:
            feed.claimed_until, feed.asked_at, feed.went_well_at, feed.failures, feed.error = None, now, now, 0, ""
            feed.next_at += EVERY * ((now - feed.next_at) // EVERY + 1)


def note_failed(work: Workspace, job: Job, error: str, wait_s: float | None = None) -> None:
    """Note why a feed could not be read to its end; it is asked again after ``wait_s``, or after a while that grows. One that asks for patience after it gave something
    has not failed."""
    now = work.now()
    with work.session() as session:
        feed = session.get(FigureFeed, job.id)
        if feed is None:
            return
        feed.claimed_until, feed.asked_at = None, now
        if wait_s is not None and _until(feed) != job.until:
            feed.next_at = now + timedelta(seconds=wait_s)
            return
        wait = WAITS[min(feed.failures, len(WAITS) - 1)]
        feed.next_at = now + max(wait, timedelta(seconds=min(wait_s or 0, EVERY.total_seconds())))
        feed.failures, feed.error = feed.failures + 1, error[:ERROR_CHARS]


def feed_state(feed: FigureFeed, today: date) -> FeedState:
    """How a feed fares."""
    offers = _wanted(feed).values()
    return state_of(offers, feed.failures, today, active=feed.active, asked=feed.went_well_at is not None)


def sentence_of(feed: FigureFeed, today: date) -> str:
    """How a feed fares, in words."""
    last = min((offer.last for offer in _wanted(feed).values()), default=None)
    return said(feed_state(feed, today), last, today, feed.error)


def _wanted(feed: FigureFeed) -> dict[FigureKind, Offer]:
    """What a feed has of the kinds that are wanted of it."""
    offers = _offers(feed)
    return {kind: offer for kind, offer in offers.items() if not feed.kinds or kind in feed.kinds}


def _offers(feed: FigureFeed) -> dict[FigureKind, Offer]:
    return {
        FigureKind(kind): Offer(date.fromisoformat(each["first"]), date.fromisoformat(each["last"]), each["settle_days"])
        for kind, each in feed.offers.items()
    }


def _until(feed: FigureFeed) -> dict[FigureKind, date]:
    return {FigureKind(kind): date.fromisoformat(each["until"]) for kind, each in feed.progress.items()}


def _job(work: Workspace, feed: FigureFeed) -> Job:
    tags = {
        (FigureKind(kind), date.fromisoformat(first)): tag
        for kind, each in feed.progress.items()
        for first, tag in each["tags"].items()
    }
    return Job(
        id=feed.id,
        site_id=feed.site_id,
        host=feed.site.host,
        base=feed.site.plan.start[0],
        name=feed.name,
        url=feed.url,
        token=work.vault.open(feed.sealed)["token"] if feed.sealed else "",
        kinds=list(feed.kinds),
        tag=feed.tag,
        manifest=Manifest(feed.site.host, _offers(feed)),
        until=_until(feed),
        tags=tags,
    )


def _out(feed: FigureFeed, today: date) -> FigureFeedOut:
    offers, until = _offers(feed), _until(feed)
    return FigureFeedOut(
        id=feed.id,
        site_id=feed.site_id,
        site_host=feed.site.host,
        name=feed.name,
        url=feed.url,
        has_token=bool(feed.sealed),
        kinds=[FigureKind(kind) for kind in feed.kinds],
        active=feed.active,
        state=feed_state(feed, today),
        sentence=sentence_of(feed, today),
        asked_at=feed.asked_at,
        went_well_at=feed.went_well_at,
        next_at=feed.next_at,
        offers=[
            FigureFeedKind(
                kind=kind,
                first=offer.first,
                last=offer.last,
                until=until.get(kind),
                rows=feed.progress.get(kind.value, {}).get("rows", 0),
                wanted=not feed.kinds or kind in feed.kinds,
                stale=is_stale(offer, today),
            )
            for kind, offer in sorted(offers.items(), key=lambda pair: list(FigureKind).index(pair[0]))
        ],
    )


@dataclass(frozen=True)
class Trouble:
    """A feed that somebody has to see to; ``failing``: it cannot be read."""

    name: str
    sentence: str
    failing: bool


def of_site() -> ColumnElement[str]:
    """The feeds of a site that are switched on, as JSON: of all sites in the one question that reads them."""
    names = ("name", "failures", "error", "offers", "kinds")
    each = func.json_object(*(part for name in names for part in (name, getattr(FigureFeed, name))))
    found = select(func.json_group_array(each)).where(FigureFeed.site_id == Site.id, FigureFeed.active)
    return found.correlate(Site).scalar_subquery().label("feeds")


def troubles(said: str, patience: int, today: date) -> list[Trouble]:
    """Of what :func:`of_site` has found, feeds that have had nothing new for days, or have failed ``patience`` times on end; each with what there is to say."""
    found = []
    for each in json.loads(said):
        feed = FigureFeed(
            **{**each, "offers": json.loads(each["offers"]), "kinds": json.loads(each["kinds"])}, active=True, went_well_at=_EVER
        )
        if feed.failures >= patience or feed_state(feed, today) == FeedState.STALE:
            found.append(Trouble(feed.name, sentence_of(feed, today), feed.failures > 0))
    return found
