"""Made-up figures for the demo, in tables that are imported like anybody's and behind a feed: figures of whole sites, and search figures and visits that follow the story. What breaks makes clicks fall two
weeks later, what is fixed brings them back."""

from __future__ import annotations

import base64
import csv
import gzip
import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from contextlib import ExitStack
from datetime import date, datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any
from urllib.parse import urlsplit

from sqlalchemy import select

from hodcarrier.core.figures.kinds import FIELDS
from hodcarrier.core.states import FigureKind, RunPurpose, RunState
from hodcarrier.demo.feed import FEED_HOST, FEED_TOKEN, write_rows
from hodcarrier.demo.sites import EDITIONS
from hodcarrier.register.models import Member, Run
from hodcarrier.runfile.reader import RunFile
from hodcarrier.usecases import figure_feeds, figure_files
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.feeds import FigureFeedBody
from hodcarrier.wire.figures import FigureFileBody, FigureImport

LAG_DAYS = 14
EARLIER_DAYS = 40  # of figures before the first audit
_WEEKDAYS = (1.12, 1.1, 1.05, 1.0, 0.95, 0.85, 0.93)
# Visits, ranking keywords and referring domains: in the first week and in the last.
FIGURES = {
    "tidewrack.example": ((16900, 20350), (394, 436), (91, 101)),
    "saltline-stores.example": ((25600, 26900), (640, 671), (183, 195)),
    "harbour-and-hitch.example": ((7700, 6850), (152, 130), (42, 40)),
    "pellow-kiln.example": ((2850, 3420), (81, 97), (31, 37)),
    "clayfold-school.example": ((4300, 4180), (124, 119), (51, 53)),
    "ardmoor-seeds.example": ((9100, 11200), (488, 561), (136, 155)),
    "two-rivers-seedbank.example": ((8600, 9300), (386, 415), (116, 126)),
}
# By host: how many clicks a day on an ordinary page that stands first, and what people call the client.
SEARCHED = {
    "tidewrack.example": (9.0, ("tidewrack", "tide wrack chandlery", "tidewrack opening hours")),
    "pellow-kiln.example": (5.0, ("pellow kiln", "pellow kiln studio prices")),
    "ardmoor-seeds.example": (6.0, ("ardmoor seed library", "ardmoor seeds")),
}
LAST_KNOWN_DAYS = 2  # figures of the last days come late
# By host: keywords that are watched with the page that is meant to stand there, who else is looked at, and a page that is gone and still linked to.
WATCHED = {
    "tidewrack.example": (
        ("how to splice rope", "/guides/splicing-rope"), ("choosing an anchor", "/guides/choosing-an-anchor"), ("mooring single handed", "/guides/mooring-alone"),
        ("pontoon knots", "/guides/knots-for-the-pontoon"), ("tide tables explained", "/guides/tides"), ("boat gear shop", "/shop/"), ("bilge pump care", "/guides/care-of-pumps"),
        ("winter lay up", "/guides/winter-lay-up"),
    ),
    "pellow-kiln.example": (
        ("pottery classes", "/classes/"), ("raku day", "/classes/raku-day"), ("wheel throwing for beginners", "/classes/wheel-for-beginners"),
    ),
    "ardmoor-seeds.example": (
        ("heritage seeds", "/"), ("saving tomato seeds", "/growing/saving-bush-tomato"), ("drying runner beans", "/growing/drying-runner-bean"),
        ("winter kale seeds", "/growing/saving-winter-kale"),
    ),
}  # fmt: skip
RIVALS = {
    "tidewrack.example": ("saltline-stores.example", "harbour-and-hitch.example"),
    "pellow-kiln.example": ("clayfold-school.example",),
    "ardmoor-seeds.example": ("two-rivers-seedbank.example",),
}
GONE = {"ardmoor-seeds.example": "/seeds/beans/withdrawn-1"}
LINKING = ("harbour-notes", "weekend-sailor", "allotment-diary", "craft-fair", "local-news", "the-quiet-boat")
_SITE_FIGURES = ("Visits", "Ranking keywords", "Referring domains")


