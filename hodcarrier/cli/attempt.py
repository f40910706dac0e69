"""``hodcarrier try ADDRESS``: one audit in this process, with progress and a summary, without a service."""

from __future__ import annotations

import argparse
import asyncio
import json
import math
import signal
import sys
import tempfile
import textwrap
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import msgspec

from hodcarrier.cli.output import count, course, err, number, out, progress_line, severity
from hodcarrier.core.errors import InvalidInput, Unavailable
from hodcarrier.core.progress import Progress
from hodcarrier.core.states import Severity
from hodcarrier.core.summary import RunSummary
from hodcarrier.core.words import visible

SEVERITIES = tuple(Severity)


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = commands.add_parser("try", help="audit one site now, in this process, without a service")
    parser.add_argument("address", help="where the crawl starts, such as https://shop.example/")
    parser.add_argument("--max-pages", type=int, default=500, metavar="N", help="fetch at most N pages (default 500)")
    parser.add_argument("--allow-private", action="store_true", help="let the site itself be at a loopback or private address")
    parser.add_argument("--rate", type=float, default=5.0, metavar="R", help="requests per second and host (default 5)")
    parser.add_argument("--parallel", type=int, default=4, metavar="N", help="requests at once and host (default 4)")
    parser.add_argument("--external", action="store_true", help="also check whether links to other sites answer")
    parser.add_argument("--save", type=Path, metavar="RUN.sqlite", help="keep the run file")
    parser.add_argument("--format", choices=("text", "json"), default="text", help="text for reading (default) or json")
    parser.add_argument("--fail-on", choices=SEVERITIES, help="exit 4 when a check of this severity or a worse one fails")
    parser.add_argument("--min-health", type=_health, metavar="H", help="exit 4 when health is below H")
    parser.set_defaults(run=run)


def _health(text: str) -> float:
    """A health. Raises :class:`argparse.ArgumentTypeError` for one that there is not."""
    try:
        number = float(text)
    except ValueError:
        number = math.nan
    if not 0 <= number <= 100:
        raise argparse.ArgumentTypeError(f"“{text}” is no health; give a number from 0 to 100")
    return number


def run(args: argparse.Namespace) -> int:
    """Audit, print, and choose the exit code."""
    from hodcarrier.core.plan import read_plan
    from hodcarrier.core.web.permits import ALL_PRIVATE
    from hodcarrier.core.web.urls import read_address

    plan = read_plan(
        {
            "start": [read_address(args.address)],
            "pages_max": args.max_pages,
            "private_addresses": ALL_PRIVATE if args.allow_private else (),
            "rate_per_s": args.rate,
            "parallel": args.parallel,
            "check_external": args.external,
        }
    )
    if args.save is not None:
        _check_save(args.save)
    with tempfile.TemporaryDirectory() as folder:
        part = Path(folder) / "try.part" if args.save is None else args.save.with_name(args.save.name + ".part")
        part.unlink(missing_ok=True)
        try:
            return asyncio.run(_audit(args, plan, part))
        finally:
            for leftover in (part, part.with_name(part.name + "-wal"), part.with_name(part.name + "-shm")):
                leftover.unlink(missing_ok=True)


def _check_save(path: Path) -> None:
    if path.exists():
        raise InvalidInput(f"{path} is already there.", "Give another name; nothing is overwritten.", "save")
    if not path.parent.is_dir():
        raise InvalidInput(f"There is no folder {path.parent}.", "Make it first, or save elsewhere.", "save")
    try:
        path.touch(exist_ok=False)
        path.unlink()
    except OSError as error:
        raise Unavailable(f"{path} cannot be written: {error.strerror}.", "Save to another folder.") from None


