"""``hodcarrier run structure|site-files|fixes``: how a site hangs together, and what fixes would bring together."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import count, emit, err, out
from hodcarrier.cli.service import connect, run_of, show, verb
from hodcarrier.core.judge.health import gain_words
from hodcarrier.core.states import BranchKind
from hodcarrier.wire.structure import FixesBody

BRANCH_COLUMNS = [
    ("label", "Pages of"),
    ("pages", "Pages"),
    ("health", "Health"),
    ("findings", "Findings"),
    ("severe", "Severe"),
    ("indexable", "Indexable"),
    ("flow", "Link flow"),
    ("inner", "Folders in it"),
]
FIX_COLUMNS = [
    ("severity", "Severity"),
    ("text", "Fix"),
    ("fixes", "Fixes"),
    ("effort", "Effort"),
    ("findings", "Findings"),
    ("gain", "Alone"),
]


SITE_FILE_COLUMNS = [
    ("kind", "What"),
    ("url", "Address"),
    ("status", "Status"),
    ("entries", "Entries"),
    ("size_bytes", "Bytes"),
    ("problems", "Problems"),
    ("since", "As it is since"),
    ("ends", "Ends"),
    ("tls_versions", "TLS"),
]


def add_verbs(verbs: Any) -> None:
    """Describe the commands."""
    shown = verb(verbs, "structure", "the pages of a run by folder, host, language or template", _run_structure)
    shown.add_argument("run_id", metavar="RUN")
    shown.add_argument("--by", type=BranchKind, choices=list(BranchKind), default=BranchKind.FOLDER, help="default: folder")
    shown.add_argument("--below", default="/", metavar="PATH", help="the folders in this one (default: /)")
    shown.add_argument("--links", action="store_true", help="how many links lead from template to template instead")
    files = verb(
        verbs, "site-files", "robots.txt, sitemaps and certificates, and since when they are as they are", _run_site_files
    )
    files.add_argument("run_id", metavar="RUN")
    fixes = verb(verbs, "fixes", "what checks and causes would bring if they were fixed together", _run_fixes)
    fixes.add_argument("run_id", metavar="RUN")
    fixes.add_argument(
        "--check", action="append", default=[], metavar="CHECK", help="a check with all its causes; may be repeated"
    )
    fixes.add_argument(
        "--cause", action="append", default=[], type=int, metavar="ID", help="a cause; see `finding causes`; may be repeated"
    )


def _run_structure(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        run = run_of(desk, args.run_id)
        if args.links:
            links = desk.get_template_links(run)
            if args.format == "json":
                return show(args, links, [])
            names = [branch.label for branch in links.branches]
            rows = [{"name": name, **dict(zip(names, row, strict=True))} for name, row in zip(names, links.links, strict=True)]
            emit(rows, args.format, [("name", "From / to"), *((name, name) for name in names)], "The run has no templates.")
            return 0
        found = desk.get_structure(run, args.by, args.below)
    if args.format == "json":
        return show(args, found, [])
    listed = [branch.model_dump() for branch in found.branches]
    if found.own:
        listed.append({**found.own.model_dump(), "label": found.own.label or "(none)"})
    emit(
        listed, args.format, BRANCH_COLUMNS, f"No pages lie below {found.below}." if args.by == BranchKind.FOLDER else "No pages."
    )
    return 0


def _run_site_files(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        return show(args, desk.list_site_files(run_of(desk, args.run_id)), SITE_FILE_COLUMNS, "The run met no such files.")


def _run_fixes(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.plan_fixes(run_of(desk, args.run_id), FixesBody(checks=args.check, causes=args.cause))
    if args.format == "json":
        return show(args, found, [])
    rows = [{**item.model_dump(), "gain": gain_words(item.gain)} for item in found.items]
    emit(rows, args.format, FIX_COLUMNS, "Nothing is chosen. Give --check or --cause.")
    if args.format == "table" and found.health is not None and found.health_after is not None and rows:
        out.print(
            f"Health {found.health:.1f} → {found.health_after:.1f}, {gain_words(found.gain or 0)} together.", highlight=False
        )
        err.print(
            f"{count(found.findings, 'finding')} on {count(found.subjects, 'URL')}; one by one they would bring {gain_words(found.singly)}."
        )
    return 0
