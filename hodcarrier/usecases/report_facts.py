"""The facts of a report: each section's, gathered from the one place that the surfaces read them from too."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime, timedelta
from functools import cached_property
from typing import Any, Protocol, TypeVar

from sqlalchemy import select

from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import NEW_CHANGES, Change, CheckOutcome, EventKind, FileState, RemarkOrigin, RunPurpose, SectionKind
from hodcarrier.core.summary import Event
from hodcarrier.register.models import EXAMINED, Run, Site
from hodcarrier.report.sections import SECTIONS
from hodcarrier.report.sections.faults import AppendixFacts, AreaScore, AreasFacts, Fault, FindingRow, FindingsFacts
from hodcarrier.report.sections.happened import Happened, HappenedFacts
from hodcarrier.report.sections.health import HealthFacts
from hodcarrier.report.sections.section import Noted, Value
from hodcarrier.report.sections.speed import MEASURES as SPEED
from hodcarrier.report.sections.speed import SpeedFacts
from hodcarrier.runfile import results
from hodcarrier.runfile.reader import RunFile
from hodcarrier.usecases.comparisons import compare_runs
from hodcarrier.usecases.remarks import remarks_of
from hodcarrier.usecases.trends import get_trend
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.comparisons import ComparisonOut
from hodcarrier.wire.reports import ReportSection

MONTH_DAYS = 31


class Requested(Protocol):
    """What a report chooses runs by."""

    @property
    def requested_at(self) -> datetime:
        """When it was asked for."""
        ...


AnyRun = TypeVar("AnyRun", bound=Requested)


def choose_runs(runs: Sequence[AnyRun], from_day: date, to_day: date) -> tuple[AnyRun, AnyRun, int] | None:
    """The two runs that a report of some days compares, of the examined audits of a site in their order, and how many fell into these days: the last one in these days,
    and the one before the first of them. Without any in these days the last one before them stands for both; ``None`` when there is none either."""
    inside = [n for n, run in enumerate(runs) if from_day <= run.requested_at.date() <= to_day]
    if inside:
        return runs[max(0, inside[0] - 1)], runs[inside[-1]], len(inside)
    before = [run for run in runs if run.requested_at.date() < from_day]
    return (before[-1], before[-1], 0) if before else None


@dataclass(frozen=True)
class Gathering:
    """What the facts of a report are gathered for: a site and its days. What several sections need is read once."""

    work: Workspace
    site_id: int
    from_day: date
    to_day: date

    @cached_property
    def _chosen(self) -> tuple[Run, Run, int]:
        with self.work.reading() as session:
            site = fetch(session, Site, self.site_id, "site")
            wanted = select(Run).where(
                Run.site_id == site.id, Run.purpose == RunPurpose.AUDIT, EXAMINED, Run.file == FileState.KEPT
            )
            chosen = choose_runs(session.scalars(wanted.order_by(Run.sequence)).all(), self.from_day, self.to_day)
            if chosen is None:
                raise NotFound(
                    f"{site.host} had no finished run by {self.to_day}.", "Run an audit, or choose days after the first one."
                )
            first, last, inside = chosen
            for run in {first.id: first, last.id: last}.values():
                _ = run.summary  # read with the run: it is used when the session has ended
            session.expunge_all()
            return first, last, inside

    @property
    def first(self) -> Run:
        """The run that the last one is compared with."""
        return self._chosen[0]

    @property
    def last(self) -> Run:
        """The last run of the days."""
        return self._chosen[1]

    @property
    def audits(self) -> int:
        """How many runs fell into the days."""
        return self._chosen[2]

    @cached_property
    def compared(self) -> ComparisonOut | None:
        """The comparison of the two; none when they are one."""
        return compare_runs(self.work, self.first.id, self.last.id, limit=1) if self.first.id != self.last.id else None

    @property
    def health_before(self) -> float | None:
        """Health at the first run, where the two can be compared."""
        return self.first.health if self.compared is not None and self.compared.health_change is not None else None

    @cached_property
    def remarks(self) -> list[Noted]:
        """Remarks up to the last day; that a run failed is nothing for clients."""
        with self.work.reading() as session:
            found = remarks_of(session, self.site_id, end=self.to_day)
        return [Noted(each.day.isoformat(), each.text) for each in found if each.origin != RemarkOrigin.FAILED]

    def line(self, figure: str, months: int, digits: int = 1) -> list[Value]:
        """A figure of the audits of so many months up to the last day."""
        start = self.to_day - timedelta(days=MONTH_DAYS * months)
        found = get_trend(self.work, self.site_id, figure, start, self.to_day).points
        return [Value(each.at.date().isoformat(), None if each.value is None else round(each.value, digits)) for each in found]


def chosen(section: ReportSection, name: str) -> int:
    """A number that was chosen of a section, or what it usually is."""
    choice = SECTIONS[section.kind].choices[name]
    return min(max(section.choices.get(name, choice.usual), choice.least), choice.most)


def counts(found: ComparisonOut | None) -> tuple[int, int]:
    """Findings that came up, and those that were fixed."""
    if found is None:
        return 0, 0
    return sum(found.counts.get(change, 0) for change in NEW_CHANGES), found.counts.get(Change.FIXED, 0)


def health_facts(about: Gathering, section: ReportSection) -> HealthFacts:
    """Health of the last run, against the first, and over time."""
    months = chosen(section, "months")
    start = about.to_day - timedelta(days=MONTH_DAYS * months)
    summary = about.last.summary
    return HealthFacts(
        health=about.last.health,
        health_before=about.health_before,
        before_day=about.first.requested_at.date().isoformat(),
        day=about.last.requested_at.date().isoformat(),
        pages=summary.pages_scored if summary else 0,
        trend=get_trend(about.work, about.site_id, "health", start, about.to_day).state,
        line=about.line("health", months),
        remarks=about.remarks,
    )


def happened_facts(about: Gathering, section: ReportSection) -> HappenedFacts:
    """The events between the two runs."""
    found, limit = about.compared, chosen(section, "limit")
    if found is None:
        return HappenedFacts()
    origin = f"://{found.head_host}"
    events = [_event(each, origin) for each in found.events]
    first, last = (run.requested_at.date().isoformat() for run in (about.first, about.last))
    return HappenedFacts(first, last, events[:limit], max(0, len(events) - limit))


def _event(event: Event, origin: str) -> Happened:
    single = event.examples[0] if event.pages == 1 and event.examples else ""
    page = single.partition(origin)[2] or single
    only = event.checks[0] if event.check_count == 1 and event.checks else None
    return Happened(
        kind=event.kind,
        about=event.about if event.kind in (EventKind.BLOCKED, EventKind.FREED) else "",
        way=event.way,
        pages=event.pages,
        page=page,
        check=only.check if only else "",
        title=only.summary if only else "",
        checks=event.check_count,
        findings=sum(event.counts.values()),
        joined=event.joined,
        share=event.shown,
    )


def areas_facts(about: Gathering, _section: ReportSection) -> AreasFacts:
    """The scores of the last run; what they were at the first, where the two can be compared."""
    summary, found = about.last.summary, about.compared
    if summary is None:
        return AreasFacts()
    changes = {area: shared.change for area, shared in found.areas.items()} if found is not None else {}
    areas = []
    for area, score in summary.areas.items():
        change = changes.get(area)
        before = score - change if score is not None and change is not None else None
        areas.append(AreaScore(area, score, before, summary.area_pages.get(area)))
    return AreasFacts(areas)


def _fault(run: RunFile, row: Mapping[str, Any], places: int) -> Fault:
    found = results.findings(run, check_id=row["id"], limit=places + 1) if places else []
    examples = list(dict.fromkeys(each["subject"] for each in found))[:places]
    return Fault(
        row["id"],
        row["summary"],
        row["why"],
        row["severity"],
        row["findings"],
        row["gain"],
        examples,
        max(0, row["findings"] - len(examples)) if examples else 0,
        row["fix"],
    )


def findings_facts(about: Gathering, section: ReportSection) -> FindingsFacts:
    """The failing checks among those that were chosen; without a choice the first in the order of work."""
    limit, places = chosen(section, "limit"), chosen(section, "places")
    with about.work.open_run(about.last.id) as run:
        failing = [
            row for row in results.checks(run, (CheckOutcome.FAILING,)) if not section.checks or row["id"] in section.checks
        ]
        texts = results.texts(run)
        faults = [
            _fault(run, {**row, "why": texts[row["id"]].why, "fix": texts[row["id"]].fix}, places) for row in failing[:limit]
        ]
        names = {row["id"] for row in failing}
        passed = [check for check in section.checks if check not in names and check in texts]
        return FindingsFacts(faults, [texts[check].summary for check in passed], passed)


def appendix_facts(about: Gathering, section: ReportSection) -> AppendixFacts:
    """Every failing check explained, and as many findings as are wanted."""
    limit = chosen(section, "limit")
    with about.work.open_run(about.last.id) as run:
        texts = results.texts(run)
        faults = [
            _fault(run, {**row, "why": texts[row["id"]].why, "fix": texts[row["id"]].fix}, 0)
            for row in results.checks(run, (CheckOutcome.FAILING,))
        ]
        total = sum(each.findings for each in faults)
        found = results.findings(run, limit=limit) if limit else []
        rows = [FindingRow(each["check"], each["subject"], each["since"][:10], each["place"]) for each in found]
        return AppendixFacts(faults, rows, max(0, total - len(rows)) if limit else 0)


def speed_facts(about: Gathering, section: ReportSection) -> SpeedFacts:
    """Measures of speed and weight at the two runs."""

    def figures(run: Run) -> dict[str, float]:
        known = {name: getattr(run.summary.measures, name, None) for name, *_ in SPEED} if run.summary else {}
        return {name: value for name, value in known.items() if value is not None}

    before = figures(about.first) if about.compared is not None else {}
    return SpeedFacts(figures(about.last), before, about.line("measure.first_byte_ms_median", chosen(section, "months"), 0))


Gatherer = Callable[[Gathering, ReportSection], Any]
OF_AUDITS: dict[SectionKind, Gatherer] = {
    SectionKind.HEALTH: health_facts,
    SectionKind.HAPPENED: happened_facts,
    SectionKind.AREAS: areas_facts,
    SectionKind.FINDINGS: findings_facts,
    SectionKind.APPENDIX: appendix_facts,
    SectionKind.SPEED: speed_facts,
}


def plain(facts: Any) -> dict[str, Any]:
    """Facts as they are kept."""
    return asdict(facts)