# What is fetched by a feed, and what is imported from tables.
FED = "tidewrack.example"
SEARCH_HEAD = ("Date", "Page", "Query", "Clicks", "Impressions", "Average position")
SEARCH_HEAD_GERMAN = ("Datum", "Seite", "Suchanfrage", "Klicks", "Impressionen", "Durchschnittliche Position")
VISITS_HEAD = ("Date", "Landing page", "Channel", "Sessions", "Engaged sessions", "Conversions")
POSITIONS_HEAD = ("Date", "Keyword", "Device", "Location", "Site", "Rank", "URL", "Result features")
LINKS_HEAD = ("Linking page", "Target page", "Anchor text", "Rel", "First seen", "Last seen", "Lost on")
HEADS = {
    FigureKind.SEARCH: SEARCH_HEAD,
    FigureKind.VISITS: VISITS_HEAD,
    FigureKind.POSITIONS: POSITIONS_HEAD,
    FigureKind.LINKS: LINKS_HEAD,
}
_CHANNELS = (("direct", 0.55, 0.03), ("links from other sites", 0.2, 0.012), ("newsletter", 0.15, 0.05))


def import_figures(
    work: Workspace, folder: Path, feeds: Path, sites: Mapping[str, int], days: Sequence[datetime], member: Member
) -> None:
    """Write the tables into a folder, and import them; those of one site go into the folder of the feed instead, which is asked for them. ``days`` are those of the audits."""
    folder.mkdir(exist_ok=True)
    for host in FIGURES:
        path = folder / f"{host}.csv"
        write_site_figures(path, days, figures_of(host))
        _import(work, sites[host], path, "made up for the demo", member)
    until = work.now().date() - timedelta(days=LAST_KNOWN_DAYS)
    for host in SEARCHED:
        tables = _tables(work, host, sites[host], days, until)
        if host == FED:
            for kind, rows in tables.items():
                write_rows(feeds / host, kind, (_as_row(kind, row) for row in rows))
            continue
        for kind, rows in tables.items():
            path = folder / f"{host}-{kind}.csv"
            german = host == "ardmoor-seeds.example" and kind == FigureKind.SEARCH
            write_table(path, SEARCH_HEAD_GERMAN if german else HEADS[kind], rows, german=german)
            _import(work, sites[host], path, f"{kind}, made up for the demo", member)
    body = FigureFeedBody(url=f"https://{FEED_HOST}/{FED}", name="Figures of the agency", token=FEED_TOKEN)
    figure_feeds.add_figure_feed(work, sites[FED], body, member)


def _tables(
    work: Workspace, host: str, site_id: int, days: Sequence[datetime], until: date
) -> Mapping[FigureKind, Sequence[Sequence[Any]]]:
    """The rows of each kind of figures of a site."""
    with work.reading() as session:
        done = Run.site_id == site_id, Run.purpose == RunPurpose.AUDIT, Run.state == RunState.DONE
        audits = session.execute(select(Run.id, Run.requested_at).where(*done).order_by(Run.sequence)).all()
    with ExitStack() as opened:
        seen = [(moment.date(), opened.enter_context(work.open_run(number))) for number, moment in audits]
        search = list(search_rows(host, seen, until))
    return {
        FigureKind.SEARCH: search,
        FigureKind.VISITS: list(visit_rows(host, search)),
        FigureKind.POSITIONS: list(position_rows(host, days)),
        FigureKind.LINKS: list(link_rows(host, days)),
    }


def _as_row(kind: FigureKind, values: Sequence[Any]) -> dict[str, Any]:
    """A row as a feed gives it, what is empty left out."""
    names = [each.name for each in FIELDS[kind]]
    if kind == FigureKind.SEARCH:
        names = ["day", "page", "query", "clicks", "impressions", "position"]
    given = {name: str(value) if isinstance(value, date) else value for name, value in zip(names, values, strict=True)}
    return {name: None if value == "> 100" else value for name, value in given.items() if value != ""}


def _import(work: Workspace, site_id: int, path: Path, source: str, member: Member) -> None:
    content = base64.b64encode(gzip.compress(path.read_bytes(), 5)).decode()
    table = figure_files.add_figure_file(work, site_id, FigureFileBody(name=path.name, content=content, source=source), member)
    figure_files.import_figure_file(work, site_id, table.id, FigureImport(), member)


