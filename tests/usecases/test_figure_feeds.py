"""Feeds of figures, from a stand-in that answers well, slowly, wrongly, late, in parts or not at all; and registries of domains."""

from __future__ import annotations

import asyncio
import json
import threading
from collections.abc import Awaitable, Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from pathlib import Path
from typing import Any

import jsonschema_rs
import pytest
from aiohttp import ClientSession, web

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.figures.feed_schema import feed_schema
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import FeedState, FigureKind
from hodcarrier.demo import registry
from hodcarrier.demo.feed import FEED_TOKEN, FeedStandIn, Row, write_rows
from hodcarrier.register.models import FigureFeed, Member
from hodcarrier.service.outside import FEED, Reach, checked_target, guard_of
from hodcarrier.service.puller import pull_due
from hodcarrier.service.registries import ask_due
from hodcarrier.usecases import desk, domain_records, figure_feeds, search_figures
from hodcarrier.usecases.figure_feeds import CLAIM
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.desk import DeskItemKind
from hodcarrier.wire.feeds import FigureFeedBody, FigureFeedChange, FigureFeedOut
from tests.usecases.conftest import Office
from tests.usecases.test_figures import imported

NOBODY = Member(id=None, name="", role=Role.OWNER)
NOW = datetime.fromisoformat("2026-12-01T06:00:00+00:00")
LAST = date(2026, 11, 29)  # a Sunday
HOST = "shop.example"
Answer = Callable[[web.Request], Awaitable[web.StreamResponse]]


@contextmanager
def served(answer: Answer) -> Iterator[str]:
    """Answer on a free port, from a loop in a thread of its own."""
    loop = asyncio.new_event_loop()
    application = web.Application()
    application.router.add_route("*", "/{path:.*}", answer)
    runner = web.AppRunner(application, access_log=None)

    async def begin() -> int:
        await runner.setup()
        site = web.TCPSite(runner, "127.0.0.1", 0)
        await site.start()
        return int(runner.addresses[0][1])

    thread = threading.Thread(target=loop.run_forever)
    thread.start()
    try:
        port = asyncio.run_coroutine_threadsafe(begin(), loop).result(30)
        yield f"http://127.0.0.1:{port}"
    finally:
        asyncio.run_coroutine_threadsafe(runner.cleanup(), loop).result(30)
        loop.call_soon_threadsafe(loop.stop)
        thread.join()
        loop.close()


@dataclass
class Waits:
    """Notes how long somebody waits, and lets nobody wait."""

    seconds: list[float]

    async def __call__(self, seconds: float) -> None:
        self.seconds.append(seconds)


@dataclass
class Desk:
    """A stand-in with figures of the office's site, and the feed that asks it."""

    office: Office
    folder: Path
    stand_in: FeedStandIn
    url: str
    waits: Waits

    def write(self, kind: FigureKind, rows: list[Row]) -> None:
        write_rows(self.folder / HOST, kind, rows)

    def add(self, **more: object) -> FigureFeedOut:
        body = FigureFeedBody.model_validate({"url": f"{self.url}/{HOST}", "name": "Figures", "token": FEED_TOKEN, **more})
        return figure_feeds.add_figure_feed(self.at(NOW), self.office.site.id, body, NOBODY)

    def at(self, moment: datetime) -> Workspace:
        return self.office.at(moment)

    def pull(self, moment: datetime = NOW, *, private: bool = True) -> FigureFeedOut:
        pull_due(self.at(moment), Reach(guard_of(private), wait=self.waits))
        [feed] = figure_feeds.list_figure_feeds(self.at(moment))
        return feed

    def clicks(self) -> int:
        with self.office.work.figures.read(self.office.site.id) as db:
            return int(db.execute("SELECT coalesce(sum(clicks), 0) FROM search").fetchone()[0]) if db is not None else 0


def searched(days: int, clicks: int = 1, last: date = LAST) -> list[Row]:
    """A row for each day up to a last one."""
    return [
        {"day": f"{last - timedelta(days=n)}", "page": "/", "query": "rope", "clicks": clicks, "impressions": 10}
        for n in reversed(range(days))
    ]


