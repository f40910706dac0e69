"""What reports tell of work, of the last report, of benchmarks and review sheets."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core import catalogue
from hodcarrier.core.benchmark.measures import HEADLINE
from hodcarrier.core.states import (
    LIVE_TODO,
    SEEN_BY_CLIENTS,
    Lead,
    SectionKind,
    SheetDifference,
    SheetOutcome,
    TodoState,
)
from hodcarrier.register.models import Benchmark, Report, Sheet, Todo
from hodcarrier.report.sections.benchmark import BenchmarkFacts, MeasureRow, Thin
from hodcarrier.report.sections.last import LastFacts
from hodcarrier.report.sections.month import MonthFacts
from hodcarrier.report.sections.review import Recommended, ReviewFacts
from hodcarrier.report.sections.work import Work, WorkFacts
from hodcarrier.report.values import STORED
from hodcarrier.runfile import results
from hodcarrier.usecases.benchmarks import get_benchmark, unranked_sites
from hodcarrier.usecases.report_facts import Gatherer, Gathering, chosen, counts
from hodcarrier.usecases.report_outside import positions_of, search_of, top_ten
from hodcarrier.usecases.sheets import get_sheet
from hodcarrier.wire.reports import ReportSection


@dataclass(frozen=True)
class Todos:
    """To-dos that an audit confirmed in the days of a report, and those in hand at their end."""

    done: Sequence[Todo]
    hand: Sequence[Todo]


def todos_of(about: Gathering) -> Todos:
    """The to-dos that a report tells of, by due date."""
    with about.work.reading() as session:
        wanted = select(Todo).where(Todo.site_id == about.site_id).order_by(Todo.due.is_(None), Todo.due, Todo.id)
        rows = session.scalars(wanted.options(joinedload(Todo.assignee))).all()
        session.expunge_all()
    done = [row for row in rows if row.state == TodoState.CONFIRMED and _falls(row, about)]
    hand = [row for row in rows if row.created_at.date() <= about.to_day and (row.state in LIVE_TODO or _later(row, about))]
    return Todos(done, hand)


def _falls(row: Todo, about: Gathering) -> bool:
    return row.closed_at is not None and about.from_day <= row.closed_at.date() <= about.to_day


def _later(row: Todo, about: Gathering) -> bool:
    return row.closed_at is not None and row.closed_at.date() > about.to_day


def _work(row: Todo, day: date | None) -> Work:
    known = catalogue.load()
    name = known.current(row.check_id) if row.check_id else ""
    found = known[name].check if name and name in known else None
    who = row.assignee.name if row.assignee else ""
    return Work(
        title=row.title,
        check=name,
        named=found.summary if found is not None else "",
        why=found.why if found is not None else "",
        places=row.places,
        cleared=row.cleared,
        who=who,
        day=day.isoformat() if day else "",
        gain=row.gain,
        severity=row.severity,
    )


def done_facts(about: Gathering, section: ReportSection) -> WorkFacts:
    """What was confirmed, the latest first."""
    rows, limit = todos_of(about).done, chosen(section, "limit")
    rows = sorted(rows, key=lambda row: row.closed_at or row.created_at, reverse=True)
    items = [_work(row, row.closed_at.date() if row.closed_at else None) for row in rows]
    return WorkFacts(items[:limit], max(0, len(items) - limit))


def hand_facts(about: Gathering, section: ReportSection) -> WorkFacts:
    """What is in hand, by due date."""
    items, limit = [_work(row, row.due) for row in todos_of(about).hand], chosen(section, "limit")
    return WorkFacts(items[:limit], max(0, len(items) - limit))


def next_facts(about: Gathering, section: ReportSection) -> WorkFacts:
    """What is worth doing first."""
    with about.work.open_run(about.last.id) as run:
        texts = results.texts(run)
        rows = [row for row in results.checks(run) if row["findings"]][: chosen(section, "limit")]
        return WorkFacts(
            [
                Work(
                    title=r["summary"],
                    check=r["id"],
                    named=r["summary"],
                    why=texts[r["id"]].why,
                    places=r["findings"],
                    gain=r["gain"],
                    severity=r["severity"],
                )
                for r in rows
            ]
        )


def month_facts(about: Gathering, section: ReportSection) -> MonthFacts:
    """What the sentences of the days are computed from."""
    new, fixed = counts(about.compared)
    todos, search, benchmark = todos_of(about), search_of(about), benchmark_facts(about, section)
    positions = positions_of(about, 4)
    return MonthFacts(
        health=about.last.health,
        health_before=about.health_before,
        before_day=about.first.requested_at.date().isoformat(),
        audits=about.audits,
        fixed=fixed,
        new=new,
        compared=about.compared is not None,
        done=len(todos.done),
        hand=len(todos.hand),
        hand_dated=sum(1 for row in todos.hand if row.due),
        clicks=search.now.clicks if search is not None else None,
        clicks_before=search.before.clicks if search is not None else None,
        keywords_up=sum(1 for each in positions.items if (each.change or 0) > 0) if positions is not None else None,
        keywords_down=sum(1 for each in positions.items if (each.change or 0) < 0) if positions is not None else 0,
        lead=sum(1 for row in benchmark.rows if row.lead == Lead.AHEAD) if benchmark.rows else None,
        trail=sum(1 for row in benchmark.rows if row.lead == Lead.BEHIND),
        competitors=max(0, len(benchmark.hosts) - 1),
        limit=chosen(section, "limit"),
    )


def figures_of(about: Gathering) -> dict[str, float]:
    """What the next report compares itself with."""
    search, ten = search_of(about), top_ten(about)
    found = {
        "health": about.last.health,
        "faults": float(about.last.summary.findings) if about.last.summary else None,
        "clicks": float(search.now.clicks) if search is not None else None,
        "top_ten": float(ten) if ten is not None else None,
    }
    return {name: value for name, value in found.items() if value is not None}


def last_report(session: Session, site_id: int, before: date) -> Report | None:
    """The last report of a site that clients could see, of days that end before another one's."""
    wanted = select(Report).where(Report.site_id == site_id, Report.to_day < before, Report.state.in_(SEEN_BY_CLIENTS))
    return session.scalar(wanted.order_by(Report.to_day.desc(), Report.id.desc()).limit(1))


