"""Clients, sites, plans, schedules, remarks, waivers, metrics."""

from __future__ import annotations

import csv
import io
import math
from datetime import date

from sqlalchemy import func, or_, select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, InvalidInput, InvalidSchedule, NotFound
from hodcarrier.core.plan import plan_values, read_plan
from hodcarrier.core.schedule import read_recurrence, short_rule
from hodcarrier.core.urls import read_address
from hodcarrier.core.waivers import Waiver
from hodcarrier.register.models import Client, Member, Metric, Remark, Run, Schedule, Site, Todo, WaiverRow
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.sites import (
    ClientBody,
    ClientOut,
    RunBrief,
    ScheduleBody,
    ScheduleOut,
    SiteBody,
    SiteBrief,
    SiteOut,
)
from hodcarrier.wire.work import MetricRow, RemarkBody, RemarkOut, WaiverBody, WaiverOut

METRIC_ROWS_MAX = 100_000


def add_client(work: Workspace, body: ClientBody, member: Member | None) -> ClientOut:
    """Add a client. Raises :class:`Conflict` when the name is taken."""
    name = body.name.strip()
    with work.session() as session:
        if session.scalar(select(Client).where(Client.name == name)):
            raise Conflict(f"There is already a client called {name}.", "Give another name.")
        client = Client(name=name, created_at=work.now())
        session.add(client)
        session.flush()
        log(session, work.now(), member.id if member else None, "client added", name)
        return ClientOut(id=client.id, name=name, created_at=client.created_at)


def list_clients(work: Workspace, only: int | None = None) -> list[ClientOut]:
    """All clients with their sites (``only``: the one a guest belongs to)."""
    with work.session() as session:
        chosen = select(Client).order_by(Client.name)
        if only is not None:
            chosen = chosen.where(Client.id == only)
        health = _latest_health(session)
        return [
            ClientOut(
                id=c.id,
                name=c.name,
                created_at=c.created_at,
                sites=[SiteBrief(id=s.id, host=s.host, kind=s.kind, health=health.get(s.id)) for s in c.sites],
            )
            for c in session.scalars(chosen)
        ]


def _latest_health(session: Session) -> dict[int, float | None]:
    """Health by site: of the latest audit, for a competitor of its latest benchmark run."""
    shown = or_(Run.purpose == "audit", Site.kind != "own")
    chosen = select(Run.site_id, Run.health).join(Site).where(Run.state == "done", shown).order_by(Run.requested_at)
    return dict(session.execute(chosen).all())


def remove_client(work: Workspace, client_id: int, member: Member) -> None:
    """Remove a client with its sites and their records. Run files stay until they are cleaned up."""
    with work.session() as session:
        client = fetch(session, Client, client_id, "client")
        log(session, work.now(), member.id, "client removed", client.name)
        session.delete(client)


def add_site(work: Workspace, body: SiteBody, member: Member | None) -> SiteOut:
    """Add a site to a client; an address is enough. Raises :class:`InvalidUrl`, :class:`InvalidPlan`, :class:`Conflict`."""
    address = read_address(body.address)
    plan = read_plan({"start": [address], **body.plan})
    with work.session() as session:
        client = fetch(session, Client, body.client_id, "client")
        if session.scalar(select(Site).where(Site.client_id == client.id, Site.host == plan.host)):
            raise Conflict(f"{client.name} already has the site {plan.host}.", "Change its plan instead.")
        site = Site(client_id=client.id, host=plan.host, kind=body.kind, plan=plan_values(plan), created_at=work.now())
        session.add(site)
        session.flush()
        log(session, work.now(), member.id if member else None, "site added", plan.host)
        return site_out(session, site)


def list_sites(work: Workspace, kind: str = "", client_id: int | None = None) -> list[SiteOut]:
    """Sites by client and host."""
    with work.session() as session:
        chosen = select(Site).join(Client).order_by(Client.name, Site.kind.desc(), Site.host)
        if kind:
            chosen = chosen.where(Site.kind == kind)
        if client_id is not None:
            chosen = chosen.where(Site.client_id == client_id)
        return [site_out(session, site) for site in session.scalars(chosen)]


def get_site(work: Workspace, site_id: int) -> SiteOut:
    """One site."""
    with work.session() as session:
        found = site_out(session, fetch(session, Site, site_id, "site"))
        last = found.last_run
        if last is not None and last.state == "failed" and found.running is None:
            found.can_go_on = (work.folder / f"{last.id}.part").exists()
        return found