@pytest.fixture
def fed(office: Office, tmp_path: Path) -> Iterator[Desk]:
    folder = tmp_path / "feeds"
    (folder / HOST).mkdir(parents=True)
    stand_in = FeedStandIn(folder, page_rows=5)
    with served(stand_in.answer) as url:
        yield Desk(office, folder, stand_in, url, Waits([]))


def test_a_feed_is_asked_for_all_that_it_has_and_then_for_what_is_new(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(20))
    fed.write(FigureKind.LINKS, [{"source_page": "https://a.example/", "page": "/", "first_seen": "2026-11-20", "last_seen": "2026-11-28"}])  # fmt: skip
    feed = fed.add()
    assert (feed.state, feed.sentence) == (FeedState.WAITING, "Not asked yet; it is asked within a minute.")
    feed = fed.pull()
    assert (feed.state, feed.sentence) == (FeedState.CURRENT, "Figures up to 28 November 2026, 3 days ago.")
    assert [(each.kind, each.until, each.rows) for each in feed.offers] == [
        (FigureKind.SEARCH, LAST, 20),
        (FigureKind.LINKS, date(2026, 11, 28), 1),
    ]
    assert fed.clicks() == 20
    assert feed.next_at == NOW + timedelta(days=1)
    assert len([path for path in fed.stand_in.asked if "/search" in path]) == 3 * 2  # each of the weeks is more than a page

    fed.stand_in.asked.clear()
    feed = fed.pull(NOW + timedelta(days=1))
    assert fed.stand_in.asked == [f"/{HOST}/v1/manifest"], "nothing has changed, so nothing is asked for"

    fed.write(FigureKind.SEARCH, searched(22, last=LAST + timedelta(days=2)))
    fed.stand_in.asked.clear()
    feed = fed.pull(NOW + timedelta(days=2))
    weeks = {path.partition("from=")[2][:10] for path in fed.stand_in.asked if "/search" in path}
    assert weeks == {"2026-11-23", "2026-11-30"}, "the week that may still change, and the new one"
    assert (feed.offers[0].rows, fed.clicks()) == (22, 22)


def test_figures_that_settle_late_replace_those_before_and_rows_that_are_gone_go(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(3))
    imported(fed.office, [[LAST, "https://shop.example/", "anchor", 7, 9, ""]])
    fed.add()
    fed.pull()
    assert fed.clicks() == 3 + 7
    rows = searched(3, clicks=5)
    fed.write(FigureKind.SEARCH, rows[1:])
    fed.pull(NOW + timedelta(days=1))
    assert fed.clicks() == 10 + 7, "what somebody imported stays"
    found = search_figures.list_figures(fed.office.work, fed.office.site.id)
    assert found[0].rows == 3


def test_tables_and_feeds_are_read_by_the_schema(fed: Desk) -> None:
    """What the stand-in sends is what the documented schema describes."""
    fed.write(FigureKind.SEARCH, searched(7))
    fed.write(FigureKind.SITE, [{"day": f"{LAST}", "name": "Referring domains", "value": 41}])
    headers = {"Authorization": f"Bearer {FEED_TOKEN}"}

    async def texts() -> dict[str, str]:
        async with ClientSession(headers=headers) as client:
            found = {}
            for name in ("manifest", "search?from=2026-11-23&to=2026-11-29", "site?from=2026-11-23&to=2026-11-29"):
                async with client.get(f"{fed.url}/{HOST}/v1/{name}") as answer:
                    found[name.partition("?")[0]] = await answer.text()
            return found

    found = asyncio.run(texts())
    checks: dict[str, Any] = {
        name: jsonschema_rs.validator_for({**feed_schema(), "$ref": f"#/$defs/{name}"})
        for name in ("manifest", "search", "site", "closing")
    }
    checks["manifest"].validate(json.loads(found["manifest"]))
    for name in ("search", "site"):
        *rows, closing = found[name].splitlines()
        assert rows
        for row in rows:
            checks[name].validate(json.loads(row))
        checks["closing"].validate(json.loads(closing))


