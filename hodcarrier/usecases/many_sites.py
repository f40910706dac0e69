"""Changes to several sites at once: worked out first, so that people see them, and then made, all of them or none."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, time
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload, undefer

from hodcarrier.core.errors import Conflict, InvalidInput, InvalidSchedule, NotFound
from hodcarrier.core.plan import differences, plan_values, read_plan
from hodcarrier.core.schedule import read_recurrence, read_time, spread_starts
from hodcarrier.core.settings import SETTINGS
from hodcarrier.core.words import distinct
from hodcarrier.register.models import Member, Preset, Schedule, Site
from hodcarrier.usecases.plans import plan_of, set_plan
from hodcarrier.usecases.presets import check_schedule, check_shared
from hodcarrier.usecases.schedules import put_schedule, schedule_out, set_paused
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.presets import SiteChange, SiteDifference, SiteDraft, SitesChange, SitesChanged, SitesPick, SpreadSchedule
from hodcarrier.wire.schedules import ScheduleBody

_LABELS = {setting.name: setting.label for setting in SETTINGS}


def plan_site_changes(work: Workspace, pick: SitesPick) -> list[SiteDraft]:
    """What would become of each site, in the order that was given: the changes, and what differs by them. Nothing is changed.

    Raises :class:`InvalidInput` for settings that belong to one site alone, :class:`InvalidSchedule`, and :class:`NotFound` for what is not there.
    """
    with work.session() as session:
        preset = fetch(session, Preset, pick.preset_id, "preset") if pick.preset_id is not None else None
        values = {**(preset.settings if preset is not None else {}), **pick.values}
        check_shared(session, values)
        wanted = pick.schedule
        if wanted is None and preset is not None and preset.schedule is not None:
            wanted = SpreadSchedule.model_validate(preset.schedule)
        if wanted is not None:
            check_schedule(work, wanted)
        sites = _sites(session, list(dict.fromkeys(pick.site_ids)))
        starts = _starts(wanted, len(sites))
        drafts = []
        for site, start in zip(sites, starts, strict=True):
            change = SiteChange(
                site_id=site.id,
                plan_version=site.plan_version if values else None,
                values=values,
                schedule=_schedule_at(wanted, start, site.schedule),
                no_schedule=pick.no_schedule and wanted is None,
                paused=pick.paused if pick.paused is not None and (site.schedule is not None or wanted is not None) else None,
                tags=_tags(site, pick) if pick.add_tags or pick.remove_tags else None,
            )
            drafts.append(_draft(work.now(), site, change))
        # What was only worked out is not kept.
        session.rollback()
        return drafts


def _sites(session: Session, ids: Sequence[int]) -> list[Site]:
    chosen = select(Site).where(Site.id.in_(ids)).options(undefer(Site.plan), joinedload(Site.client), joinedload(Site.schedule))
    found = {site.id: site for site in session.scalars(chosen)}
    missing = [number for number in ids if number not in found]
    if missing:
        raise NotFound(f"There is no site {missing[0]}.", "Load the sites again.")
    return [found[number] for number in ids]


def _starts(schedule: SpreadSchedule | None, count: int) -> list[time | None]:
    if schedule is None or not schedule.until:
        return [None] * count
    return list(spread_starts(read_time(schedule.at, "at"), read_time(schedule.until, "until"), count))


def _schedule_at(wanted: SpreadSchedule | None, start: time | None, kept: Schedule | None) -> ScheduleBody | None:
    """The schedule of one site. Whoever is told of its runs now stays so where nobody is named."""
    if wanted is None:
        return None
    body = ScheduleBody.model_validate(wanted.model_dump(exclude={"until"}))
    mail_to = body.mail_to or (list(kept.mail_to) if kept is not None else [])
    return body.model_copy(update={"at": f"{start:%H:%M}" if start is not None else body.at, "mail_to": mail_to})


def _tags(site: Site, pick: SitesPick) -> list[str]:
    gone = {tag.casefold() for tag in pick.remove_tags}
    return distinct([*(tag for tag in site.tags if tag.casefold() not in gone), *pick.add_tags])


def _draft(now: datetime, site: Site, change: SiteChange) -> SiteDraft:
    return SiteDraft(
        change=change,
        host=site.host,
        client_name=site.client.name,
        differences=_differences(now, site, change),
        next_due_at=_next(now, site, change),
    )


def _differences(now: datetime, site: Site, change: SiteChange) -> list[SiteDifference]:
    found = []
    if change.values:
        before = plan_of(site)
        after = read_plan({**plan_values(before), **change.values})
        found += [
            SiteDifference(name=_LABELS.get(name, name), before=old, after=new) for name, old, new in differences(before, after)
        ]
    if change.schedule is not None:
        old = schedule_out(site.schedule) if site.schedule is not None else None
        new = read_recurrence(change.schedule.rule, change.schedule.at, change.schedule.zone, now).words
        if old is None or old.words != new:
            found.append(SiteDifference(name="Schedule", before=old.words if old is not None else "none", after=new))
        if old is not None and old.mail_to != change.schedule.mail_to:
            found.append(SiteDifference(name="Mail to", before=_listed(old.mail_to), after=_listed(change.schedule.mail_to)))
    elif change.no_schedule and site.schedule is not None:
        found.append(SiteDifference(name="Schedule", before=schedule_out(site.schedule).words, after="none"))
    if change.paused is not None:
        paused = site.schedule is not None and site.schedule.paused_at is not None
        if paused != change.paused:
            found.append(SiteDifference(name="Paused", before=_yes(paused), after=_yes(change.paused)))
    if change.tags is not None and change.tags != site.tags:
        found.append(SiteDifference(name="Tags", before=_listed(site.tags), after=_listed(change.tags)))
    return found


def _listed(words: Sequence[str]) -> str:
    return ", ".join(words) or "none"


def _yes(value: bool) -> str:
    return "yes" if value else "no"


def _next(now: datetime, site: Site, change: SiteChange) -> datetime | None:
    paused = change.paused if change.paused is not None else site.schedule is not None and site.schedule.paused_at is not None
    if paused or change.no_schedule:
        return None
    if change.schedule is None:
        return site.schedule.next_due_at if site.schedule is not None else None
    blackout = site.client.blackout_dates
    return read_recurrence(change.schedule.rule, change.schedule.at, change.schedule.zone, now).next_due(now, blackout)


def change_sites(work: Workspace, body: SitesChange, member: Member) -> SitesChanged:
    """Change several sites, all of them or none; gives the changes that undo it.

    Raises :class:`Conflict` when somebody changed one of their plans in the meantime, and what is wrong with settings or schedules, naming the site.
    """
    now = work.now()
    undo = []
    with work.session() as session:
        sites = _sites(session, list(dict.fromkeys(change.site_id for change in body.changes)))
        if len(sites) < len(body.changes):
            raise InvalidInput("A site is named twice.", "Name each site once.", "changes")
        for site, change in zip(sites, body.changes, strict=True):
            check_shared(session, change.values)
            if not _differences(now, site, change):
                continue
            undo.append(_back(site, change))
            _change(session, now, site, change)
        log(session, now, member.id, "sites changed", f"{len(undo)}: {', '.join(site.host for site in sites[:10])}")
    return SitesChanged(changed=len(undo), undo=undo)


def _back(site: Site, change: SiteChange) -> SiteChange:
    """The change that makes of a site what it is now."""
    before: dict[str, Any] = {"site_id": site.id}
    if change.values:
        kept = plan_values(plan_of(site))
        before["values"] = {name: kept[name] for name in change.values}
    if (change.schedule is not None or change.no_schedule) and site.schedule is not None:
        before["schedule"] = ScheduleBody.model_validate(
            schedule_out(site.schedule).model_dump(include=set(ScheduleBody.model_fields))
        )
    elif change.schedule is not None:
        before["no_schedule"] = True
    if change.paused is not None and site.schedule is not None:
        before["paused"] = site.schedule.paused_at is not None
    if change.tags is not None:
        before["tags"] = list(site.tags)
    return SiteChange(**before)


def _change(session: Session, now: datetime, site: Site, change: SiteChange) -> None:
    if change.values:
        if change.plan_version is not None and change.plan_version != site.plan_version:
            raise Conflict(f"Somebody changed the plan of {site.host} in the meantime.", "Look at the preview again.")
        set_plan(session, site, read_plan({**plan_values(plan_of(site)), **change.values}))
        site.plan_version += 1
    if change.schedule is not None:
        try:
            put_schedule(session, now, site, change.schedule)
        except InvalidSchedule as problem:
            raise InvalidSchedule(f"{site.host}: {problem.message}", problem.hint, problem.field) from None
        session.refresh(site, ["schedule"])
    elif change.no_schedule and site.schedule is not None:
        session.delete(site.schedule)
        session.flush()
        session.refresh(site, ["schedule"])
    if change.paused is not None and site.schedule is not None:
        set_paused(session, now, site.schedule, paused=change.paused)
    if change.tags is not None:
        site.tags = distinct(change.tags)