def remove_site(work: Workspace, site_id: int, member: Member) -> None:
    """Remove a site with its records."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        log(session, work.now(), member.id, "site removed", site.host)
        session.delete(site)


def site_out(session: Session, site: Site) -> SiteOut:
    """A site as the surfaces show it. The runs of a competitor are those of its benchmarks."""
    runs = select(Run).where(Run.site_id == site.id)
    if site.kind == "own":
        runs = runs.where(Run.purpose == "audit")
    last = session.scalar(runs.where(Run.state.in_(("done", "failed"))).order_by(Run.requested_at.desc()).limit(1))
    done = session.scalar(runs.where(Run.state == "done").order_by(Run.requested_at.desc()).limit(1))
    running = session.scalar(runs.where(Run.state.in_(("queued", "crawling", "examining"))).order_by(Run.requested_at).limit(1))
    return SiteOut(
        id=site.id,
        host=site.host,
        kind=site.kind,
        health=done.health if done else None,
        client_id=site.client_id,
        client_name=site.client.name,
        created_at=site.created_at,
        schedule=schedule_out(site.schedule) if site.schedule else None,
        last_run=run_brief(last) if last else None,
        running=run_brief(running) if running else None,
        runs=session.scalar(select(func.count()).select_from(runs.where(Run.state == "done").subquery())) or 0,
        open_todos=session.scalar(select(func.count()).where(Todo.site_id == site.id, Todo.state.in_(("open", "doing")))) or 0,
    )


def run_brief(run: Run) -> RunBrief:
    """A run in a list."""
    summary = run.summary or {}
    return RunBrief(
        id=run.id,
        site_id=run.site_id,
        state=run.state,
        purpose=run.purpose,
        reason=run.reason,
        requested_at=run.requested_at,
        started_at=run.started_at,
        finished_at=run.finished_at,
        health=run.health,
        pages=summary.get("pages_scored"),
        findings=summary.get("findings"),
        end_words=summary.get("end_words", ""),
    )


def schedule_out(row: Schedule) -> ScheduleOut:
    """A schedule as the surfaces show it."""
    words = read_recurrence(row.rule, row.at, row.zone, row.anchor).words
    return ScheduleOut(
        rule=short_rule(row.rule), at=row.at, zone=row.zone, mail_to=row.mail_to, next_due_at=row.next_due_at, words=words
    )


def set_schedule(work: Workspace, site_id: int, body: ScheduleBody, member: Member | None) -> ScheduleOut:
    """Set when a site is audited. Raises :class:`InvalidSchedule`."""
    now = work.now()
    recurrence = read_recurrence(body.rule, body.at, body.zone, now)
    due = recurrence.next_due(now)
    if due is None:
        raise InvalidSchedule("That recurrence has already come to its end.", "Give one that goes on.", "rule")
    for address in body.mail_to:
        if "@" not in address.strip("@"):
            raise InvalidInput(f"“{address}” is not an e-mail address.", "Give one such as imke@agency.example.", "mail_to")
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        row = site.schedule or Schedule(site_id=site.id, mail_to=[])
        row.rule, row.at, row.zone, row.anchor = recurrence.rule, f"{recurrence.at:%H:%M}", body.zone, now
        row.next_due_at, row.mail_to = due, body.mail_to
        session.add(row)
        session.flush()
        log(session, now, member.id if member else None, "schedule set", site.host)
        return schedule_out(row)


def remove_schedule(work: Workspace, site_id: int, member: Member) -> None:
    """Stop auditing a site by itself."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        if site.schedule is None:
            raise NotFound(f"{site.host} has no schedule.", "There is nothing to remove.")
        session.delete(site.schedule)
        log(session, work.now(), member.id, "schedule removed", site.host)


def add_remark(work: Workspace, site_id: int, body: RemarkBody, member: Member | None) -> RemarkOut:
    """Pin a note to a day of a site's timeline."""
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        row = Remark(
            site_id=site_id, day=body.day, text=body.text, author_id=member.id if member else None, created_at=work.now()
        )
        session.add(row)
        session.flush()
        return RemarkOut(id=row.id, day=row.day, text=row.text)


def list_remarks(work: Workspace, site_id: int) -> list[RemarkOut]:
    """Remarks of a site by day."""
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        rows = session.scalars(select(Remark).where(Remark.site_id == site_id).order_by(Remark.day))
        return [RemarkOut(id=r.id, day=r.day, text=r.text) for r in rows]


def remove_remark(work: Workspace, remark_id: int) -> None:
    """Take a remark away."""
    with work.session() as session:
        session.delete(fetch(session, Remark, remark_id, "remark"))


