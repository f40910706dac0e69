"""``hodcarrier waiver list|add|edit|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, err, out
from hodcarrier.cli.service import connect, find_site, noun, read_day, show, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.words import fill
from hodcarrier.wire.waivers import WaiverBody, WaiverChange, WaiverIds, WaiverOut, WaiverPreviewBody, WaiversBody, WaiverScope

COLUMNS = [
    ("id", "Id"),
    ("check", "Check"),
    ("where", "Where"),
    ("covers", "Covers"),
    ("reason", "Reason"),
    ("author", "By"),
    ("start", "Since"),
    ("until", "Until"),
    ("state", "State"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "waiver", "findings judged not to matter")
    listed = verb(verbs, "list", "waivers of a site", run_list)
    listed.add_argument("site")
    added = verb(
        verbs, "add", "waive a check on a site, a pattern, pages or findings; the latest run counts it so at once", run_add
    )
    added.add_argument("site")
    added.add_argument("check")
    added.add_argument("--reason", help="needed unless --preview")
    added.add_argument(
        "--pattern",
        action="append",
        default=[],
        help="a page's URL, or a glob such as https://shop.example/old/* (repeat for more)",
    )
    added.add_argument("--finding", action="append", default=[], metavar="FINGERPRINT", help="one finding (repeat for more)")
    added.add_argument("--end", help="last day, YYYY-MM-DD")
    added.add_argument("--preview", action="store_true", help="only say what it would cover, and what it would do to health")
    edited = verb(verbs, "edit", "give a waiver another reason or end", run_edit)
    edited.add_argument("id", type=int)
    edited.add_argument("--reason")
    edited.add_argument("--end", help="last day, YYYY-MM-DD, or never")
    removed = verb(verbs, "remove", "end waivers: what they cover counts again", run_remove)
    removed.add_argument("id", type=int, nargs="+")


def _show(args: argparse.Namespace, rows: list[WaiverOut], empty: str = "") -> int:
    if args.format != "table":
        return show(args, rows, [(name, head) for name, head in COLUMNS if name not in ("where", "until", "state")], empty)
    plain = [
        {
            **row.model_dump(mode="json"),
            "where": row.pattern or (f"finding {row.fingerprint[:8]}" if row.fingerprint else "the whole site"),
            "covers": "" if row.covers is None else "nothing" if not row.covers else f"{row.covers:,}",
            "until": row.end.isoformat() if row.end else "",
            "state": "ended" if not row.in_force else "ends soon" if row.ends_soon else "in force",
        }
        for row in rows
    ]
    emit(plain, "table", COLUMNS, empty)
    return 0


def run_list(args: argparse.Namespace) -> int:
    """Print waivers."""
    with connect(args) as desk:
        return _show(args, desk.list_waivers(find_site(desk, args.site).id), "Nothing is waived on this site.")


def run_add(args: argparse.Namespace) -> int:
    """Add some, or say what they would do."""
    scopes = [{"pattern": pattern} for pattern in args.pattern] + [{"fingerprint": fingerprint} for fingerprint in args.finding]
    bodies = [{"check": args.check, **scope} for scope in scopes or [{}]]
    with connect(args) as desk:
        site = find_site(desk, args.site).id
        effect = desk.preview_waivers(site, WaiverPreviewBody(waivers=[WaiverScope.model_validate(body) for body in bodies]))
        if args.preview:
            if args.format == "json":
                emit(effect.model_dump(mode="json"), "json", [])
            else:
                out.print(effect.sentence, markup=False)
                for todo in effect.todos:
                    out.print(f"To-do {todo.id} holds some of it: {todo.title}", markup=False)
            return 0
        if not args.reason:
            raise InvalidInput("A waiver needs a reason.", "Give it with --reason, or ask what it would do with --preview.")
        more = {"reason": args.reason, "end": read_day(args.end) if args.end else None}
        made = desk.add_waivers(site, WaiversBody(waivers=[WaiverBody.model_validate({**body, **more}) for body in bodies]))
        err.print(made[0].note or effect.sentence, markup=False)
        return _show(args, made)


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    change: dict[str, Any] = {}
    if args.reason:
        change["reason"] = args.reason
    if args.end:
        change["end"] = None if args.end == "never" else read_day(args.end)
    if not change:
        raise InvalidInput("Nothing is to be changed.", "Give --reason or --end.")
    with connect(args) as desk:
        return _show(args, [desk.change_waiver(args.id, WaiverChange(**change))])


def run_remove(args: argparse.Namespace) -> int:
    """End some."""
    with connect(args) as desk:
        desk.remove_waivers(WaiverIds(ids=args.id))
    err.print(fill("{n:waiver} ended; what they covered counts again.", {"n": len(args.id)}))
    return 0
