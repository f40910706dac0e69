"""Trends of any run-summary figure over time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import undefer

from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.judge.areas import comparable
from hodcarrier.core.judge.trend import Trend, assess
from hodcarrier.core.plan import Plan
from hodcarrier.core.states import RunPurpose, RunState, Severity, SiteKind
from hodcarrier.register.models import EXAMINED_OR_FAILED, Run, Site
from hodcarrier.usecases.remarks import remarks_of
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.trends import TrendOut, TrendPoint


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
    raise InvalidInput(
        f"There is no figure “{figure}”.", "Figures are health, findings, pages, area.NAME, severity.NAME and check.ID.", "figure"
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
    known = catalogue.load()
    figures = [f for check, f in summary.checks.items() if known.current(check) == known.current(name)]
    return float(figures[0].findings) if figures else None


def pages_of(figure: str, run: Run) -> int | None:
    """How many pages a figure of a run is over; ``None`` when the run has none, or does not say."""
    if run.summary is None:
        return None
    kind, _, name = figure.partition(".")
    if kind == "area":
        return run.summary.area_pages.get(catalogue.Area(name))
    return run.summary.pages_scored


def get_trend(
    work: Workspace, site_id: int, figure: str = "health", start: date | None = None, end: date | None = None
) -> TrendOut:
    """A figure over the audits of a site, with remarks and a verdict in a sentence."""
    label, high_is_good = figure_label(figure)
    if start and end and end < start:
        raise InvalidInput(f"The time ends before it begins: {start} to {end}.", "Give the earlier day first.", "from_day")
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
        shown = remarks_of(session, site_id, start, end)
    known = [(p.at, p.value) for p in points if p.value is not None and p.comparable]
    apart = sum(1 for p in points if p.value is not None and not p.comparable)
    verdict = assess(known, high_is_good, steady=1.0 if high_is_good else max(1.0, 0.05 * (known[0][1] if known else 0)))
    return TrendOut(
        figure=figure,
        label=label,
        high_is_good=high_is_good,
        points=points,
        remarks=shown,
        state=verdict.state,
        slope_per_month=verdict.slope_per_month,
        change=verdict.change,
        words=_words(label.partition(",")[0], verdict, len(known), apart),
    )


def _without_host_map(plan: Plan) -> Plan:
    return replace(plan, host_map={})


def _catalogue(run: Run) -> str:
    return run.summary.catalogue if run.summary else ""


def _is_like(point: TrendPoint, points: Sequence[TrendPoint]) -> bool:
    """Whether a run examined about as many pages as the last one that has the figure."""
    last = next((p.pages for p in reversed(points) if p.value is not None and p.pages is not None), None)
    return point.pages is None or last is None or comparable(point.pages, last, min(point.pages, last))


def _words(label: str, verdict: Trend, count: int, apart: int) -> str:
    said = _verdict_words(label, verdict, count)
    if not apart:
        return said
    runs = "1 earlier run is" if apart == 1 else f"{apart} earlier runs are"
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


def _verdict_words(label: str, verdict: Trend, count: int) -> str:
    if verdict.slope_per_month is None:
        runs = "1 run is" if count == 1 else f"{count} runs are"
        return f"{label}: {runs} too few for a trend; three are needed."
    change = f"{verdict.change or 0:+.1f}".replace("-", "−")
    slope = f"{verdict.slope_per_month:+.1f}".replace("-", "−")
    state = str(verdict.state)
    if verdict.step:
        state += f" until the last run, which {'fell' if verdict.step < 0 else 'rose'} by {abs(verdict.step):,.1f}"
    return f"{label}: {state}. {change} over {count} runs; {slope} a month by the median slope."