def last_facts(about: Gathering, _section: ReportSection) -> LastFacts:
    """Figures beside those of the last report, and what became of what was in hand then."""
    with about.work.reading() as session:
        row = last_report(session, about.site_id, about.to_day)
        if row is None:
            return LastFacts()
        then, until = STORED.load(row.values), row.to_day
        promised = session.scalars(select(Todo).where(Todo.id.in_(then.hand))).all()
        kept = sum(1 for todo in promised if todo.state in (TodoState.DONE, TodoState.CONFIRMED))
    now = figures_of(about)

    def whole(figures: dict[str, float], name: str) -> int | None:
        return int(figures[name]) if name in figures else None

    return LastFacts(
        to_day=until.isoformat(),
        health=then.figures.get("health"),
        health_now=now.get("health"),
        open_faults=whole(then.figures, "faults"),
        open_faults_now=whole(now, "faults"),
        clicks=whole(then.figures, "clicks"),
        clicks_now=whole(now, "clicks"),
        top_ten=whole(then.figures, "top_ten"),
        top_ten_now=whole(now, "top_ten"),
        promised=len(promised),
        kept=kept,
    )


def benchmark_facts(about: Gathering, section: ReportSection) -> BenchmarkFacts:
    """The latest round of a benchmark of the site: of the one that was chosen, or its first."""
    with about.work.reading() as session:
        wanted = select(Benchmark.id).where(Benchmark.site_id == about.site_id)
        if section.benchmark is not None:
            wanted = wanted.where(Benchmark.id == section.benchmark)
        number = session.scalar(wanted.order_by(Benchmark.id).limit(1))
    if number is None:
        return BenchmarkFacts()
    found = get_benchmark(about.work, number, about.to_day)
    if section.kind == SectionKind.BENCHMARK:
        rows = [row for row in found.rows if row.id in (section.measures or HEADLINE)][: chosen(section, "limit")]
    else:
        rows = [row for row in found.rows if not row.id.startswith("area_")]
    return BenchmarkFacts(
        hosts=found.hosts,
        rows=[MeasureRow(r.id, r.name, r.unit, r.high_is_good, r.values, r.ranks, r.lead.value if r.lead else "") for r in rows],
        at=found.at.date().isoformat() if found.at else "",
        thin=[Thin(each.host, each.documents, each.known or 0) for each in unranked_sites(about.work, number, about.to_day)],
        health=found.audit_health,
    )


def review_facts(about: Gathering, section: ReportSection) -> ReviewFacts:
    """The latest filling of a sheet by the end of the days: of the template that was chosen, or of any."""
    with about.work.reading() as session:
        wanted = select(Sheet.id).where(Sheet.site_id == about.site_id, Sheet.day <= about.to_day)
        if section.sheet:
            wanted = wanted.where(Sheet.template == section.sheet)
        number = session.scalar(wanted.order_by(Sheet.day.desc(), Sheet.id.desc()).limit(1))
    if number is None:
        return ReviewFacts()
    sheet = get_sheet(about.work, number)
    lines = [line for part in sheet.parts for line in part.lines]
    return ReviewFacts(
        name=sheet.name,
        day=sheet.day.isoformat(),
        before=sheet.before_day.isoformat() if sheet.before_day else "",
        passed=sum(1 for line in lines if line.outcome == SheetOutcome.PASSED),
        open=sum(1 for line in lines if line.outcome == SheetOutcome.OPEN and line.number is None),
        recommended=[
            Recommended(line.text, line.note, line.difference) for line in lines if line.outcome == SheetOutcome.RECOMMENDED
        ],
        better=sum(1 for line in lines if line.difference == SheetDifference.BETTER),
    )


OF_WORK: dict[SectionKind, Gatherer] = {
    SectionKind.MONTH: month_facts,
    SectionKind.LAST: last_facts,
    SectionKind.DONE: done_facts,
    SectionKind.HAND: hand_facts,
    SectionKind.NEXT: next_facts,
    SectionKind.BENCHMARK: benchmark_facts,
    SectionKind.REVIEW: review_facts,
}