def test_a_slow_feed_is_waited_for(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(10))
    fed.stand_in.manner = "slow"
    fed.add()
    assert fed.pull().state == FeedState.CURRENT
    assert fed.clicks() == 10


@pytest.mark.parametrize("manner", ["cut", "down"])
def test_an_answer_that_breaks_off_is_asked_for_again(fed: Desk, manner: str) -> None:
    fed.write(FigureKind.SEARCH, searched(10))
    fed.stand_in.manner, fed.stand_in.left = manner, 2
    fed.add()
    assert fed.pull().state == FeedState.CURRENT
    assert fed.clicks() == 10
    assert fed.waits.seconds


def test_what_was_taken_in_before_a_feed_broke_down_stays(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(14))
    bad: dict[str, object] = {**searched(1)[0], "clicks": "many"}
    fed.write(FigureKind.SEARCH, [*searched(14)[:-1], bad])
    fed.add()
    feed = fed.pull()
    assert feed.state == FeedState.FAILING
    assert feed.sentence == (
        "Search of the week from 2026-11-23: Row 7: Clicks: “many” is no number. Correct it where the feed gets it from."
    )
    assert (fed.clicks(), feed.offers[0].until) == (7, date(2026, 11, 22)), "the week before is in, that week is not"
    assert feed.next_at == NOW + timedelta(minutes=10)
    fed.write(FigureKind.SEARCH, searched(14))
    assert fed.pull(NOW + timedelta(minutes=5)).state == FeedState.FAILING, "it is left alone for a while"
    fed.stand_in.asked.clear()
    feed = fed.pull(NOW + timedelta(minutes=10))
    assert (feed.state, fed.clicks()) == (FeedState.CURRENT, 14)
    assert not any("from=2026-11-16&to=2026-11-22&after" in path for path in fed.stand_in.asked), "it goes on from there"


@pytest.mark.parametrize(
    "manner, words",
    [
        ("open", "The answer was cut off: no line closes it. It is asked again."),
        ("down", "It answered 503."),
        ("busy", "It answered 429."),
        ("wrong", "Clicks: “many” is no number"),
    ],
)
def test_a_feed_that_does_not_answer_as_it_should_says_so(fed: Desk, manner: str, words: str) -> None:
    fed.write(FigureKind.SEARCH, searched(3))
    fed.stand_in.manner = manner
    fed.add()
    feed = fed.pull()
    assert feed.state == FeedState.FAILING
    assert words in feed.sentence
    assert fed.clicks() == 0


def test_a_feed_that_asks_for_patience_gets_it(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(3))
    fed.stand_in.manner, fed.stand_in.left = "busy", 2
    fed.add()
    assert fed.pull().state == FeedState.CURRENT
    assert fed.waits.seconds == [1.0, 1.0]
    fed.stand_in.manner, fed.stand_in.left = "busy", -1
    figure_feeds.pull_figure_feed(fed.at(NOW), 1)
    assert fed.pull().next_at == NOW + timedelta(hours=1), "it wants to be left alone for an hour"


def test_a_feed_with_another_token_or_of_another_site_is_refused(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(3))
    feed = fed.add(token="stolen")
    assert fed.pull().sentence == "The feed refuses the token (401). Give it a new one."
    write_rows(fed.folder / "other.example", FigureKind.SEARCH, searched(3))
    change = FigureFeedChange(token=FEED_TOKEN, url=f"{fed.url}/other.example")
    figure_feeds.change_figure_feed(fed.at(NOW), feed.id, change, NOBODY)
    assert "The feed has figures of other.example, not of shop.example." in fed.pull().sentence
    figure_feeds.change_figure_feed(fed.at(NOW), feed.id, FigureFeedChange(url=f"{fed.url}/none.example"), NOBODY)
    assert fed.pull().sentence == "Asked for the manifest, the feed answered 404. See that its address is right."
    figure_feeds.change_figure_feed(fed.at(NOW), feed.id, FigureFeedChange(url=f"{fed.url}/{HOST}"), NOBODY)
    assert fed.pull().state == FeedState.CURRENT


