"""The small results of a run that go into the register: its summary, its changes since the run before, its part in a benchmark.

They are stored, so they are typed and versioned (:mod:`hodcarrier.core.stored`). The HTTP interface shows them as they are.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from hodcarrier.core.facts.probes import ProbeFacts
from hodcarrier.core.states import NEW_CHANGES, Area, Change, EventKind, Severity, Subject
from hodcarrier.core.stored import Format
from hodcarrier.core.web.parameters import SessionParameter


class RunEnd(StrEnum):
    """Why a crawl ended."""

    COMPLETE = "complete"
    PAGES = "pages"
    TIME = "time"
    STOPPED = "stopped"


END_WORDS: dict[RunEnd, str] = {
    RunEnd.COMPLETE: "whole site reached",
    RunEnd.PAGES: "stopped at the page limit",
    RunEnd.TIME: "stopped at the time limit",
    RunEnd.STOPPED: "stopped by a person",
}


@dataclass(frozen=True)
class CheckFigures:
    """What one check found in a run. ``gain`` in health points; ``pages`` are scored pages that fail it.

    ``subject`` is ``None`` in summaries that were stored before it was kept.
    """

    area: Area
    severity: Severity
    subject: Subject | None
    findings: int
    waived: int
    pages: int
    fixes: int
    gain: float
    unverified: int
    crashed: int
    summary: str = ""


@dataclass(frozen=True)
class SeverityFigures:
    """How many checks of a severity fail, and their findings."""

    checks: int
    findings: int


@dataclass(frozen=True)
class FunnelStep:
    """A step of the funnel of URLs, and how many URLs come so far; ``where`` asks the inventory for those that drop out before it."""

    id: str
    label: str
    count: int
    where: str = ""


@dataclass(frozen=True)
class Crash:
    """A check that raised at a subject."""

    check: str
    subject: str
    error: str


@dataclass(frozen=True)
class Measures:
    """What trends show of a site besides its scores. Shares in percent; ``None`` without a base.

    ``documents`` is how many pages were measured, of the ``known`` ones that do not redirect (``None``: not kept by older releases).
    """

    documents: int = 0
    known: int | None = None
    health: float | None = None
    severe_free_ratio: float | None = None
    indexable_ratio: float | None = None
    description_ratio: float | None = None
    alt_ratio: float | None = None
    https_ratio: float | None = None
    compressed_ratio: float | None = None
    listed_ratio: float | None = None
    data_ratio: float | None = None
    first_byte_ms_median: float | None = None
    html_bytes_median: float | None = None
    words_median: float | None = None
    depth_p90: float | None = None


@dataclass(frozen=True)
class Loss:
    """How many points of health failing a check costs; ``check`` is empty for all others together."""

    check: str
    points: float


@dataclass(frozen=True)
class RunSummary:
    """All figures of a run that lists, trends, benchmarks and the console's summary need.

    ``areas`` are scores over the pages on which the area was examined, ``area_pages`` how many those are; an area that was
    examined nowhere has no score. ``lost`` says where the points went that are missing: with ``health`` they make 100.
    """

    health: float | None
    site_factor: float
    areas: dict[Area, float | None]
    pages_scored: int
    findings: int
    waived: int
    unverified: int
    severities: dict[Severity, SeverityFigures]
    checks: dict[str, CheckFigures]
    funnel: list[FunnelStep]
    dropouts: dict[str, int]
    measures: Measures
    end: RunEnd
    end_words: str
    notices: list[str]
    session_parameters: list[SessionParameter] = field(default_factory=list)
    crashes: list[Crash] = field(default_factory=list)
    catalogue: str = ""
    probes: ProbeFacts | None = None
    area_pages: dict[Area, int] = field(default_factory=dict)
    lost: list[Loss] = field(default_factory=list)

    @property
    def partial(self) -> bool:
        """Whether it ended at a limit or was stopped, so that pages beyond it are unverified."""
        return self.end != RunEnd.COMPLETE


@dataclass(frozen=True)
class CheckChange:
    """One check in a comparison: its findings by class, and how many open ones the base and the head have (``None``: stored before it was kept)."""

    check: str
    severity: Severity
    summary: str
    counts: dict[Change, int]
    then: int | None = None
    now: int | None = None

    @property
    def change(self) -> int:
        """How many findings there are more, by what both runs could see: what was not examined in either is no change."""
        came = (Change.NEW, Change.NEW_WITH_PAGE, Change.RETURNED)
        went = (Change.FIXED, Change.GONE_WITH_PAGE)
        return sum(self.counts.get(c, 0) for c in came) - sum(self.counts.get(c, 0) for c in went)


@dataclass(frozen=True)
class SettingChange:
    """A setting, a check or the catalogue that differs between two runs."""

    name: str
    base: str
    head: str


@dataclass(frozen=True)
class SharedScore:
    """How a score changed between two runs, over the ``pages`` that both examined; ``None``: too few of them to compare."""

    pages_base: int
    pages_head: int
    pages: int
    change: float | None

    @property
    def pages_larger(self) -> int:
        """The pages of the run that examined more."""
        return max(self.pages_base, self.pages_head)


# Why pages were not reached, as the way of an event: those that lead to them could not be read.
BEHIND = "behind"


@dataclass(frozen=True)
class EventCheck:
    """A check whose findings are part of an event, and how many."""

    check: str
    summary: str
    severity: Severity
    findings: int


@dataclass(frozen=True)
class Event:
    """What happened between two runs.

    ``about`` is what it is about: the rule of robots.txt, the folder, the pattern of a template, the field of pages, the check. ``way`` says how
    it happened, as in :class:`~hodcarrier.core.judge.events.Fate`. ``pages`` are those it concerns, ``examples`` some of them, ``target`` where a single page moved to.
    ``counts`` are its findings by class, ``checks`` those with most of them. ``share`` is its part of the change in health in points, exact;
    ``shown`` the same to one decimal, so that the events add up to the change that is shown; ``None`` when there is no health. ``joined`` is how many smaller events
    one of the kind *other* holds. ``files``: it concerns files, not pages.
    ``title`` and ``detail`` say it in words (:mod:`hodcarrier.core.event_words`).
    """

    kind: EventKind
    about: str
    way: str
    pages: int
    examples: Sequence[str]
    counts: dict[Change, int]
    checks: Sequence[EventCheck]
    check_count: int
    target: str = ""
    share: float | None = None
    shown: float | None = None
    joined: int = 0
    files: bool = False
    title: str = ""
    detail: str = ""


@dataclass(frozen=True)
class RunChanges:
    """What changed since the run before. ``health`` and ``areas`` are over pages that both runs examined; ``sentence`` and ``events``
    say what happened."""

    counts: dict[Change, int]
    by_check: list[CheckChange]
    settings: list[SettingChange]
    robots_changed: bool = False
    newly_blocked: int = 0
    todos_confirmed: int = 0
    health: SharedScore | None = None
    areas: dict[Area, SharedScore] = field(default_factory=dict)
    sentence: str = ""
    events: list[Event] = field(default_factory=list)

    @property
    def new(self) -> int:
        """Findings that are new in any way."""
        return sum(self.counts.get(change, 0) for change in NEW_CHANGES)


@dataclass(frozen=True, slots=True)
class Taken:
    """A measure of one site, of ``size`` rows. ``low`` and ``high`` are its 95 % interval where those are a sample; ``None`` where they are all
    there are."""

    value: float
    size: int
    low: float | None = None
    high: float | None = None


@dataclass(frozen=True)
class SiteFigures:
    """What a benchmark run says of its site: every measure that has a base, and on how many pages it has what (``has``: kinds of pages, types of
    structured data, languages, terms of titles and headings). ``sampled``: the run ended before the whole site was reached."""

    taken: dict[str, Taken] = field(default_factory=dict)
    has: dict[str, dict[str, int]] = field(default_factory=dict)
    sampled: bool = False


@dataclass(frozen=True)
class RoundSite:
    """One site's part in a benchmark round; ``None`` figures when its run failed. ``failing_pages`` are by check; ``documents`` is how many pages were
    measured of the ``known`` ones that do not redirect (``None``: not kept by older releases)."""

    site_id: int
    host: str
    run_id: str
    pages: int | None
    figures: SiteFigures | None
    documents: int = 0
    known: int | None = None
    failing_pages: dict[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class RoundResult:
    """A benchmark round that has ended, the own site first."""

    sites: list[RoundSite]


def _lift_summary(values: dict[str, Any]) -> dict[str, Any]:
    """Before there was a version, some summaries did not say what a check is about."""
    checks = {check: {**figures, "subject": figures.get("subject") or None} for check, figures in values["checks"].items()}
    return {**values, "checks": checks}


def _lift_changes(values: dict[str, Any]) -> dict[str, Any]:
    """Before there was a version, settings were triples."""
    settings = [{"name": name, "base": base, "head": head} for name, base, head in values.get("settings", [])]
    return {**values, "settings": settings}


SUMMARY = Format(RunSummary, "run summary", 1, {0: _lift_summary})
CHANGES = Format(RunChanges, "comparison", 1, {0: _lift_changes})


def _lift_measures(values: dict[str, Any]) -> dict[str, Any]:
    """A round had a few measures, which did not say how sure they are."""
    sites = []
    for site in values["sites"]:
        measures = dict(site["measures"] or {})
        documents, known = measures.pop("documents", 0), measures.pop("known", None)
        taken = {name: {"value": value, "size": documents} for name, value in measures.items() if value is not None}
        kept = {name: value for name, value in site.items() if name != "measures"}
        sites.append({**kept, "figures": {"taken": taken} if measures else None, "documents": documents, "known": known})
    return {"sites": sites}


FIGURES = Format(SiteFigures, "figures of a site")
ROUND = Format(RoundResult, "benchmark round", 2, {1: _lift_measures})
