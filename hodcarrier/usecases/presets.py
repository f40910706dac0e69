"""Presets: what sites are set up with, under a name."""

from __future__ import annotations

from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict, InvalidInput
from hodcarrier.core.plan import Plan, plan_values, read_plan
from hodcarrier.core.schedule import read_recurrence, read_time, short_rule, spread_starts
from hodcarrier.core.settings import OWN_TO_A_SITE, SURROUNDINGS
from hodcarrier.register.models import Member, Preset, Site
from hodcarrier.usecases.plans import plan_of
from hodcarrier.usecases.profiles import check_names, find_profile
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.presets import PresetBody, PresetChange, PresetFields, PresetOut, SpreadSchedule

# A plan needs a start URL to be read; the sites have their own.
_ANY_START = {"start": ["https://site.example/"]}


def list_presets(work: Workspace) -> list[PresetOut]:
    """All presets by name."""
    with work.reading() as session:
        return [_out(row) for row in session.scalars(select(Preset).order_by(Preset.name.collate("NOCASE")))]


def add_preset(work: Workspace, body: PresetBody, member: Member | None) -> PresetOut:
    """Add a preset. Raises :class:`Conflict` when the name is taken, and what is wrong with its settings or its schedule."""
    now = work.now()
    with work.session() as session:
        if body.from_site is not None:
            body = _like_site(session, body, body.from_site)
        _check(work, session, body)
        row = Preset(created_at=now, changed_at=now, **_columns(body))
        with unless_taken(session, f"There is already a preset called {body.name}.", "Give another name."):
            session.add(row)
        log(session, now, member.id if member else None, "preset added", row.name)
        return _out(row)


def change_preset(work: Workspace, preset_id: int, change: PresetChange, version: int | None, member: Member) -> PresetOut:
    """Change a preset; sites that were set up with it stay as they are. Raises :class:`Conflict` when somebody else changed it since ``version``."""
    with work.session() as session:
        row = fetch(session, Preset, preset_id, "preset")
        if version is not None and version != row.version:
            raise Conflict("Somebody changed this preset in the meantime.", "Look at what they changed, then save again.")
        given = change.model_dump(mode="json", exclude_unset=True, exclude={"from_site"})
        if change.from_site is not None:
            given["settings"] = {**_settings_of(session, change.from_site), **(given.get("settings") or {})}
        kept = _out(row).model_dump(mode="json", include=set(PresetFields.model_fields))
        body = PresetFields.model_validate({**kept, **{k: v for k, v in given.items() if v is not None or k == "schedule"}})
        _check(work, session, body)
        with unless_taken(session, f"There is already a preset called {body.name}.", "Give another name."):
            for name, value in _columns(body).items():
                setattr(row, name, value)
            row.version += 1
            row.changed_at = work.now()
        log(session, work.now(), member.id, "preset changed", row.name)
        return _out(row)


def remove_preset(work: Workspace, preset_id: int, member: Member) -> None:
    """Remove a preset; sites that were set up with it stay as they are."""
    with work.session() as session:
        row = fetch(session, Preset, preset_id, "preset")
        log(session, work.now(), member.id, "preset removed", row.name)
        session.delete(row)


def check_shared(session: Session, values: dict[str, Any]) -> None:
    """Raise :class:`InvalidInput` for settings that several sites cannot have in common, and what is wrong with any of the others."""
    own = sorted(set(values) & (OWN_TO_A_SITE | SURROUNDINGS))
    if own:
        raise InvalidInput(f"“{own[0]}” belongs to one site alone.", "Set it in the site's own plan.", own[0])
    plan = read_plan({**_ANY_START, **values})
    check_names(plan.thresholds, (*plan.checks_off, *plan.severities))
    find_profile(session, plan.profile)


def check_schedule(work: Workspace, schedule: SpreadSchedule) -> None:
    """Raise :class:`InvalidSchedule` for one that cannot be kept."""
    read_recurrence(schedule.rule, schedule.at, schedule.zone, work.now())
    if schedule.until:
        spread_starts(read_time(schedule.at, "at"), read_time(schedule.until, "until"), 2)


def _like_site(session: Session, body: PresetBody, site_id: int) -> PresetBody:
    site = fetch(session, Site, site_id, "site")
    schedule = body.schedule
    if schedule is None and site.schedule is not None:
        schedule = SpreadSchedule(rule=short_rule(site.schedule.rule), at=site.schedule.at, zone=site.schedule.zone)
    return body.model_copy(update={"settings": {**_settings_of(session, site_id), **body.settings}, "schedule": schedule})


def _settings_of(session: Session, site_id: int) -> dict[str, Any]:
    """The settings of a site's plan that differ from the defaults, but for what belongs to it alone."""
    values, defaults = plan_values(plan_of(fetch(session, Site, site_id, "site"))), plan_values(Plan())
    return {name: value for name, value in values.items() if value != defaults[name] and name not in OWN_TO_A_SITE | SURROUNDINGS}


def _check(work: Workspace, session: Session, body: PresetFields) -> None:
    check_shared(session, body.settings)
    if body.schedule is not None:
        check_schedule(work, body.schedule)


def _columns(body: PresetFields) -> dict[str, Any]:
    plan = plan_values(read_plan({**_ANY_START, **body.settings}))
    return {
        "name": body.name,
        "note": body.note,
        "settings": {name: plan[name] for name in body.settings},
        "schedule": body.schedule.model_dump(mode="json") if body.schedule is not None else None,
        "todos": [todo.model_dump(mode="json") for todo in body.todos],
    }


def _out(row: Preset) -> PresetOut:
    return PresetOut.model_validate(row)