def test_a_feed_never_leads_inside(fed: Desk) -> None:
    fed.add()
    feed = fed.pull(private=False)
    assert (feed.state, fed.stand_in.asked) == (FeedState.FAILING, [])
    assert feed.sentence == "127.0.0.1 is a private address; it is not asked."
    for url, words in (
        ("http://figures.example/", "encrypted only"),
        ("https://10.0.0.1/feed", "private address; feeds go to public ones"),
        ("https://a:b@figures.example/", "has a name or password"),
        ("figures", "."),
    ):
        with pytest.raises(InvalidInput, match=words):
            checked_target(url, False, FEED)


def test_a_feed_that_goes_round_in_circles_is_left(fed: Desk) -> None:
    async def answer(request: web.Request) -> web.Response:
        if request.path.endswith("manifest"):
            return web.json_response({"site": HOST, "kinds": {"search": {"first": f"{LAST}", "last": f"{LAST}"}}})
        return web.Response(text='{"rows": 0, "after": "x"}\n')

    with served(answer) as url:
        fed.add(url=f"{url}/round")
        assert "goes round in circles" in fed.pull().sentence


def test_a_feed_without_anything_new_is_stale_and_stands_on_the_desk(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(3))
    fed.add()
    fed.pull()
    assert not [item for item in desk.get_desk(fed.at(NOW), NOBODY).items if item.kind == DeskItemKind.FEED]
    later = NOW + timedelta(days=9)
    feed = fed.pull(later)
    assert (feed.state, feed.offers[0].stale) == (FeedState.STALE, True)
    assert feed.sentence == "Nothing newer than 29 November 2026, 11 days ago."
    [item] = [item for item in desk.get_desk(fed.at(later), NOBODY).items if item.kind == DeskItemKind.FEED]
    assert (item.text, item.detail) == ("The feed “Figures” has nothing new", feed.sentence)


def test_a_feed_that_fails_again_and_again_stands_on_the_desk(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(3))
    fed.stand_in.manner = "down"
    fed.add()
    moment = NOW
    for times in range(3):
        assert not [item for item in desk.get_desk(fed.at(moment), NOBODY).items if item.kind == DeskItemKind.FEED], times
        moment = fed.pull(moment).next_at
    [item] = [item for item in desk.get_desk(fed.at(moment), NOBODY).items if item.kind == DeskItemKind.FEED]
    assert (item.text, item.detail) == ("The feed “Figures” cannot be read", "It answered 503.")


def test_only_kinds_that_are_wanted_are_taken(fed: Desk) -> None:
    fed.write(FigureKind.SEARCH, searched(3))
    fed.write(FigureKind.VISITS, [{"day": f"{LAST}", "page": "/", "sessions": 4}])
    feed = fed.add(kinds=["visits", "visits"])
    feed = fed.pull()
    assert [(each.kind, each.wanted, each.rows) for each in feed.offers] == [
        (FigureKind.SEARCH, False, 0),
        (FigureKind.VISITS, True, 1),
    ]
    figure_feeds.change_figure_feed(fed.at(NOW), feed.id, FigureFeedChange(kinds=[]), NOBODY)
    assert fed.pull().offers[0].rows == 3


def test_a_feed_is_claimed_by_one_at_a_time(fed: Desk) -> None:
    fed.add()
    [job] = figure_feeds.claim_due(fed.at(NOW))
    assert job.token == FEED_TOKEN
    assert figure_feeds.claim_due(fed.at(NOW)) == []
    assert figure_feeds.claim_due(fed.at(NOW + CLAIM + timedelta(seconds=1))), "whoever claimed it has died"


