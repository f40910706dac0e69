"""Profiles: what several sites share of how they are judged."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

import msgspec
from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, InvalidInput, InvalidPlan, NotFound
from hodcarrier.core.plan import Plan, check_rules
from hodcarrier.core.profile import Rules, under
from hodcarrier.register.models import Member, Profile, Site
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.profiles import ProfileBody, ProfileChange, ProfileOut, ProfileSite

NAMED_MAX = 5


def check_names(thresholds: Iterable[str], checks: Iterable[str]) -> None:
    """Raise :class:`InvalidInput` for a limit that no check has, :class:`NotFound` for a check that is not in the catalogue."""
    unknown = set(thresholds) - {name for e in catalogue.load().values() for name in e.check.limits}
    if unknown:
        raise InvalidInput(
            f"No check has a limit called {', '.join(sorted(unknown))}.", "See `hodcarrier catalogue show ID`.", "thresholds"
        )
    for check in checks:
        catalogue.get(check)


def list_profiles(work: Workspace) -> list[ProfileOut]:
    """All profiles by name, with the sites that use them."""
    with work.reading() as session:
        rows = session.scalars(select(Profile).order_by(Profile.name.collate("NOCASE"))).all()
        users: dict[int, list[Site]] = {row.id: [] for row in rows}
        for site in session.scalars(_users().where(Site.profile_id.is_not(None))):
            users[site.profile_id or 0].append(site)
        return [_out(row, users[row.id]) for row in rows]


def get_profile(work: Workspace, profile_id: int) -> ProfileOut:
    """One profile with the sites that use it."""
    with work.reading() as session:
        return _with_users(session, fetch(session, Profile, profile_id, "profile"))


def add_profile(work: Workspace, body: ProfileBody, member: Member | None) -> ProfileOut:
    """Add a profile. Raises :class:`Conflict` when the name is taken."""
    rules = _read(body.model_dump(mode="json", exclude={"name", "note"}))
    now = work.now()
    with work.session() as session:
        row = Profile(name=body.name, note=body.note, rules=rules, created_at=now, changed_at=now)
        with unless_taken(session, f"There is already a profile called {body.name}.", "Give another name."):
            session.add(row)
        log(session, now, member.id if member else None, "profile added", row.name)
        return _out(row, ())


def change_profile(work: Workspace, profile_id: int, body: ProfileChange, version: int | None, member: Member) -> ProfileOut:
    """Change a profile; future runs of the sites that use it are judged by it. Raises :class:`Conflict` when somebody else changed it since
    ``version``, or the name is taken."""
    given = body.model_dump(mode="json", exclude_unset=True)
    with work.session() as session:
        row = fetch(session, Profile, profile_id, "profile")
        if version is not None and version != row.version:
            raise Conflict("Somebody changed this profile in the meantime.", "Look at what they changed, then save again.")
        with unless_taken(session, f"There is already a profile called {body.name}.", "Give another name."):
            row.name, row.note = given.pop("name", row.name), given.pop("note", row.note)
            row.rules = _read({**msgspec.to_builtins(row.rules), **given})
            row.version += 1
            row.changed_at = work.now()
        log(session, work.now(), member.id, "profile changed", row.name)
        return _with_users(session, row)


def remove_profile(work: Workspace, profile_id: int, member: Member) -> None:
    """Remove a profile that no site uses. Raises :class:`Conflict` naming the sites that do."""
    with work.session() as session:
        row = fetch(session, Profile, profile_id, "profile")
        hosts = [site.host for site in session.scalars(_users().where(Site.profile_id == profile_id))]
        named = ", ".join(hosts[:NAMED_MAX]) + (f" and {len(hosts) - NAMED_MAX} more" if len(hosts) > NAMED_MAX else "")
        with unless_taken(
            session, f"{row.name} is used by {named or 'a site'}.", "Choose another profile, or none, in their plans first."
        ):
            session.delete(row)
        log(session, work.now(), member.id, "profile removed", row.name)


def find_profile(session: Session, name: str) -> Profile | None:
    """The profile of a name; none when the name is empty. Raises :class:`NotFound` naming what there is."""
    if not name:
        return None
    rows = session.scalars(select(Profile).order_by(Profile.name)).all()
    found = next((row for row in rows if row.name.casefold() == name.casefold()), None)
    if found is None:
        there = ", ".join(row.name for row in rows) or "none yet"
        raise NotFound(f"There is no profile called “{name}”.", f"Profiles: {there}.")
    return found


def judged_plan(site: Site) -> Plan:
    """A site's plan with what its profile says: what an audit of it uses."""
    return site.plan if site.profile is None else under(site.plan, site.profile.name, site.profile.rules)


def _read(values: Mapping[str, Any]) -> Rules:
    """The rules in plain values, each checked, with the ids that checks have now."""
    try:
        rules = msgspec.convert(dict(values), Rules, strict=False)
    except msgspec.ValidationError as error:
        raise InvalidPlan(f"The profile cannot be used: {error}.", "Correct that value and save again.") from None
    check_names(rules.thresholds, (*rules.checks_off, *rules.severities))
    check_rules(rules.thresholds, rules.severities)
    return rules


def _users() -> Any:
    return select(Site).options(selectinload(Site.client)).order_by(Site.host)


def _with_users(session: Session, row: Profile) -> ProfileOut:
    return _out(row, session.scalars(_users().where(Site.profile_id == row.id)).all())


def _out(row: Profile, users: Iterable[Site]) -> ProfileOut:
    return ProfileOut(
        id=row.id,
        name=row.name,
        note=row.note,
        checks_off=list(row.rules.checks_off),
        thresholds=dict(row.rules.thresholds),
        severities=dict(row.rules.severities),
        version=row.version,
        changed_at=row.changed_at,
        sites=[ProfileSite(id=s.id, host=s.host, client_name=s.client.name) for s in users],
    )