def add_waiver(work: Workspace, site_id: int, body: WaiverBody, member: Member | None) -> WaiverOut:
    """Waive a check on a place, a page, a pattern or the whole site. It holds from today."""
    catalogue.get(body.check)
    today = work.now().date()
    if body.end is not None and body.end < today:
        raise InvalidInput(f"The end date {body.end} is in the past.", "Give a later one, or none.", "end")
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        row = WaiverRow(
            site_id=site_id,
            check_id=body.check,
            pattern=body.pattern,
            fingerprint=body.fingerprint,
            reason=body.reason,
            author_id=member.id if member else None,
            start=today,
            end=body.end,
            created_at=work.now(),
        )
        session.add(row)
        session.flush()
        log(session, work.now(), row.author_id, "waiver added", body.check)
        return waiver_out(row, today)


def list_waivers(work: Workspace, site_id: int) -> list[WaiverOut]:
    """Waivers of a site, ended ones too."""
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        rows = session.scalars(select(WaiverRow).where(WaiverRow.site_id == site_id).order_by(WaiverRow.id))
        return [waiver_out(row, work.now().date()) for row in rows]


def remove_waiver(work: Workspace, waiver_id: int, member: Member) -> int:
    """End a waiver; returns the site it was for."""
    with work.session() as session:
        row = fetch(session, WaiverRow, waiver_id, "waiver")
        log(session, work.now(), member.id, "waiver removed", row.check_id)
        session.delete(row)
        return row.site_id


def waiver_out(row: WaiverRow, today: date) -> WaiverOut:
    """A waiver as the surfaces show it."""
    entry = catalogue.load().get(row.check_id)
    return WaiverOut(
        id=row.id,
        site_id=row.site_id,
        check=row.check_id,
        summary=entry.check.summary if entry else row.check_id,
        pattern=row.pattern,
        fingerprint=row.fingerprint,
        reason=row.reason,
        author=row.author.name if row.author else "",
        start=row.start,
        end=row.end,
        in_force=waiver_value(row).in_force(today),
    )


def waivers_in_force(work: Workspace, site_id: int) -> list[Waiver]:
    """The waivers of a site that hold today, as the core judges them."""
    with work.session() as session:
        rows = session.scalars(select(WaiverRow).where(WaiverRow.site_id == site_id))
        return [waiver for waiver in map(waiver_value, rows) if waiver.in_force(work.now().date())]


def waiver_value(row: WaiverRow) -> Waiver:
    """A waiver as the core judges it."""
    return Waiver(row.check_id, row.pattern, row.fingerprint, row.start, row.end)


def import_metrics(work: Workspace, site_id: int, text: str, member: Member | None) -> list[MetricRow]:
    """Read a CSV of figures (``day``, ``name``, ``value``, ``source``); a figure for a day replaces the one before.

    Nothing is imported unless every row can be read. Raises :class:`InvalidInput` naming the row.
    """
    reader = csv.DictReader(io.StringIO(text.removeprefix("\ufeff")))
    missing = {"day", "name", "value"} - set(reader.fieldnames or ())
    if missing:
        raise InvalidInput(
            f"The table lacks the column {', '.join(sorted(missing))}.", "Give day, name, value and, if known, source.", "csv"
        )
    rows = []
    for number, row in enumerate(reader, 2):
        try:
            found = MetricRow(
                name=(row["name"] or "").strip(),
                day=date.fromisoformat((row["day"] or "").strip()),
                value=float(row["value"] or ""),
                source=row.get("source") or "",
            )
            if not found.name or not math.isfinite(found.value):
                raise ValueError("a figure has a name and a finite value")
        except (ValueError, TypeError):
            raise InvalidInput(
                f"Row {number} cannot be read: {row}.", "Write the day as YYYY-MM-DD, a name, and the value as a number.", "csv"
            ) from None
        rows.append(found)
        if len(rows) > METRIC_ROWS_MAX:
            raise InvalidInput("The table has more than 100,000 rows.", "Import it in parts.", "csv")
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        known = {(m.name, m.day): m for m in session.scalars(select(Metric).where(Metric.site_id == site_id))}
        for given in rows:
            metric = known.get((given.name, given.day))
            if metric is None:
                metric = known[(given.name, given.day)] = Metric(site_id=site_id, name=given.name, day=given.day)
                session.add(metric)
            metric.value, metric.source = given.value, given.source
        log(session, work.now(), member.id if member else None, "metrics imported", f"{len(rows)} rows")
    return rows


def list_metrics(work: Workspace, site_id: int) -> list[MetricRow]:
    """Imported figures of a site by name and day."""
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        rows = session.scalars(select(Metric).where(Metric.site_id == site_id).order_by(Metric.name, Metric.day))
        return [MetricRow(name=m.name, day=m.day, value=m.value, source=m.source) for m in rows]
