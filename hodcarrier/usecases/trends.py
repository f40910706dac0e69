"""Figures of a site over time, of its runs and from outside."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import fields, replace
from datetime import UTC, date, datetime, time
from statistics import median

from sqlalchemy import select
from sqlalchemy.orm import undefer

from hodcarrier.core import catalogue
from hodcarrier.core.benchmark.measures import BY_ID
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.figures.series import FOLLOWED, Followed, followed, periods
from hodcarrier.core.judge.areas import comparable
from hodcarrier.core.judge.trend import Trend, assess
from hodcarrier.core.judge.trend_words import Happening, between_words, is_of_hundred, verdict_words
from hodcarrier.core.plan import Plan
from hodcarrier.core.states import Every, FigureKind, RemarkOrigin, RunPurpose, RunState, Severity, SiteKind
from hodcarrier.core.summary import Measures
from hodcarrier.register.models import EXAMINED_OR_FAILED, Run, Site
from hodcarrier.usecases.outside_trends import outside_points
from hodcarrier.usecases.remarks import remarks_of
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.remarks import RemarkOut
from hodcarrier.wire.trends import TrendOut, TrendPoint

# Measures that a run's summary holds, and whether high is good.
MEASURED = {
    **{name: (BY_ID[name].name, BY_ID[name].high_is_good) for name in (each.name for each in fields(Measures)) if name in BY_ID},
    "alt_ratio": ("Images with alt text", True),
}


def figure_label(figure: str) -> tuple[str, bool]:
    """The label of a figure and whether high is good. Raises :class:`InvalidInput` listing what there is."""
    kind, _, name = figure.partition(".")
    if figure == "health":
        return "Health, 0 to 100", True
    if figure == "findings":
        return "Findings", False
    if figure == "pages":
        return "Pages scored", True
    if kind == "area" and name in set(catalogue.Area):
        return f"{catalogue.AREAS[catalogue.Area(name)]}, 0 to 100", True
    if kind == "severity" and name in set(Severity):
        return f"Findings of severity {name}", False
    if kind == "check" and name in catalogue.load():
        return catalogue.get(name).check.summary, False
    if kind == "measure" and name in MEASURED:
        return MEASURED[name]
    raise InvalidInput(
        f"There is no figure “{figure}”.",
        f"Figures are health, findings, pages, area.NAME, severity.NAME, check.ID, measure.NAME, {', '.join(FOLLOWED)} and site.NAME.",
        "figure",
    )


def value_of(figure: str, run: Run) -> float | None:
    """A figure of one run; ``None`` when the run has none."""
    summary = run.summary
    kind, _, name = figure.partition(".")
    if figure == "health":
        return run.health
    if summary is None:
        return None
    if figure == "findings":
        return float(summary.findings)
    if figure == "pages":
        return float(summary.pages_scored)
    if kind == "area":
        score = summary.areas.get(catalogue.Area(name))
        return None if score is None else float(score)
    if kind == "severity":
        return float(summary.severities[Severity(name)].findings)
    if kind == "measure":
        measured: float | None = getattr(summary.measures, name, None)
        return measured
    known = catalogue.load()
    figures = [f for check, f in summary.checks.items() if known.current(check) == known.current(name)]
    return float(figures[0].findings) if figures else None


def digits_of(figure: str, values: Sequence[float]) -> int:
    """How many decimals a figure is shown with: health and areas have one, counts none."""
    return 1 if is_of_hundred(figure) or any(not float(value).is_integer() for value in values) else 0


def pages_of(figure: str, run: Run) -> int | None:
    """How many pages a figure of a run is over; ``None`` when the run has none, or does not say."""
    if run.summary is None:
        return None
    kind, _, name = figure.partition(".")
    if kind == "area":
        return run.summary.area_pages.get(catalogue.Area(name))
    return run.summary.pages_scored


def get_trend(
    work: Workspace,
    site_id: int,
    figure: str = "health",
    start: date | None = None,
    end: date | None = None,
    every: Every = Every.RUN,
) -> TrendOut:
    """A figure over the audits of a site, or by week or month, with remarks and a verdict in a sentence. Figures from outside belong to no run: they come by week
    or month."""
    if start and end and end < start:
        raise InvalidInput(f"The time ends before it begins: {start} to {end}.", "Give the earlier day first.", "from_day")
    what = followed(figure)
    if what is not None:
        every = Every.WEEK if every == Every.RUN else every
        label, high_is_good = what.label, what.high_is_good
        points = outside_points(work, site_id, figure, what, every, start, end)
    else:
        label, high_is_good = figure_label(figure)
        points = _run_points(work, site_id, figure, start, end)
        points = points if every == Every.RUN else _by_period(points, every)
    with work.reading() as session:
        shown = remarks_of(session, site_id, start, end)
    known = [(p.at, p.value) for p in points if p.value is not None and p.comparable]
    apart = sum(1 for p in points if p.value is not None and not p.comparable)
    name = label.partition(",")[0]
    digits = digits_of(figure, [value for _, value in known])
    verdict = assess(known, high_is_good, _steady(known, high_is_good, from_runs=what is None), varies=_varies(figure, what))
    return TrendOut(
        figure=figure,
        label=label,
        high_is_good=high_is_good,
        every=every,
        points=points,
        remarks=shown,
        state=verdict.state,
        slope_per_month=verdict.slope_per_month,
        change=verdict.change,
        words=_words(name, verdict, len(known), apart, every, digits),
        between=_between(name, known, points, shown, digits),
    )


def _run_points(work: Workspace, site_id: int, figure: str, start: date | None, end: date | None) -> list[TrendPoint]:
    """A figure run by run."""
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        purpose = RunPurpose.AUDIT if site.kind == SiteKind.OWN else RunPurpose.BENCHMARK
        runs = session.scalars(
            select(Run)
            .where(Run.site_id == site_id, Run.purpose == purpose, EXAMINED_OR_FAILED)
            .order_by(Run.sequence)
            .options(undefer(Run.summary), undefer(Run.plan))
        ).all()
    runs = [
        r for r in runs if (start is None or r.requested_at.date() >= start) and (end is None or r.requested_at.date() <= end)
    ]
    points = []
    before: Run | None = None
    for run in runs:
        points.append(
            TrendPoint(
                run_id=run.id,
                at=run.requested_at,
                value=value_of(figure, run),
                pages=pages_of(figure, run),
                state=run.state,
                partial=run.summary is not None and run.summary.partial,
                changed=before is not None and _without_host_map(before.plan) != _without_host_map(run.plan),
                catalogue_changed=before is not None and _catalogue(before) != _catalogue(run),
            )
        )
        before = run if run.summary is not None else before
    for point in points:
        point.comparable = _is_like(point, points)
        point.note = _note(point)
    return points


def _by_period(points: Sequence[TrendPoint], every: Every) -> list[TrendPoint]:
    """Of each week or month the last run that has the figure; what explains any of its runs explains it."""
    if not points:
        return []
    found = []
    for period in periods(points[0].at.date(), points[-1].at.date(), every):
        inside = [point for point in points if period.first <= point.at.date() <= period.last]
        known = [point for point in inside if point.value is not None]
        last = (known or inside or [TrendPoint(at=datetime.combine(period.last, time(), UTC), value=None, note="no run")])[-1]
        change = {
            "first": period.first,
            "last": period.last,
            "changed": any(point.changed for point in inside),
            "catalogue_changed": any(point.catalogue_changed for point in inside),
            "note": "; ".join(dict.fromkeys(note for point in (inside or [last]) for note in point.note.split("; ") if note)),
        }
        found.append(last.model_copy(update=change))
    return found


def _varies(figure: str, what: Followed | None) -> bool:
    """Whether a figure differs from time to time with nobody having changed anything: what people do, and how fast a server is."""
    if what is not None:
        return what.kind in (FigureKind.SEARCH, FigureKind.VISITS)
    return figure.startswith("measure.") and "_ms_" in figure


def _steady(known: Sequence[tuple[datetime, float]], high_is_good: bool | None, *, from_runs: bool) -> float:
    """By how much a figure may change in a month and still be steady: a point of health, a finding or a twentieth of them; of figures from outside a twentieth of what is usual."""
    if from_runs:
        return 1.0 if high_is_good else max(1.0, 0.05 * (known[0][1] if known else 0))
    return 0.05 * abs(median(value for _, value in known)) if known else 1.0


def _between(
    name: str, known: Sequence[tuple[datetime, float]], points: Sequence[TrendPoint], remarks: Sequence[RemarkOut], digits: int
) -> str:
    """How the last value differs from the first, and what may explain it; empty for fewer than two values."""
    if len(known) < 2:
        return ""
    happened = [Happening(remark.day, f"“{remark.text}”") for remark in remarks if remark.origin == RemarkOrigin.MEMBER]
    for point in points:
        changed = [noun for noun, did in (("plan", point.changed), ("catalogue", point.catalogue_changed)) if did]
        if changed:
            happened.append(Happening(point.at.date(), f"{' and '.join(changed)} changed"))
    first, last = known[0], known[-1]
    return between_words(name, (first[0].date(), first[1]), (last[0].date(), last[1]), happened, digits)


def _without_host_map(plan: Plan) -> Plan:
    return replace(plan, host_map={})


def _catalogue(run: Run) -> str:
    return run.summary.catalogue if run.summary else ""


def _is_like(point: TrendPoint, points: Sequence[TrendPoint]) -> bool:
    """Whether a run examined about as many pages as the last one that has the figure."""
    last = next((p.pages for p in reversed(points) if p.value is not None and p.pages is not None), None)
    return point.pages is None or last is None or comparable(point.pages, last, min(point.pages, last))


def _words(label: str, verdict: Trend, count: int, apart: int, every: Every, digits: int) -> str:
    said = verdict_words(label, verdict, count, every, digits)
    if not apart:
        return said
    runs = f"1 earlier {every} is" if apart == 1 else f"{apart} earlier {every}s are"
    return f"{said} {runs} left out: the number of pages examined is too different to compare."


def _note(point: TrendPoint) -> str:
    """What explains a point."""
    if point.state == RunState.FAILED:
        return "the run failed"
    changed = " and ".join(name for name, did in (("plan", point.changed), ("catalogue", point.catalogue_changed)) if did)
    said = [f"{changed} changed"] if changed else []
    if point.partial:
        said.append("partial run")
    if point.value is None:
        said.append("not examined")
    elif not point.comparable:
        said.append("too different a number of pages to compare")
    return "; ".join(said)
