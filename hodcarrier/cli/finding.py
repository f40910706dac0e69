"""``hodcarrier finding list|show|history|check|causes|sites``."""

from __future__ import annotations

import argparse
from typing import Any

from rich.text import Text

from hodcarrier.cli.output import count, emit, out, severity
from hodcarrier.cli.outside import add_weight, weighed
from hodcarrier.cli.service import connect, find_site, limit, noun, run_of, show, show_first, verb
from hodcarrier.core.judge.health import gain_points, gain_words
from hodcarrier.core.states import Severity, SourceDocument
from hodcarrier.wire.results import CauseRow, FindingRow

PRINT_CHARS = 10
CAUSES = [("line", "Cause"), ("findings", "Findings"), ("pages", "Pages"), ("gain", "Gain"), ("id", "Id")]
COLUMNS = [("severity", "Severity"), ("check", "Check"), ("subject", "Page"), ("message", "Finding"), ("since", "Since")]


class _Named(FindingRow):
    """A finding with as much of its fingerprint as tells it apart."""

    begins: str

    @classmethod
    def of(cls, found: FindingRow) -> _Named:
        return cls(**found.model_dump(), begins=found.fingerprint[:PRINT_CHARS])


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "finding", "what a run found")
    listed = verb(verbs, "list", "findings of a run", run_list)
    listed.add_argument(
        "run_id", metavar="RUN", help="id of a run, a site for its latest, or SITE@DAY for the one it had on a day"
    )
    listed.add_argument("--check", default="")
    listed.add_argument("--severity", choices=tuple(Severity))
    listed.add_argument("--limit", type=limit, help="rows at most (default: 50, or all for csv and json)")
    one = verb(verbs, "check", "one check in a run: why, how to fix it, its causes", run_check)
    one.add_argument("run_id", metavar="RUN")
    one.add_argument("check", metavar="CHECK")
    shown = verb(verbs, "show", "one finding: the element in the source, and its fix", run_show)
    shown.add_argument(
        "run_id", metavar="RUN", help="id of a run, a site for its latest, or SITE@DAY for the one it had on a day"
    )
    shown.add_argument("fingerprint", help="the id that finding list shows, or the whole fingerprint")
    history = verb(verbs, "history", "what each run of a site saw of one finding, the latest first", run_history)
    history.add_argument("site")
    history.add_argument("fingerprint", help="the id that finding list shows, or the whole fingerprint")
    history.add_argument("--limit", type=limit, default=30, help="runs at most (default: 30)")
    sites = verb(verbs, "sites", "on which sites a check fails now, or on how many each does", run_sites)
    sites.add_argument("check", metavar="CHECK", nargs="?", default="")
    caused = verb(verbs, "causes", "what one fix each would clear, the most valuable first", run_causes)
    caused.add_argument("run_id", metavar="RUN")
    caused.add_argument("--check", default="")
    add_weight(caused)
    caused.add_argument("--limit", type=limit, default=50, help="rows at most (default: 50)")


SITES = [("host", "Site"), ("client_name", "Client"), ("findings", "Findings"), ("run_id", "Run")]
FAILING = [("check", "Check"), ("sites", "Sites"), ("findings", "Findings")]


def run_sites(args: argparse.Namespace) -> int:
    """Print on which sites a check fails, or on how many each does."""
    with connect(args) as desk:
        if args.check:
            return show(args, desk.list_failing_sites(args.check), SITES, "It fails on no site.")
        return show(args, desk.list_failing_checks(), FAILING, "No check fails on any site.")


def run_check(args: argparse.Namespace) -> int:
    """Print one check in a run."""
    with connect(args) as desk:
        found = desk.get_check(run_of(desk, args.run_id), args.check)
    if args.format != "table":
        return show(args, found, CAUSES)
    out.print(found.summary, style="bold", markup=False)
    line = severity(found.severity)
    places = f"{count(found.findings, 'finding')} on {count(found.pages, 'page')}"
    figures = f"{places} · {count(found.fixes, 'fix')} · {gain_points(found.gain)}" if found.findings else "no page fails it"
    line.append(f"  {figures} · {found.id}", style="dim")
    out.print(line)
    if found.retired:
        out.print(f"! Retired in {found.retired.since}: {found.retired.reason}", style="rgb(190,95,60)", markup=False)
    out.print(found.why, markup=False)
    out.print(found.fix, markup=False)
    if found.causes:
        emit([_cause(c) for c in found.causes[:20]], "table", CAUSES)
    return 0


def run_show(args: argparse.Namespace) -> int:
    """Print one finding."""
    with connect(args) as desk:
        found = desk.get_finding(run_of(desk, args.run_id), args.fingerprint)
    if args.format != "table":
        return show(args, found, COLUMNS)
    out.print(found.summary, style="bold", markup=False)
    out.print(severity(found.severity), f"  {found.check} · {found.subject}")
    out.print(found.message, markup=False)
    print_source(found)
    return 0


def print_source(found: FindingRow) -> None:
    """Print where a finding stands, and the element before and after the fix."""
    source = found.source
    if source is None:
        return
    if source.line:
        where = (
            f"Line {source.line}, column {source.column}"
            if source.document == SourceDocument.PAGE
            else f"Line {source.line} of {source.document}"
        )
        out.print(f"{where}  {source.selector}".rstrip(), style="dim", markup=False)
    elif source.selector:
        out.print(source.selector, style="dim", markup=False)
    fixed = "after" if source.before else "add"
    for said, code in (("before" if source.after else "", source.before), (fixed, source.after)):
        if code:
            out.print(Text(f"{said:<8}", style="dim").append(code.replace("\n", "\n        "), style="default"))


def run_history(args: argparse.Namespace) -> int:
    """Print what each run saw."""
    with connect(args) as desk:
        found = desk.get_finding_history(find_site(desk, args.site).id, args.fingerprint, args.limit)
    if args.format == "json":
        return show(args, found, [])
    rows = [{**sight.model_dump(mode="json"), "rule": "its rule changed" if sight.rule_changed else ""} for sight in found.runs]
    if args.format == "table":
        out.print(found.summary, style="bold", markup=False)
        out.print(f"{found.subject} {found.place}".rstrip(), markup=False)
        said = f"First seen {found.first_seen:%d %b %Y}, last seen {found.last_seen:%d %b %Y}"
        out.print(said + (f", returned {count(found.times_returned, 'time')}" if found.times_returned else ""))
    emit(rows, args.format, [("at", "Run (UTC)"), ("seen", "Seen"), ("rule", ""), ("run_id", "Id")])
    return 0


def run_causes(args: argparse.Namespace) -> int:
    """Print causes."""
    with connect(args) as desk:
        rows = desk.list_causes(run_of(desk, args.run_id), args.check, args.limit, weight=args.weight)
    emit([_cause(c) for c in rows], args.format, weighed(CAUSES, args.weight), "No causes of that kind.")
    return 0


def _cause(cause: CauseRow) -> dict[str, Any]:
    plain = cause.model_dump(mode="json")
    return {**plain, "gain": gain_words(cause.gain)}


def run_list(args: argparse.Namespace) -> int:
    """Print findings."""
    chosen = Severity(args.severity) if args.severity else None
    columns = COLUMNS if args.format != "table" else [*COLUMNS, ("begins", "Id")]
    with connect(args) as desk:
        rows = desk.list_findings(run_of(desk, args.run_id), check=args.check, severity=chosen)
        return show_first(
            args, map(_Named.of, rows) if args.format == "table" else rows, 50, columns, "No findings of that kind."
        )
