"""``hodcarrier page list|figures|columns|views|show|history|outside|look``; the rest is in :mod:`hodcarrier.cli.page_parts`."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli import page_parts
from hodcarrier.cli.inventory import add_verbs
from hodcarrier.cli.output import SIGNS, dated, emit, out
from hodcarrier.cli.outside import add_outside
from hodcarrier.cli.service import connect, find_site, limit, noun, run_of, show, verb
from hodcarrier.core.states import InventoryKind
from hodcarrier.core.web.urls import read_address, split
from hodcarrier.wire.comparisons import LookBody
from hodcarrier.wire.pages import LooksBody

STATES = {
    "queued": "not fetched yet",
    "done": "fetched",
    "disallowed": "blocked by robots.txt",
    "skipped": "left out by the plan",
}
COLUMNS = [
    ("url", "Address"),
    ("status", "Status"),
    ("title", "Title"),
    ("words", "Words"),
    ("depth", "Clicks"),
    ("inlinks", "Links in"),
    ("health", "Health"),
]


HISTORY = [
    ("at", "Run (UTC)"),
    ("status", "Status"),
    ("health", "Health"),
    ("findings", "Findings"),
    ("words", "Words"),
    ("title", "Title"),
    ("changed", "Changed"),
]


LOOKS = [
    ("url", "Address"),
    ("status", "Status"),
    ("fixed", "Fixed"),
    ("new", "New"),
    ("still", "Still there"),
    ("unverified", "Unverified"),
    ("changed", "Changed"),
    ("error", "Not looked at"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "page", "a run's inventory")
    add_verbs(verbs, InventoryKind.PAGE)
    shown = verb(verbs, "show", "everything known of one page", run_show)
    shown.add_argument("run_id", metavar="RUN")
    shown.add_argument("address")
    history = verb(verbs, "history", "one page as each run of its site saw it, the latest first", run_history)
    history.add_argument("address", help="of a page of a site that is set up")
    history.add_argument("--site", help="which site, if it is not told by the host")
    history.add_argument("--limit", type=limit, default=30, help="runs at most (default: 30)")
    add_outside(verbs)
    page_parts.add_verbs(verbs)
    looked = verb(verbs, "look", "fetch and examine pages now, against the last run", run_look)
    looked.add_argument("addresses", nargs="+", metavar="ADDRESS", help="of pages of a site that is set up")
    looked.add_argument("--site", help="which site, if it is not told by the host")


def run_show(args: argparse.Namespace) -> int:
    """Print one page."""
    with connect(args) as desk:
        page = desk.get_page(run_of(desk, args.run_id), args.address)
    if args.format != "table":
        return show(args, page, COLUMNS)
    path = " → ".join(f"{hop.url} ({hop.status or hop.failure})" for hop in page.path)
    facts = {
        "Address": page.url,
        "Path": path,
        "State": f"{STATES[page.state]}; {'indexable' if page.why_not == '' else f'not indexable: {page.why_not}' if page.why_not else 'indexability not judged'}",
        "Server": f"{page.remote}, HTTP/{page.http_version}" if page.remote else "",
        "Certificate": f"{page.tls['version']}, valid until {dated(page.tls['not_after'])}" if page.tls else "",
        "Title": page.title,
        "Description": page.description,
        "Main heading": page.h1,
        "Canonical": page.canonical,
        "Words": str(page.words),
        "Clicks from start": str(page.depth),
        "Links in": str(page.inlinks),
        "Health": "not scored" if page.health is None else f"{page.health:.1f} of 100",
    }
    emit([{"name": k, "value": v} for k, v in facts.items() if v], "table", [("name", ""), ("value", "")])
    findings = [{**f.model_dump(), "line": str(f.source.line) if f.source and f.source.line else ""} for f in page.findings]
    columns = [("severity", "Severity"), ("summary", "Check"), ("message", "Finding"), ("line", "Line")]
    emit(findings, "table", columns, "No check fails here.")
    return 0


def run_history(args: argparse.Namespace) -> int:
    """Print a page over the runs."""
    with connect(args) as desk:
        address = read_address(args.address)
        found = desk.get_page_history(find_site(desk, args.site or split(address).host).id, address, args.limit)
    if args.format == "json":
        return show(args, found, [])
    rows = [
        {
            **s.model_dump(mode="json"),
            "status": s.status or s.failure or (STATES.get(s.why_not or "") or s.why_not if s.known else "not known"),
        }
        for s in found.runs
    ]
    if args.format == "table":
        out.print(found.url, style="bold", markup=False)
    emit(rows, args.format, HISTORY)
    return 0


def run_look(args: argparse.Namespace) -> int:
    """Look at one page, or at several."""
    with connect(args) as desk:
        site = find_site(desk, args.site or split(read_address(args.addresses[0])).host).id
        if len(args.addresses) > 1:
            return show(args, desk.look_at_pages(site, LooksBody(urls=args.addresses)), LOOKS)
        found = desk.look_at_page(site, LookBody(url=args.addresses[0]))
    if args.format == "json":
        return show(args, found, [])
    if args.format == "csv":
        return show(args, found.findings, [("change", ""), ("check", ""), ("message", "")])
    page = found.page
    state = "indexable" if page.why_not == "" else page.why_not or page.state
    out.print(f"{page.url} · {page.status or page.failure} · {state} · {page.words or 0} words", markup=False)
    when = f"{found.run_at:%a %d %b %Y %H:%M} UTC" if found.run_at else ""
    out.print(f"Looked at now, against run {found.run_id} of {when}." if found.run_id else "This site has no run yet.")
    emit(
        [c.model_dump() for c in found.changes],
        "table",
        [("field", "What changed"), ("base", "In the last run"), ("head", "Now")],
        "Its facts are as in the last run.",
    )
    rows = [{"sign": SIGNS.get(f.change, "·"), **f.model_dump()} for f in found.findings]
    columns = [("sign", ""), ("change", "Class"), ("severity", "Severity"), ("summary", "Check"), ("message", "Finding")]
    emit(rows, "table", columns, "No check fails here, then or now.")
    return 0
