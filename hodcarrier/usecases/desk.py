"""The desk: what needs attention today, across clients."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta

from sqlalchemy import ColumnElement, and_, func, or_, select
from sqlalchemy.orm import Session

from hodcarrier.core.judge.todos import last_working_day
from hodcarrier.core.states import ACTIVE_RUN, UNFINISHED_TODO, RunPurpose, RunState, SiteKind, TodoOrder
from hodcarrier.core.words import fill, signed
from hodcarrier.register.models import Member, Remark, Run, RunProgress, Site, SiteState, Todo, WaiverRow
from hodcarrier.usecases import desk_items, desk_news, domain_records, figure_feeds
from hodcarrier.usecases.run_brief import BRIEF, run_brief
from hodcarrier.usecases.sites import read_sites, sites_out
from hodcarrier.usecases.todo_lists import in_order, todo_out
from hodcarrier.usecases.workspace import AnyRow, Workspace
from hodcarrier.wire.desk import DeskOut, DeskSite
from hodcarrier.wire.remarks import LineRemark
from hodcarrier.wire.sites import SiteOut
from hodcarrier.wire.todos import TodoOut

TODOS_SHOWN = 6


def get_desk(work: Workspace, member: Member, building: str = "", troubles: Sequence[str] = ()) -> DeskOut:
    """Everything on the desk of a member. ``building`` says that a history is still being audited, ``troubles`` what keeps the service
    from its work."""
    now = work.now()
    today, since = now.date(), _since(now)
    with work.reading() as session:
        # Competitors too: what happened to them is told as well.
        known = read_sites(session, ~Site.archived, also=[_remarks_of_line(), figure_feeds.of_site(), domain_records.of_site()])
        sites = [site for site in known if site.kind == SiteKind.OWN]
        runs = _runs(session, since)
        by_id, places = {run.id: run for run in runs}, {site.id: desk_items.place(site) for site in known}
        shown = sites_out(session, sites, runs)
        rows = [_site_row(site, out, by_id) for site, out in zip(sites, shown, strict=True)]
        active = [r for r in sorted(runs, key=lambda each: each.sequence) if r.state in ACTIVE_RUN and r.site_id in places]
        ending = session.scalars(
            select(WaiverRow)
            .join(Site, Site.id == WaiverRow.site_id)
            .where(~Site.archived, ~WaiverRow.replaced, WaiverRow.end.between(today, today + timedelta(days=7)))
        ).all()
        ending_certificates = desk_items.certificates(sites, now)
        drafts, undelivered = desk_items.waiting(session)
        items = [
            *desk_items.service(troubles),
            *desk_items.failures(sites, by_id),
            *desk_items.stuck(active, places, now),
            *desk_items.lost_files(known, by_id),
            *undelivered,
            *desk_items.feeds(known, today),
            *desk_items.alerts(session, places, [item.site_id for item in ending_certificates]),
            *desk_items.late_work(session, member, today),
            *drafts,
            *(desk_items.waiver_item(places, row) for row in ending),
            *ending_certificates,
            *desk_items.domains(sites, today),
            *desk_items.stale(sites, shown, now),
        ]
        events = desk_news.events(sites, by_id, since)
        judged = desk_news.judged(session, since)
        patterns = desk_news.patterns(sites, by_id, now)
        ended = Counter(
            run.state for run in runs if run.purpose == RunPurpose.AUDIT and run.finished_at and run.finished_at > since
        )
        mine, overdue, this_week = _own_work(session, member, today)
    rows.sort(key=lambda r: -r.attention)
    return DeskOut(
        now=now,
        since=since,
        sentence=_sentence(ended, rows, since, now),
        quiet=not (items or events or judged or patterns or overdue),
        items=items,
        events=events[: desk_news.EVENTS_SHOWN],
        more_events=max(0, len(events) - desk_news.EVENTS_SHOWN),
        judged=judged,
        patterns=patterns,
        my_todos=mine,
        overdue=overdue,
        this_week=this_week,
        sites=rows,
        running=[run_brief(run) for run in active],
        building=building,
    )


def _since(now: datetime) -> datetime:
    """This time of day on the last working day: on a Monday the weekend is told too."""
    return datetime.combine(last_working_day(now.date()), now.timetz())


def _runs(session: Session, since: datetime) -> Sequence[AnyRow]:
    """The runs that the states of sites name, those under way with their latest sign of life, and those that ended lately."""
    named = select(SiteState.last_id).union(select(SiteState.done_id))
    wanted = or_(Run.id.in_(named), Run.state.in_(ACTIVE_RUN), Run.finished_at > since)
    signs = RunProgress.at.label("sign_at")
    return session.execute(
        select(*BRIEF, signs).join(Site).outerjoin(RunProgress, RunProgress.run_id == Run.id).where(wanted)
    ).all()


def _sentence(ended: dict[RunState, int], rows: list[DeskSite], since: datetime, now: datetime) -> str:
    done, failed = ended.get(RunState.DONE, 0), ended.get(RunState.FAILED, 0)
    worse = sum(1 for r in rows if r.change is not None and r.change < -0.5)
    yesterday = now.date() - since.date() == timedelta(days=1)
    parts = [f"{fill('{n:audit}', {'n': done})} since {'yesterday' if yesterday else f'{since:%A}'}"]
    if stopped := ended.get(RunState.STOPPED, 0):
        parts.append(f"{stopped} stopped")
    if failed:
        parts.append(f"{failed} failed")
    parts.append(f"{fill('{n:site}', {'n': worse})} got worse" if worse else "no site got worse")
    due = [r.next_due_at for r in rows if r.next_due_at]
    if due:
        parts.append(f"next run {min(due):%a %d %b %H:%M} UTC")
    return " · ".join(parts)


def _site_row(site: AnyRow, out: SiteOut, runs: Mapping[str, AnyRow]) -> DeskSite:
    """A site in the table. What makes it stand high: points lost since the run before (each counts 4), critical findings (1), high ones (0.1),
    a failed run (50), and each point of health that is missing (0.1)."""
    done = runs.get(site.done_id)
    change, critical, high = (site.change, done.critical or 0, done.high or 0) if done else (None, 0, 0)
    lost = max(0.0, -(change or 0.0))
    failed = desk_items.failure(site, runs) is not None
    missing = 100 - done.health if done and done.health is not None else 0
    reasons = [
        "last audit failed" if failed else "",
        f"health {signed(-lost)}" if lost >= 0.05 else "",
        f"{critical:,} critical" if critical else "",
        f"{high:,} high" if high else "",
    ]
    return DeskSite(
        site=out,
        change=change,
        line=site.line or [],
        line_days=site.line_days or [],
        remarks=[LineRemark(**remark) for remark in json.loads(site.remarks)],
        critical=critical,
        high=high,
        new=done.new if done else None,
        returned=done.returned if done else None,
        fixed=done.fixed if done else None,
        next_due_at=site.next_due_at,
        attention=lost * 4 + critical + high / 10 + 50 * failed + missing / 10,
        why=", ".join(reason for reason in reasons if reason),
    )


def _remarks_of_line() -> ColumnElement[str]:
    """The remarks of a site since the first run of its line, as JSON: of all sites in the one question that reads them."""
    since = func.json_extract(SiteState.line_days, "$[0]")
    each = func.json_object("day", Remark.day, "text", Remark.text)
    found = select(func.json_group_array(func.json(each))).where(Remark.site_id == Site.id, Remark.day >= since)
    return found.scalar_subquery().label("remarks")


def _own_work(session: Session, member: Member, today: date) -> tuple[list[TodoOut], int, int]:
    """The first of a member's to-dos, how many are overdue, and how many are due within a week."""
    in_use = Todo.site_id.in_(select(Site.id).where(~Site.archived))
    own = and_(Todo.assignee_id == member.id, Todo.state.in_(UNFINISHED_TODO), in_use)
    overdue = select(func.count()).where(own, Todo.due < today).correlate(None).scalar_subquery()
    soon = select(func.count()).where(own, Todo.due.between(today, today + timedelta(days=7))).correlate(None).scalar_subquery()
    rows = session.execute(in_order(select(Todo).where(own), TodoOrder.DUE).add_columns(overdue, soon).limit(TODOS_SHOWN)).all()
    return [todo_out(todo, today) for todo, *_ in rows], rows[0][1] if rows else 0, rows[0][2] if rows else 0
