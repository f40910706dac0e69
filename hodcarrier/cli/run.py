"""``hodcarrier run list|show|checks|start|watch|resume|stop|examine|export``."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from hodcarrier.cli import structure
from hodcarrier.cli.output import course, emit, err, out, progress_line
from hodcarrier.cli.outside import add_weight, weighed
from hodcarrier.cli.plan import read_settings
from hodcarrier.cli.service import (
    connect,
    find_site,
    last_run,
    limit,
    noun,
    run_of,
    run_under_way,
    save_file,
    show,
    show_first,
    verb,
)
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.facts.probes import Accepted, ProbeFacts
from hodcarrier.core.judge.health import gain_words
from hodcarrier.core.progress import Progress
from hodcarrier.core.states import Appearance, CheckOutcome, ExportForm, ExportOf, RunState, Severity, WorklistForm
from hodcarrier.core.words import signed, visible
from hodcarrier.wire.runs import ExamineBody, RunOut

# What a run is exported as, by the ending of the file's name.
EXPORTS = {"sqlite": ExportForm.FILE, **{form.value: form for form in ExportForm if form != ExportForm.FILE}}
RUNS_SHOWN = 50
# The events that did most to health; all of them are in `compare`.
EVENTS_SHOWN = 3
COLUMNS = [
    ("id", "Run"),
    ("site_host", "Site"),
    ("state", "State"),
    ("purpose", "Purpose"),
    ("requested_at", "When (UTC)"),
    ("health", "Health"),
    ("pages", "Pages"),
    ("findings", "Findings"),
    ("end_words", "Extent"),
    ("reason", ""),
    ("file", "File"),
]
CHECKS = [
    ("severity", "Severity"),
    ("summary", "What"),
    ("findings", "Findings"),
    ("pages", "Pages"),
    ("fixes", "Fixes"),
    ("gain", "Gain"),
    ("change", "Change"),
    ("id", "Check"),
]


ASKED = [
    ("severity", "Severity"),
    ("summary", "What"),
    ("outcome", "Outcome"),
    ("subject", "About"),
    ("examined", "Examined"),
    ("failing", "Fail"),
    ("passed", "Pass"),
    ("not_applicable", "Not applicable"),
    ("unverified", "Unverified"),
    ("id", "Check"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "run", "audits of sites")
    listed = verb(verbs, "list", "runs, the latest first", run_list)
    listed.add_argument("site", nargs="?", help="only this site")
    listed.add_argument("--limit", type=limit, help="rows at most (default: 50, or all for csv and json)")
    shown = verb(verbs, "show", "a run's summary and what to do first", run_show)
    shown.add_argument(
        "run_id", metavar="RUN", help="id of a run, a site for its latest, or SITE@DAY for the one it had on a day"
    )
    checks = verb(verbs, "checks", "what became of every check in a run, those without findings too", run_checks)
    checks.add_argument(
        "run_id", metavar="RUN", help="id of a run, a site for its latest, or SITE@DAY for the one it had on a day"
    )
    checks.add_argument("--outcome", choices=tuple(CheckOutcome), help="only these (default: all but those switched off)")
    add_weight(checks)
    started = verb(verbs, "start", "audit a site now", run_start)
    started.add_argument("site")
    started.add_argument(
        "--user-agent", choices=tuple(Appearance), help="beside the audits, with another user agent, to compare what is served"
    )
    started.add_argument("--wait", action="store_true", help="wait until it is done and show it")
    watched = verb(verbs, "watch", "follow a run until it has ended", run_watch)
    watched.add_argument("run_id", metavar="RUN", help="id of a run, or a site for the run under way")
    resumed = verb(verbs, "resume", "let a run that broke off go on from its last batch", run_resume)
    resumed.add_argument("run_id", metavar="RUN", help="id of a run, or a site whose last run failed")
    stopped = verb(verbs, "stop", "stop a run; what was fetched is examined", run_stop)
    stopped.add_argument("run_id", metavar="RUN", help="id of a run, or a site for the run under way")
    again = verb(verbs, "examine", "re-examine a run with other settings, without crawling again", run_examine)
    again.add_argument(
        "run_id", metavar="RUN", help="id of a run, a site for its latest, or SITE@DAY for the one it had on a day"
    )
    again.add_argument("--profile", help="the profile to use, or none (default: the site's own)")
    again.add_argument(
        "--set", action="append", default=[], metavar="NAME=VALUE", help="another setting for checks, as in plan edit (repeat)"
    )
    again.add_argument("--wait", action="store_true", help="wait until it is done and show it")
    structure.add_verbs(verbs)
    exported = verb(verbs, "export", "write a run's findings, or its file, to a file", run_export)
    exported.add_argument(
        "run_id", metavar="RUN", help="id of a run, a site for its latest, or SITE@DAY for the one it had on a day"
    )
    exported.add_argument(
        "file",
        type=Path,
        help="ends in .csv, .json, .jsonl, .xlsx (a sheet for each severity), .sarif or .sqlite (the run file itself)",
    )
    exported.add_argument("--causes", action="store_true", help="causes instead of findings")
    exported.add_argument("--check", default="", help="only of this check")
    exported.add_argument("--severity", type=Severity, choices=list(Severity), help="only of this severity")
    listed = verb(verbs, "worklist", "what to fix, where and how, for a developer: as a page or as Markdown", run_worklist)
    listed.add_argument("run_id", metavar="RUN")
    listed.add_argument("file", type=Path, help="ends in .html or .md")
    listed.add_argument("--check", action="append", default=[], metavar="CHECK", help="only this check; may be repeated")
    listed.add_argument("--cause", action="append", default=[], type=int, metavar="ID", help="only this cause; may be repeated")


def run_list(args: argparse.Namespace) -> int:
    """Print runs."""
    with connect(args) as desk:
        site = find_site(desk, args.site).id if args.site else None
        columns = COLUMNS if site is None else [c for c in COLUMNS if c[0] != "site_host"]
        return show_first(args, desk.list_runs(site), RUNS_SHOWN, columns, "No runs yet. Start one: hodcarrier run start SITE")


def run_show(args: argparse.Namespace) -> int:
    """Print one run."""
    with connect(args) as desk:
        run = desk.get_run(run_of(desk, args.run_id))
        return _show_run(args, desk, run)


def run_checks(args: argparse.Namespace) -> int:
    """Print checks with what they were asked of."""
    outcomes = [CheckOutcome(args.outcome)] if args.outcome else [o for o in CheckOutcome if o != CheckOutcome.OFF]
    with connect(args) as desk:
        run_id = run_of(desk, args.run_id)
        rows = [row for outcome in outcomes for row in desk.list_checks(run_id, outcome, args.weight)]
    return show(
        args,
        rows,
        weighed(ASKED, args.weight),
        f"No check of this run is {args.outcome}." if args.outcome else "This run has no checks.",
    )


def _show_run(args: argparse.Namespace, desk: Hodcarrier, run: RunOut) -> int:
    if args.format != "table" or run.summary is None:
        show(args, run, COLUMNS)
        return 0 if run.state != RunState.FAILED else 1
    out.print(
        f"[bold]{run.site_host}[/bold] · run {run.id} of {run.requested_at:%a %d %b %Y %H:%M} UTC · {run.pages} pages scored · {run.end_words}"
    )
    for notice in run.summary.notices:
        out.print(f"! {notice}", style="rgb(190,95,60)", markup=False)
    if run.health is None:
        out.print("Health: none, because no page was scored.")
    else:
        change = f", {since(run)}" if run.base_at else ""
        out.print(f"Health {course(run.health)} [bold]{run.health:.1f}[/bold] of 100, high is good{change}")
    if run.changes:
        counts = run.changes.counts
        out.print("Since then: " + ", ".join(f"{n:,} {name.replace('-', ' ')}" for name, n in sorted(counts.items())))
        for event in [event for event in run.changes.events if event.shown][:EVENTS_SHOWN]:
            out.print(f"{signed(event.shown):>7}  {visible(event.title)}", markup=False)
    if run.summary.probes and (said := probe_line(run.summary.probes)):
        out.print(said, style="dim", markup=False)
    rows = [
        {**r.model_dump(), "gain": gain_words(r.gain), "change": f"{r.change:+d}".replace("-", "−") if r.change else ""}
        for r in desk.list_checks(run.id)
        if r.findings
    ]
    emit(rows, "table", CHECKS, "All checks pass." if run.summary.pages_scored else "No page was audited.")
    return 0 if run.summary.pages_scored else 1


def since(run: RunOut) -> str:
    """How health changed since the run before, or why that is not said."""
    if run.health_change is not None:
        return f"{signed(run.health_change)} since {run.base_at:%a %d %b}"
    shared = run.changes.health if run.changes else None
    if shared is None:
        return f"not compared with {run.base_at:%a %d %b}"
    return f"not compared with {run.base_at:%a %d %b}: both examined only {shared.pages:,} of {shared.pages_larger:,} pages"


def probe_line(probes: ProbeFacts) -> str:
    """What the probes of a run learnt, in one line."""
    said = []
    if probes.https is not None:
        said.append("https answers" if probes.https.status else "https does not answer")
    if probes.variants is not None:
        ends = {v.leads_to for v in probes.variants.variants if v.leads_to}
        silent = sum(1 for v in probes.variants.variants if not v.leads_to)
        if ends:
            said.append(
                f"http, https and www lead to {' and '.join(sorted(ends))}" + (f" ({silent} do not answer)" if silent else "")
            )
    if probes.missing is not None and probes.missing.status is not None:
        said.append(f"a URL that does not exist answers {probes.missing.status}")
    if probes.tls is not None:
        said.append("accepts " + (", ".join(n for n, a in probes.tls.versions.items() if a == Accepted.YES) or "no TLS version"))
    return "Probes: " + "; ".join(said) if said else ""


def run_start(args: argparse.Namespace) -> int:
    """Start a run."""
    with connect(args) as desk:
        site = find_site(desk, args.site).id
        run = desk.fetch_as(site, Appearance(args.user_agent)) if args.user_agent else desk.start_run(site)
        if not args.wait:
            return show(args, run, COLUMNS)
        ended = desk.wait_for_run(run.id, _progress)
        code = _show_run(args, desk, ended)
    if args.user_agent and ended.base_id:
        err.print(f"What differs: hodcarrier compare {ended.base_id} {ended.id}", markup=False)
    return code


def run_watch(args: argparse.Namespace) -> int:
    """Follow a run."""
    with connect(args) as desk:
        key = run_under_way(desk, args.run_id)
        for run in desk.watch_run(key):
            _progress(run)
        return _show_run(args, desk, desk.wait_for_run(key, _progress))


def run_resume(args: argparse.Namespace) -> int:
    """Let a run go on."""
    with connect(args) as desk:
        return show(args, desk.resume_run(last_run(desk, args.run_id)), COLUMNS)


def run_stop(args: argparse.Namespace) -> int:
    """Stop a run."""
    with connect(args) as desk:
        run = desk.stop_run(run_under_way(desk, args.run_id))
    err.print(f"Run {run.id} is asked to stop.")
    return 0


def run_examine(args: argparse.Namespace) -> int:
    """Re-examine a run."""
    profile = "" if args.profile == "none" else args.profile
    with connect(args) as desk:
        source = run_of(desk, args.run_id)
        run = desk.examine_again(source, ExamineBody(profile=profile, values=read_settings(args.set)))
        if not args.wait:
            return show(args, run, COLUMNS)
        code = _show_run(args, desk, desk.wait_for_run(run.id, _progress))
    err.print(f"What differs: hodcarrier compare {run.source_id} {run.id}", markup=False)
    return code


def run_export(args: argparse.Namespace) -> int:
    """Write an export."""
    form = args.file.suffix.lstrip(".").lower()
    if form not in EXPORTS:
        raise InvalidInput(
            f"{args.file} ends in none of {', '.join(f'.{name}' for name in EXPORTS)}.", "Choose one of these.", "file"
        )
    with connect(args) as desk:
        what = ExportOf.CAUSES if args.causes else ExportOf.FINDINGS
        document = desk.export_run(run_of(desk, args.run_id), EXPORTS[form], what, args.check, args.severity)
    return save_file(args.file, document)


def run_worklist(args: argparse.Namespace) -> int:
    """Write a work list."""
    try:
        form = WorklistForm(args.file.suffix.lstrip(".").lower())
    except ValueError:
        raise InvalidInput(f"{args.file} ends in neither .html nor .md.", "Choose one of them.", "file") from None
    with connect(args) as desk:
        chosen = ",".join(args.check), ",".join(map(str, args.cause))
        document = desk.export_worklist(run_of(desk, args.run_id), form, *chosen)
    return save_file(args.file, document)


def _progress(run: RunOut) -> None:
    if not err.is_terminal:
        return
    said = f"{run.state} · {progress_line(run.progress or Progress())}"
    err.print(said.ljust(err.width - 1)[: err.width - 1], end="\r")
