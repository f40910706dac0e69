"""Reports for clients: values gathered once, kept, and drawn by :mod:`hodcarrier.report`."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any, Protocol, TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.benchmark.measures import HEADLINE
from hodcarrier.core.catalogue import AREAS, Area
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.states import LIVE_TODO, NEW_CHANGES, Change, FileState, RemarkOrigin, RunPurpose, TodoState
from hodcarrier.core.words import difference
from hodcarrier.register.models import EXAMINED, Benchmark, Member, Report, Run, Site, Todo
from hodcarrier.report.values import (
    STORED,
    AreaScore,
    Comparison,
    Counts,
    DatedText,
    Explained,
    FixedWork,
    HealthPoint,
    MeasureRow,
    NextStep,
    ReportValues,
    Sentences,
    WorkInHand,
)
from hodcarrier.runfile import results
from hodcarrier.usecases.benchmarks import get_benchmark
from hodcarrier.usecases.comparisons import compare_runs
from hodcarrier.usecases.remarks import remarks_of
from hodcarrier.usecases.trends import get_trend
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.reports import ReportBody, ReportOut


class Requested(Protocol):
    """What a report chooses runs by."""

    @property
    def requested_at(self) -> datetime:
        """When it was asked for."""
        ...


AnyRun = TypeVar("AnyRun", bound=Requested)
NEXT_STEPS = 6
LINE_RUNS = 26
MEASURES_SHOWN = 8
SENTENCES_MAX = 5


def add_report(work: Workspace, body: ReportBody, member: Member | None, agency: str) -> ReportOut:
    """Make a report over a span of days. Raises :class:`NotFound` when no run of the site falls into it."""
    if body.to_day < body.from_day:
        raise InvalidInput("The report ends before it begins.", "Swap the two days.", "to_day")
    # Runs that nobody has compared may take ten seconds: not while the register is locked.
    with work.reading() as session:
        site = fetch(session, Site, body.site_id, "site")
        title = body.title.strip() or f"{site.client.name}: {_span(body.from_day, body.to_day)}"
        values = _gather(work, session, site, body, agency, title)
    with work.session() as session:
        row = Report(
            site_id=fetch(session, Site, body.site_id, "site").id,
            title=title,
            from_day=body.from_day,
            to_day=body.to_day,
            note=body.note,
            values=STORED.dump(values),
            author_id=member.id if member else None,
            created_at=work.now(),
        )
        session.add(row)
        session.flush()
        log(session, work.now(), row.author_id, "report made", title)
        return report_out(row)


def _span(start: date, end: date) -> str:
    if start.day == 1 and (end + timedelta(days=1)).day == 1 and start.month == end.month:
        return f"{start:%B %Y}"
    begin = f"{start.day}" if (start.year, start.month) == (end.year, end.month) else f"{start.day} {start:%B}"
    if start.year != end.year:
        begin += f" {start.year}"
    return f"{begin} to {end.day} {end:%B %Y}"


def choose_runs(runs: Sequence[AnyRun], from_day: date, to_day: date) -> tuple[AnyRun, AnyRun] | None:
    """The two runs that a report of some days compares, of the examined audits of a site in their order: the last one in these days, and
    the one before the first of them. ``None`` when there is none in these days."""
    inside = [n for n, run in enumerate(runs) if from_day <= run.requested_at.date() <= to_day]
    return (runs[max(0, inside[0] - 1)], runs[inside[-1]]) if inside else None


def _gather(work: Workspace, session: Session, site: Site, body: ReportBody, agency: str, title: str) -> ReportValues:
    runs = session.scalars(
        select(Run).where(Run.site_id == site.id, Run.purpose == RunPurpose.AUDIT, EXAMINED).order_by(Run.sequence)
    ).all()
    chosen = choose_runs([r for r in runs if r.file == FileState.KEPT], body.from_day, body.to_day)
    if chosen is None:
        raise NotFound(
            f"No finished run of {site.host} falls between {body.from_day} and {body.to_day}.", "Choose days with a run."
        )
    first, last = chosen
    summary = last.summary
    if summary is None:
        raise NotFound(f"Run {last.id} has no summary.", "Run the audit again.")
    until = [r for r in runs if r.requested_at.date() <= body.to_day]
    compared = compare_runs(work, first.id, last.id, limit=1) if first is not last else None
    remarks = [r for r in remarks_of(session, site.id, end=body.to_day) if r.origin != RemarkOrigin.FAILED]
    with work.open_run(last.id) as opened:
        first_work, texts = results.worth_doing_first(opened, NEXT_STEPS), results.texts(opened)
    values = ReportValues(
        title=title,
        agency=agency,
        client=site.client.name,
        colour=site.client.colour,
        host=site.host,
        from_day=body.from_day.isoformat(),
        to_day=body.to_day.isoformat(),
        span=_span(body.from_day, body.to_day),
        made=work.now().date().isoformat(),
        note=body.note,
        health=last.health,
        health_before=first.health if compared and compared.health_change is not None else None,
        before_day=first.requested_at.date().isoformat(),
        pages=summary.pages_scored,
        trend=get_trend(work, site.id, end=body.to_day).state,
        line=[HealthPoint(r.requested_at.date().isoformat(), r.health) for r in until][-LINE_RUNS:],
        remarks=[DatedText(r.day.isoformat(), r.text) for r in remarks],
        counts=_counts(compared.counts if compared else {}),
        **_work_done(session, site, body),
        next=[NextStep(r["severity"], r["summary"], r["findings"], r["fixes"], r["gain"], r["cause"]) for r in first_work],
        areas=[AreaScore(AREAS[Area(area)], score, summary.area_pages.get(area)) for area, score in summary.areas.items()],
        appendix=[
            Explained(texts[c].summary, f.severity, texts[c].why, texts[c].fix, f.findings)
            for c, f in summary.checks.items()
            if f.findings and c in texts
        ],
        standing=_standing(work, session, site),
    )
    return replace(values, sentences=month_in_sentences(values))


def _counts(counts: Mapping[Change, int]) -> Counts:
    """What the comparison of the first and the last run counts."""
    return Counts(
        new=sum(counts.get(change, 0) for change in NEW_CHANGES),
        fixed=counts.get(Change.FIXED, 0),
        returned=counts.get(Change.RETURNED, 0),
    )


def _work_done(session: Session, site: Site, body: ReportBody) -> dict[str, Any]:
    """To-dos that an audit confirmed in the span, and those in hand."""
    todos = session.scalars(select(Todo).where(Todo.site_id == site.id).order_by(Todo.due)).all()
    fixed, in_hand = [], []
    for t in todos:
        closed = t.closed_at.date() if t.closed_at else None
        if t.state == TodoState.CONFIRMED and closed and body.from_day <= closed <= body.to_day:
            fixed.append(FixedWork(t.title, t.places, closed.isoformat()))
        elif t.state in LIVE_TODO and t.created_at.date() <= body.to_day:
            who, due = t.assignee.name if t.assignee else "nobody yet", t.due.isoformat() if t.due else ""
            in_hand.append(WorkInHand(t.title, who, due, t.places, t.cleared))
    return {"fixed": fixed, "in_hand": in_hand}


def _standing(work: Workspace, session: Session, site: Site) -> Comparison | None:
    row = session.scalar(select(Benchmark).where(Benchmark.site_id == site.id).limit(1))
    if row is None:
        return None
    found = get_benchmark(work, row.id)
    if not found.rows:
        return None
    told_of = [row for row in found.rows if row.id in HEADLINE]
    rows = [MeasureRow(r.name, r.unit, r.high_is_good, r.values, r.ranks) for r in told_of[:MEASURES_SHOWN]]
    told = found.sentences
    said = Sentences(*([each.text for each in part] for part in (told.lead, told.trail, told.close_first)))
    return Comparison(found.hosts, rows, said, found.at.date().isoformat() if found.at else "", found.unranked)


def month_in_sentences(values: ReportValues) -> list[str]:
    """The span in up to five plain sentences for somebody who does not know the trade."""
    said = []
    health, before = values.health, values.health_before
    if health is not None:
        text = f"The health of {values.host} is {health:.1f} of 100, where 100 means that we find nothing to fix"
        if before is not None:
            change = difference(before, health)
            text += (
                ", the same as before"
                if change == 0
                else f", {abs(change):.1f} points {'higher' if change > 0 else 'lower'} than on {_day(values.before_day)}"
            )
        said.append(text + ".")
    fixed, counts = values.fixed, values.counts
    if fixed:
        said.append(
            f"We completed {_times(len(fixed), 'task', 'tasks')}, and a new audit confirmed {'each of them' if len(fixed) > 1 else 'it'}."
        )
    said.append(
        f"{_times(counts.fixed, 'fault was', 'faults were')} fixed, and {_times(counts.new, 'new one', 'new ones', 'no')} appeared."
    )
    if values.in_hand:
        dated, tasks = sum(1 for item in values.in_hand if item.due), len(values.in_hand)
        if tasks == 1:
            dates = "with a due date" if dated else "without a due date"
        else:
            dates = "each with a due date" if dated == tasks else f"{dated:,} with a due date"
        said.append(f"{_times(len(values.in_hand), 'task is', 'tasks are')} in progress, {dates}.")
    if values.standing:
        lead, trail = values.standing.sentences.lead, values.standing.sentences.trail
        said.append(
            f"Compared with its competitors, the site leads on {_times(len(lead), 'measure', 'measures', 'no')} and trails on {len(trail) or 'none'}."
        )
    return said[:SENTENCES_MAX]


def _times(number: int, one: str, many: str, none: str = "No") -> str:
    return f"{number:,} {one if number == 1 else many}" if number else f"{none} {many}"


def _day(text: str) -> str:
    day = date.fromisoformat(text)
    return f"{day.day} {day:%B}"


def list_reports(work: Workspace, client_id: int | None = None) -> list[ReportOut]:
    """Reports, the latest first (``client_id``: those of one client)."""
    with work.reading() as session:
        chosen = select(Report).join(Site).order_by(Report.created_at.desc(), Report.id.desc())
        if client_id is not None:
            chosen = chosen.where(Site.client_id == client_id)
        return [report_out(row) for row in session.scalars(chosen)]


def get_report(work: Workspace, report_id: int) -> tuple[ReportOut, ReportValues, int]:
    """A report, its kept values, and the client it belongs to."""
    with work.reading() as session:
        row = fetch(session, Report, report_id, "report")
        return report_out(row), STORED.load(row.values), row.site.client_id


def report_out(row: Report) -> ReportOut:
    """A report in a list."""
    return ReportOut(
        id=row.id,
        site_id=row.site_id,
        site_host=row.site.host,
        client_name=row.site.client.name,
        title=row.title,
        from_day=row.from_day,
        to_day=row.to_day,
        note=row.note,
        created_at=row.created_at,
    )