async def _audit(args: argparse.Namespace, plan: Any, part: Path) -> int:
    from hodcarrier.audit.audit import audit
    from hodcarrier.runfile.reader import RunFile
    from hodcarrier.runfile.store import open_part

    began = datetime.now(UTC)
    stop = {"asked": False}
    with suppress(NotImplementedError):
        asyncio.get_running_loop().add_signal_handler(signal.SIGINT, lambda: stop.update(asked=True))
    writer = open_part(part, plan, {"run_id": "try", "started_at": began.isoformat()})
    show = _progress if err.is_terminal else lambda _progress: None
    audited = await audit(
        writer,
        plan,
        lambda: datetime.now(UTC),
        should_stop=lambda: "stopped" if stop["asked"] else "",
        on_progress=show,
    )
    if err.is_terminal:
        err.print(" " * (err.width - 1), end="\r")
    summary = audited.summary
    if summary is None:
        writer.close()
        err.print(f"Nothing was audited. {audited.failed}", style="rgb(190,95,60)", markup=False)
        if "private" in audited.failed:
            err.print("Add --allow-private if that is meant.")
        return 1
    opened = RunFile(writer.db)
    if args.format == "json":
        _print_json(opened, summary, plan)
    else:
        _print_text(opened, summary, plan, (datetime.now(UTC) - began).total_seconds())
    writer.close()
    if args.save is not None:
        part.rename(args.save)
        err.print(f"Saved to {args.save}. List all findings: hodcarrier export findings {args.save} --format csv")
    return _exit_code(args, summary, stop["asked"])


def _exit_code(args: argparse.Namespace, summary: RunSummary, stopped: bool) -> int:
    if stopped:
        return 130
    if summary.health is None:
        return 1
    if args.min_health is not None and summary.health < args.min_health:
        err.print(f"Health {summary.health:.1f} is below {args.min_health:g}.")
        return 4
    if args.fail_on:
        worse = SEVERITIES[: SEVERITIES.index(args.fail_on) + 1]
        failing = sum(summary.severities[name].checks for name in worse)
        if failing:
            err.print(f"{failing} checks of severity {args.fail_on} or worse fail.")
            return 4
    return 0


def _progress(progress: Progress) -> None:
    line = progress_line(progress)
    err.print(line.ljust(err.width - 1)[: err.width - 1], end="\r")


def _print_json(run: Any, summary: RunSummary, plan: Any) -> None:
    from hodcarrier.runfile.results import findings

    document = {
        "address": plan.start[0],
        "summary": msgspec.to_builtins(summary, str_keys=True),
        "findings": findings(run),
    }
    sys.stdout.write(json.dumps(document, ensure_ascii=False, indent=2) + "\n")


def _print_text(run: Any, summary: RunSummary, plan: Any, seconds: float) -> None:
    from hodcarrier.core.judge.health import gain_points
    from hodcarrier.runfile.results import worth_doing_first

    host = plan.host
    out.print(f"[bold]{host}[/bold] · {count(summary.pages_scored, 'page')} scored in {seconds:.0f} s · {summary.end_words}")
    for notice in summary.notices:
        out.print(f"! {notice}", style="rgb(190,95,60)", markup=False)
    health = summary.health
    if health is None:
        out.print("Health: none, because no page was scored.")
    else:
        out.print(f"Health {course(health)} [bold]{health:.1f}[/bold] of 100, high is good")
    steps = " → ".join(f"{number(step.count)} {step.label}" for step in summary.funnel)
    out.print(f"URLs: {steps}")
    for reason, pages in list(summary.dropouts.items())[:4]:
        out.print(f"  {reason}: {number(pages)}", style="dim", markup=False)
    first = worth_doing_first(run)
    if not first:
        out.print("\nNo check fails.")
        return
    out.print("\n[bold]Worth doing first[/bold] (severity, then points gained per fix)")
    for row in first:
        gain = gain_points(row["gain"])
        line = severity(row["severity"])
        line.pad_right(max(0, 12 - len(line.plain)))
        line.append(row["summary"], style="bold")
        out.print(line)
        figures = " · ".join(
            [
                f"{count(row['findings'], 'finding')} on {count(row['pages'], 'page')}",
                count(row["fixes"], "fix"),
                gain,
                row["id"],
            ]
        )
        if not row["pages"]:
            figures = f"concerns the whole site · {gain} · {row['id']}"
        out.print(_indented(figures), style="dim", markup=False)
        out.print(_indented(visible(row["cause"])), markup=False)
    rest = sum(1 for c in summary.checks.values() if c.findings) - len(first)
    if rest > 0:
        out.print(f"and {rest} more checks. What a check means: hodcarrier catalogue show ID", style="dim")


def _indented(text: str) -> str:
    """Text below a severity, in lines that fit."""
    return textwrap.fill(
        text if len(text) <= 200 else text[:199] + "…", out.width, initial_indent=" " * 12, subsequent_indent=" " * 12
    )