def write_table(path: Path, head: Sequence[str], rows: Iterable[Sequence[Any]], *, german: bool = False) -> None:
    """A table of rows; the German way with semicolons, its own order of days, and commas before decimals."""
    with path.open("w", newline="") as file:
        out = csv.writer(file, delimiter=";" if german else ",")
        out.writerow(head)
        out.writerows([_written(value) for value in row] if german else row for row in rows)


def _written(value: Any) -> Any:
    if isinstance(value, date):
        return f"{value:%d.%m.%Y}"
    return str(value).replace(".", ",") if isinstance(value, float) else value


def figures_of(host: str) -> list[list[int]]:
    """The made-up figures of a site, week by week: from the first to the last, with a wobble."""
    chance = Random(host)
    return [
        [round(first + (last - first) * n / (EDITIONS - 1) + chance.uniform(-0.012, 0.012) * last) for n in range(EDITIONS)]
        for first, last in FIGURES[host]
    ]


def write_site_figures(path: Path, days: Sequence[datetime], columns: Sequence[Sequence[int]]) -> None:
    """A table of figures of a whole site, one of each name a week."""
    with path.open("w", newline="") as file:
        out = csv.writer(file)
        out.writerow(["day", "name", "value", "source"])
        for name, values in zip(_SITE_FIGURES, columns, strict=True):
            out.writerows(
                [moment.date(), name, value, "made up for the demo"] for moment, value in zip(days, values, strict=True)
            )


def position_rows(host: str, days: Sequence[datetime]) -> Iterator[Sequence[Any]]:
    """Positions, looked at on the days of the audits, on two devices and from two places, with those of competitors."""
    chance = Random(host + "positions")
    for keyword, page in WATCHED[host]:
        for device, place in (("desktop", "Cardiff"), ("phone", "Cardiff"), ("phone", "Inverness")):
            begin, drift = chance.uniform(2, 40), chance.choice((-2.2, -0.6, 0.0, 0.0, 0.8, 4.0))
            for week, moment in enumerate(days):
                for number, site in enumerate(("", *RIVALS[host])):
                    at = begin + 5 * number * chance.choice((-1, 1)) + drift * week * (number == 0) + chance.gauss(0, 1.2)
                    shown = "pictures, questions" if at < 12 and not number else ""
                    rank = "> 100" if at > 60 else max(1, round(at))
                    yield moment.date(), keyword, device, place, site, rank, "" if number else page, shown


def link_rows(host: str, days: Sequence[datetime]) -> Iterator[Sequence[Any]]:
    """Links from other sites: old and new ones, some that were lost, some to a page that is gone."""
    chance = Random(host + "links")
    first, last = days[0].date(), days[-1].date()
    targets = ["/", *(page for _, page in WATCHED[host]), GONE.get(host, "/")]
    for number in range(140):
        domain = f"{chance.choice(LINKING)}-{number % 47}.example"
        begun = first - timedelta(days=round(chance.expovariate(1 / 200)) - 60)
        lost = last - timedelta(days=chance.randrange(60)) if chance.random() < 0.14 else None
        if begun > last or (lost is not None and lost <= begun):
            continue
        words = chance.choice(("", SEARCHED[host][1][0], "here", "good advice", "opening hours"))
        rel = "nofollow" if chance.random() < 0.2 else ""
        yield f"https://{domain}/{number}", chance.choice(targets), words, rel, begun, lost or last, lost or ""


def visit_rows(host: str, search: Sequence[Sequence[Any]]) -> Iterator[Sequence[Any]]:
    """Visits by day, page and channel: those from search follow its clicks, the others have their own ways."""
    chance = Random(host + "visits")
    clicked: dict[tuple[date, str], int] = {}
    for day, page, _, clicks, _, _ in search:
        clicked[day, page] = clicked.get((day, page), 0) + clicks
    usual: dict[str, float] = {}
    for (day, page), clicks in clicked.items():
        usual[page] = 0.97 * usual.get(page, float(clicks)) + 0.03 * clicks
        channels = [
            ("search", clicks, 0.02),
            *((name, _drawn(chance, usual[page] * part), rate) for name, part, rate in _CHANNELS),
        ]
        for name, sessions, rate in channels:
            if sessions:
                yield day, page, name, sessions, _drawn(chance, sessions * 0.6), _drawn(chance, sessions * rate)


