"""Search over everything a person may jump to."""

from __future__ import annotations

from urllib.parse import quote

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import DamagedRun
from hodcarrier.core.states import LIVE_TODO, SiteKind
from hodcarrier.register.models import Client, Site, Todo
from hodcarrier.usecases.workspace import Workspace, latest_run
from hodcarrier.wire.search import HitKind, SearchHit

WORDS_MAX = 8
PAGES_OF_A_SITE = 5


def search(work: Workspace, text: str, limit: int = 20) -> list[SearchHit]:
    """Hits whose name or detail holds every word, those first that are called so or whose name begins with the text."""
    words = text.lower().split()[:WORDS_MAX]
    if not words:
        return []
    with work.reading() as session:
        hits = [(hit, "") for hit in (*_sites(session), *_todos(session))] + _checks()
        found = [hit for hit, more in hits if all(word in f"{hit.name} {hit.detail} {more}".lower() for word in words)]
        if len(found) < limit:
            found += _pages(work, session, words)
    asked = text.strip().lower()
    kinds = list(HitKind)
    found.sort(
        key=lambda hit: (not _is_called(hit, asked), not hit.name.lower().startswith(asked), kinds.index(hit.kind), hit.name)
    )
    return found[:limit]


def _is_called(hit: SearchHit, asked: str) -> bool:
    """Whether the text is a hit's whole name, or a check's id."""
    return asked in (hit.name.lower(), hit.detail.partition(" · ")[0])


def _sites(session: Session) -> list[SearchHit]:
    clients = session.scalars(select(Client).where(Client.archived_at.is_(None)).order_by(Client.name)).all()
    hits = []
    for client in clients:
        hits.append(SearchHit(kind=HitKind.CLIENT, name=client.name, detail="client", link=f"/clients/{client.id}"))
        hits += [
            SearchHit(kind=HitKind.SITE, name=site.host, detail=f"{site.kind} site of {client.name}", link=f"/sites/{site.id}")
            for site in client.sites
        ]
    return hits


def _checks() -> list[tuple[SearchHit, str]]:
    """The checks, each with the further words it is found by."""
    return [
        (
            SearchHit(
                kind=HitKind.CHECK,
                name=entry.check.summary,
                detail=f"{entry.id} · {catalogue.AREAS[entry.area]}",
                link=f"/catalogue#{entry.id}",
            ),
            " ".join(entry.check.terms),
        )
        for entry in catalogue.load().values()
    ]


def _todos(session: Session) -> list[SearchHit]:
    rows = session.execute(select(Todo.id, Todo.title, Site.host).join(Site).where(Todo.state.in_(LIVE_TODO), ~Site.archived))
    return [SearchHit(kind=HitKind.TODO, name=title, detail=f"to-do {i} · {host}", link=f"/todos/{i}") for i, title, host in rows]


def _pages(work: Workspace, session: Session, words: list[str]) -> list[SearchHit]:
    """A few pages of the latest run of every own site, by URL or title."""
    hits = []
    escaped = ["%" + word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%" for word in words]
    condition = " AND ".join("(url LIKE ? ESCAPE '\\' OR title LIKE ? ESCAPE '\\')" for _ in words)
    values = [pattern for pattern in escaped for _ in range(2)]
    sql = (
        "SELECT url, coalesce(title, '') FROM inventory"
        f" WHERE role = 0 AND state = 1 AND {condition} ORDER BY length(url) LIMIT {PAGES_OF_A_SITE}"
    )
    for site in session.scalars(select(Site).where(Site.kind == SiteKind.OWN, ~Site.archived)):
        run = latest_run(session, site)
        if run is None:
            continue
        try:
            with work.open_run(run.id) as opened:
                rows = opened.rows(sql, *values)
        except DamagedRun:
            continue
        hits += [
            SearchHit(kind=HitKind.PAGE, name=title or url, detail=url, link=f"/sites/{site.id}/page?url={quote(url, safe='')}")
            for url, title in rows
        ]
    return hits
