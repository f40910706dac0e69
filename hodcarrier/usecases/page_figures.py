"""What is known of one page from outside."""

from __future__ import annotations

import sqlite3
from datetime import timedelta

from hodcarrier.core.figures.brand import brand_of
from hodcarrier.core.figures.movement import Movement, moved_between_halves
from hodcarrier.core.figures.page_words import page_sentence
from hodcarrier.core.figures.spans import Span, span_of
from hodcarrier.core.states import FigureKind, SearchBy, VisitBy
from hodcarrier.core.web.urls import normalize
from hodcarrier.figurefile import search, visits
from hodcarrier.figurefile.looks import links_to, places_of_page
from hodcarrier.figurefile.reading import ids_of, last_day
from hodcarrier.figurefile.search import Asked, Line
from hodcarrier.figurefile.visits import VisitLine, VisitsAsked
from hodcarrier.register.models import Site
from hodcarrier.usecases.search_figures import brand_names, row_of
from hodcarrier.usecases.standings import LOOKED_DAYS
from hodcarrier.usecases.visits import visit_row
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.figures import KeywordPlace, PageFiguresOut, SearchRow, VisitRow

QUERIES_SHOWN = 10


def get_page_figures(work: Workspace, site_id: int, url: str) -> PageFiguresOut:
    """Search figures and visits of four weeks against the four before, positions at the last looks, links from other sites. Raises :class:`InvalidInput` for what is no
    address."""
    page = normalize(url)
    with work.reading() as session:
        names = brand_names(fetch(session, Site, site_id, "site"))
    with work.figures.read(site_id) as db:
        days = [
            day for kind in (FigureKind.SEARCH, FigureKind.VISITS) if db is not None and (day := last_day(db, kind)) is not None
        ]
        if db is None:
            return PageFiguresOut(sentence=page_sentence(None, None, None, None))
        span = span_of(max(days)) if days else None
        out = PageFiguresOut(sentence="")
        if span is not None:
            out.first, out.last = span.first, span.last
            if last_day(db, FigureKind.SEARCH) is not None:
                out.search, out.queries = _search(db, page, span, names)
            if last_day(db, FigureKind.VISITS) is not None:
                out.visits, out.channels = _visits(db, page, span)
        out.keywords = _keywords(db, page)
        if db.execute("SELECT 1 FROM links LIMIT 1").fetchone() is not None:
            links = list(links_to(db, page))
            live = [link for link in links if link.lost_on is None]
            out.links, out.lost_links = len(live), len(links) - len(live)
            out.linking_domains = len({link.domain for link in live})
    out.sentence = page_sentence(
        out.last,
        (out.search.now.clicks, out.search.before.clicks, out.search.movement) if out.search is not None else None,
        (out.visits.now.sessions, out.visits.before.sessions, out.visits.movement) if out.visits is not None else None,
        (out.links, out.linking_domains or 0) if out.links is not None else None,
    )
    return out


def _search(db: sqlite3.Connection, page: str, span: Span, names: list[str]) -> tuple[SearchRow, list[SearchRow]]:
    """The page as a whole, and its queries, those with the most clicks first."""
    asked = Asked(span.before, span.first, span.last, page=page)
    now, before = search.whole(db, asked)
    ids = ids_of(db, [page])
    table = search.clicks_by_day(db, SearchBy.PAGE, asked, ids)
    movement = moved_between_halves(table[0]) if len(table) else None
    whole = row_of(Line(0, page, now, before), movement, {}, brand=False)
    lines = sorted(search.lines(db, SearchBy.QUERY, asked), key=lambda line: (-line.now.clicks, -line.now.impressions, line.text))
    is_brand = brand_of(names)
    return whole, [row_of(line, None, {}, brand=is_brand(line.text)) for line in lines[:QUERIES_SHOWN]]


def _visits(db: sqlite3.Connection, page: str, span: Span) -> tuple[VisitRow, list[VisitRow]]:
    """The page as a whole, and the channels that visits came by, the most first."""
    asked = VisitsAsked(span.before, span.first, span.last, page=page)
    now, before = visits.whole(db, asked)
    table = visits.visits_by_day(db, VisitBy.PAGE, asked, ids_of(db, [page]))
    movement = moved_between_halves(table[0]).movement if len(table) else Movement.TOO_FEW
    lines = sorted(visits.lines(db, VisitBy.CHANNEL, asked), key=lambda line: (-line.now.sessions, line.text))
    return visit_row(VisitLine(0, page, now, before), movement), [visit_row(line, Movement.TOO_FEW) for line in lines]


def _keywords(db: sqlite3.Connection, page: str) -> list[KeywordPlace]:
    last = last_day(db, FigureKind.POSITIONS)
    if last is None:
        return []
    return [
        KeywordPlace(keyword=each.keyword, device=each.device, place=each.place, day=each.day, rank=each.rank)
        for each in places_of_page(db, page, last - timedelta(days=LOOKED_DAYS))
        if each.rank is not None
    ]