def search_rows(host: str, runs: Sequence[tuple[date, RunFile]], until: date) -> Iterator[Sequence[Any]]:
    """Search figures by day, page and query up to a day, from what each audit saw of the pages."""
    scale, names = SEARCHED[host]
    states = [(day + timedelta(days=LAG_DAYS), _states(run)) for day, run in runs]
    pages = sorted({url for _, state in states for url in state})
    start = min(pages, key=len)
    queries = [each for page in pages for each in _queries(page, names if page == start else (), scale)]
    day = runs[0][0] - timedelta(days=EARLIER_DAYS)
    total = (until - day).days
    while day <= until:
        state = next((each for begins, each in reversed(states) if begins <= day), states[0][1])
        part = 1 - (until - day).days / total
        for query in queries:
            factor = state.get(query.page, 0.0)
            if factor and (row := query.on(day, factor, part)) is not None:
                clicks, shown, place = row
                yield day, query.page, query.text, clicks, shown, round(place, 1)
        day += timedelta(days=1)


def _states(run: RunFile) -> dict[str, float]:
    """What share of its usual clicks each page gets: a tenth while it is shut out, some less while something serious is wrong with it."""
    found = {url: 1.0 for (url,) in run.each("SELECT url FROM inventory WHERE role = 0 AND status = 200")}
    for (url,) in run.each("SELECT DISTINCT subject FROM finding WHERE severity < 2 AND NOT waived"):  # critical and high
        if url in found:
            found[url] = 0.72
    for (url,) in run.each("SELECT url FROM inventory WHERE role = 0 AND why_not <> ''"):
        if url in found:
            found[url] = 0.1
    return found


class _Query:
    """A query that leads to a page: where it stands, how often it is looked for, and what becomes of it."""

    def __init__(self, page: str, text: str, place: float, shown: float, rate: float, drift: float) -> None:
        self.page, self.text = page, text
        self._place, self._shown, self._rate, self._drift = place, shown, rate, drift
        self._chance = Random(page + text)

    def on(self, day: date, factor: float, part: float) -> tuple[int, int, float] | None:
        """Clicks, impressions and position on a day; ``None`` when nobody was shown it. ``part`` is how much of the time has gone by (0 to 1)."""
        chance = self._chance
        much = self._shown * _WEEKDAYS[day.weekday()] * (1 + self._drift * max(0.0, part - 0.55) / 0.45)
        shown = _drawn(chance, much * (0.4 + 0.6 * factor))
        if not shown:
            return None
        place = max(1.0, self._place * (1 + 0.5 * (1 - factor)) + chance.gauss(0, 0.3))
        return min(shown, _drawn(chance, shown * self._rate * factor)), shown, place


def _queries(page: str, names: Sequence[str], scale: float) -> Iterator[_Query]:
    chance = Random(page)
    words = " ".join(urlsplit(page).path.strip("/").split("/")[-1].split("-")[:4])
    for name in names:
        yield _Query(page, name, 1.1, scale * 9, 0.42, 0.0)
    texts = [words, f"{words} {chance.choice(('guide', 'price', 'near me', 'how to', 'best', 'size'))}"] if words else []
    for number, text in enumerate(texts):
        place = 1 + chance.expovariate(1 / 9)
        rate = 0.32 / place**1.05
        # One in nine is clicked far less than its place would have it; one in twelve rises or falls of itself.
        if not number and chance.random() < 0.11:
            rate *= 0.25
        drift = chance.choice((1.4, -0.8)) if chance.random() < 0.08 else 0.0
        yield _Query(page, text, place, scale * chance.uniform(1.0, 7.0) / (1 + number), rate, drift)


def _drawn(chance: Random, mean: float) -> int:
    """A count that is drawn around a mean (Poisson; the normal approximation for large ones)."""
    if mean > 30:
        return max(0, round(chance.gauss(mean, math.sqrt(mean))))
    limit, number, product = math.exp(-mean), 0, chance.random()
    while product > limit:
        product *= chance.random()
        number += 1
    return number