def test_the_token_is_sealed_and_one_address_is_one_feed(fed: Desk) -> None:
    feed = fed.add()
    assert FEED_TOKEN not in feed.model_dump_json() and feed.has_token
    with fed.office.work.reading() as session:
        assert FEED_TOKEN not in session.get_one(FigureFeed, feed.id).sealed
    with pytest.raises(Conflict, match=r"shop\.example has a feed at this address already"):
        fed.add()
    figure_feeds.change_figure_feed(fed.at(NOW), feed.id, FigureFeedChange(token="", active=False), NOBODY)
    changed = fed.pull()
    assert (changed.has_token, changed.state, fed.stand_in.asked) == (False, FeedState.OFF, [])
    figure_feeds.remove_figure_feed(fed.at(NOW), feed.id, NOBODY)
    assert figure_feeds.list_figure_feeds(fed.office.work, fed.office.site.id) == []
    with pytest.raises(NotFound):
        figure_feeds.remove_figure_feed(fed.at(NOW), feed.id, NOBODY)


async def known(request: web.Request) -> web.StreamResponse:
    """A registry that knows the office's domain, and sends on."""
    if request.path == "/domain/shop.example":
        return web.Response(status=302, headers={"Location": "/elsewhere/shop.example"})
    if request.path == "/elsewhere/shop.example":
        return web.json_response({**registry.described("ardmoor-seeds.example", NOW.date()), "ldhName": "SHOP.EXAMPLE"})
    return web.json_response({}, status=404)


def ask(office: Office, url: str, moment: datetime = NOW) -> int:
    return ask_due(office.at(moment), Reach(guard_of(True), wait=Waits([])), url)


def test_the_registry_is_asked_every_day(office: Office) -> None:
    assert domain_records.get_domain(office.at(NOW), office.site.id, asks=False).sentence.startswith("No registry is set up")
    assert ask(office, "") == 0
    with served(known) as url:
        assert ask(office, url) == 1
        assert ask(office, url) == 0, "it was asked today"
        assert ask(office, url, NOW + timedelta(days=1)) == 1
    found = domain_records.get_domain(office.at(NOW), office.site.id)
    assert found.sentence == (
        "shop.example has been registered since 9 March 2004 through Anchor Names Ltd; the registration ends on "
        "25 December 2026, in 24 days."
    )
    assert found.now and (found.now.first_seen, found.now.last_seen) == (date(2026, 12, 1), date(2026, 12, 2))
    [item] = [item for item in desk.get_desk(office.at(NOW), NOBODY).items if item.kind == DeskItemKind.DOMAIN]
    assert item.text == "The registration of shop.example ends on 25 December 2026, in 24 days"


def test_what_a_registry_says_differently_is_another_record(office: Office) -> None:
    ends = {"days": 24}

    async def answer(_: web.Request) -> web.Response:
        return web.json_response(
            {**registry.described("tidewrack.example", NOW.date() + timedelta(days=ends["days"])), "ldhName": HOST}
        )

    with served(answer) as url:
        ask(office, url)
        ends["days"] = 400
        ask(office, url, NOW + timedelta(days=1))
    found = domain_records.get_domain(office.at(NOW), office.site.id)
    assert found.now and len(found.before) == 1
    assert found.now.first_seen == date(2026, 12, 2) and found.before[0].last_seen == date(2026, 12, 1)
    assert not [item for item in desk.get_desk(office.at(NOW), NOBODY).items if item.kind == DeskItemKind.DOMAIN], "renewed"


@pytest.mark.parametrize(
    "status, words",
    [(404, "The registry knows no domain of shop.example."), (403, "answered 403"), (503, "The registry: It answered 503.")],
)
def test_a_registry_that_does_not_know_says_so(office: Office, status: int, words: str) -> None:
    async def answer(_: web.Request) -> web.Response:
        return web.Response(status=status)

    with served(answer) as url:
        assert ask(office, url) == 0
        found = domain_records.get_domain(office.at(NOW), office.site.id)
        assert words in found.sentence and found.now is None
        assert ask(office, url, NOW + timedelta(minutes=50)) == 0
