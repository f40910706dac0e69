"""What registries say of the domains of sites: claimed while they are asked, kept with the days on which they said so."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from sqlalchemy import ColumnElement, func, or_, select
from sqlalchemy.dialects.sqlite import insert

from hodcarrier.core.figures.domains import DomainFacts, candidates, domain_sentence
from hodcarrier.core.states import SiteKind
from hodcarrier.register.models import DomainCheck, DomainRecord, Site
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.feeds import DomainHistory, DomainOut

CLAIM = timedelta(minutes=10)
EVERY = timedelta(days=1)
WAITS = tuple(timedelta(hours=h) for h in (1, 6, 24))
AT_ONCE = 4


@dataclass(frozen=True)
class Question:
    """A site whose registry is to be asked now, and the names to ask for."""

    site_id: int
    host: str
    names: Sequence[str]


def get_domain(work: Workspace, site_id: int, *, asks: bool = True) -> DomainHistory:
    """What the registry says of a site's domain, now and before. ``asks``: the service knows whom to ask."""
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        check = session.get(DomainCheck, site_id)
        chosen = select(DomainRecord).where(DomainRecord.site_id == site_id).order_by(DomainRecord.first_seen.desc())
        records = [DomainOut.model_validate(_values(row)) for row in session.scalars(chosen)]
        error = check.error if check is not None else ""
        found = records[0] if records else None
        if found is not None:
            facts = DomainFacts(found.domain, found.registrar, found.created, found.expires, tuple(found.name_servers))
            sentence = domain_sentence(facts, work.now().date())
        elif not asks:
            sentence = "No registry is set up, so nothing is known of the domain."
        elif site.kind == SiteKind.COMPETITOR:
            sentence = "Only domains of clients are looked after."
        else:
            sentence = error or "The registry has not been asked yet."
        return DomainHistory(
            sentence=sentence,
            now=found,
            before=records[1:],
            asked_at=check.asked_at if check is not None else None,
            error=error,
        )


def claim_due(work: Workspace) -> list[Question]:
    """Own sites for the caller to ask about: those that were never asked about, or not since yesterday."""
    now = work.now()
    free = or_(DomainCheck.claimed_until.is_(None), DomainCheck.claimed_until < now)
    is_due = or_(DomainCheck.site_id.is_(None), (DomainCheck.next_at <= now) & free)
    due = (
        select(Site.id, Site.host)
        .outerjoin(DomainCheck, DomainCheck.site_id == Site.id)
        .where(Site.kind == SiteKind.OWN, ~Site.archived, is_due)
        .order_by(DomainCheck.next_at)
        .limit(AT_ONCE)
    )
    with work.reading() as session:
        if session.execute(due).first() is None:
            return []
    with work.session() as session:
        found = session.execute(due).all()
        for site_id, _ in found:
            claimed = insert(DomainCheck).values(site_id=site_id, next_at=now, claimed_until=now + CLAIM, failures=0, error="")
            session.execute(claimed.on_conflict_do_update(index_elements=["site_id"], set_={"claimed_until": now + CLAIM}))
        return [Question(site_id, host, candidates(host)) for site_id, host in found]


def note_facts(work: Workspace, site_id: int, facts: DomainFacts) -> None:
    """Keep what a registry said: the same as before is so for one more day, anything else is a new record."""
    now = work.now()
    with work.session() as session:
        check = session.get(DomainCheck, site_id)
        if check is None:
            return
        check.claimed_until, check.asked_at, check.failures, check.error, check.next_at = None, now, 0, "", now + EVERY
        chosen = select(DomainRecord).where(DomainRecord.site_id == site_id).order_by(DomainRecord.first_seen.desc()).limit(1)
        last = session.scalar(chosen)
        values = {**vars(facts), "name_servers": list(facts.name_servers)}
        if last is not None and all(getattr(last, name) == value for name, value in values.items()):
            last.last_seen = now.date()
        elif last is not None and last.first_seen == now.date():
            for name, value in values.items():
                setattr(last, name, value)
        else:
            session.add(DomainRecord(site_id=site_id, first_seen=now.date(), last_seen=now.date(), **values))


def note_failed(work: Workspace, site_id: int, error: str, wait_s: float | None = None) -> None:
    """Note why nothing was learnt; what was known before stays."""
    now = work.now()
    with work.session() as session:
        check = session.get(DomainCheck, site_id)
        if check is None:
            return
        wait = WAITS[min(check.failures, len(WAITS) - 1)]
        check.claimed_until, check.asked_at, check.failures, check.error = None, now, check.failures + 1, error[:1000]
        check.next_at = now + max(wait, timedelta(seconds=min(wait_s or 0, EVERY.total_seconds())))


def of_site() -> ColumnElement[str]:
    """The domain of a site and when its registration ends, as JSON: of all sites in the one question that reads them."""
    found = select(func.json_object("domain", DomainRecord.domain, "expires", DomainRecord.expires))
    latest = found.where(DomainRecord.site_id == Site.id).order_by(DomainRecord.first_seen.desc()).limit(1)
    return latest.correlate(Site).scalar_subquery().label("domain")


def named(said: str | None) -> tuple[str, date | None]:
    """What :func:`of_site` has found: the domain (empty where nothing is known), and when its registration ends."""
    found = json.loads(said) if said else {}
    ends = found.get("expires")
    return found.get("domain", ""), date.fromisoformat(ends) if ends else None


def _values(row: DomainRecord) -> dict[str, object]:
    return {name: getattr(row, name) for name in DomainOut.model_fields}
