"""``hodcarrier profile list|show|add|edit|remove|use``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import count, emit, err, out
from hodcarrier.cli.service import ask, connect, find_site, name_value, noun, show, the_one_called, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.core import catalogue
from hodcarrier.core.catalogue import AREAS
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.plan import SeverityChange
from hodcarrier.core.states import Severity
from hodcarrier.wire.plans import PlanBody
from hodcarrier.wire.profiles import ProfileBody, ProfileChange, ProfileOut

COLUMNS = [("id", "Id"), ("name", "Profile"), ("sites", "Sites"), ("says", "What it changes"), ("note", "What for")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "profile", "checks, limits and severities that several sites share")
    verb(verbs, "list", "all profiles", run_list)
    shown = verb(verbs, "show", "what a profile changes, and which sites use it", run_show)
    shown.add_argument("name", metavar="PROFILE", help="name or id")
    added = verb(verbs, "add", "add a profile", run_add)
    added.add_argument("name")
    _add_rules(added)
    edited = verb(verbs, "edit", "change a profile; future runs of its sites use it", run_edit)
    edited.add_argument("name", metavar="PROFILE", help="name or id")
    edited.add_argument("--rename", metavar="NAME")
    _add_rules(edited)
    edited.add_argument(
        "--on", action="append", default=[], metavar="CHECK", help="switch a check back on, or all of an area (repeat)"
    )
    edited.add_argument(
        "--usual", action="append", default=[], metavar="NAME", help="back to the default limit or severity (repeat)"
    )
    removed = verb(verbs, "remove", "remove a profile that no site uses", run_remove)
    removed.add_argument("name", metavar="PROFILE", help="name or id")
    removed.add_argument("--yes", action="store_true", help="do not ask")
    used = verb(verbs, "use", "assign a profile to sites, from their next runs on", run_use)
    used.add_argument("name", metavar="PROFILE", help="name or id, or none")
    used.add_argument("sites", metavar="SITE", nargs="+")


def _add_rules(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--note", help="what it is for")
    parser.add_argument(
        "--off", action="append", default=[], metavar="CHECK", help="switch a check off, or all of an area (repeat)"
    )
    parser.add_argument("--limit", action="append", default=[], metavar="NAME=FIGURE", help="another limit of a check (repeat)")
    parser.add_argument(
        "--severity",
        action="append",
        default=[],
        metavar="CHECK=SEVERITY,REASON",
        help="another severity, e.g. text-thin=low,Product pages are short here (repeat)",
    )


def _checks(names: list[str]) -> list[str]:
    """Ids of checks; an area stands for all of its checks."""
    known = catalogue.load()
    return [check for name in names for check in ([e.id for e in known.values() if e.area == name] if name in AREAS else [name])]


def _limits(items: list[str]) -> dict[str, float]:
    limits = {}
    for name, text in (name_value(item, "words_min=120") for item in items):
        try:
            limits[name] = float(text)
        except ValueError:
            raise InvalidInput(f"“{text}” is no figure.", f"Write {name}=120.", "limit") from None
    return limits


def _severities(items: list[str]) -> dict[str, SeverityChange]:
    changes = {}
    for check, text in (name_value(item, "text-thin=low,why") for item in items):
        severity, _, reason = text.partition(",")
        if severity.strip() not in tuple(Severity):
            raise InvalidInput(f"“{severity}” is no severity.", f"Choose {', '.join(Severity)}.", "severity")
        changes[check] = SeverityChange(Severity(severity.strip()), reason.strip())
    return changes


def _find(desk: Hodcarrier, key: str) -> ProfileOut:
    return the_one_called(desk.list_profiles(), key, "profile")


def _says(profile: ProfileOut) -> str:
    parts = [
        count(len(profile.checks_off), "check") + " off" if profile.checks_off else "",
        count(len(profile.thresholds), "limit") if profile.thresholds else "",
        f"{len(profile.severities)} {'severity' if len(profile.severities) == 1 else 'severities'}" if profile.severities else "",
    ]
    return ", ".join(part for part in parts if part) or "nothing yet"


def _print(args: argparse.Namespace, profile: ProfileOut) -> int:
    if args.format != "table":
        return show(args, profile, COLUMNS)
    known = catalogue.load()
    out.print(f"[bold]{profile.name}[/bold]" + (f" · {profile.note}" if profile.note else ""))
    out.print("Used by " + (", ".join(site.host for site in profile.sites) or "no site yet") + ".", markup=False)
    titles = {
        check: known[check].check.summary if known.current(check) in known else ""
        for check in (*profile.checks_off, *profile.severities)
    }
    rows = [
        *({"what": check, "says": "off", "why": titles[check]} for check in profile.checks_off),
        *({"what": name, "says": f"{figure:g}", "why": _usual_limit(name)} for name, figure in profile.thresholds.items()),
        *(
            {"what": check, "says": change.severity, "why": f"{change.reason} ({titles[check]})"}
            for check, change in profile.severities.items()
        ),
    ]
    emit(
        rows,
        "table",
        [("what", "Check or limit"), ("says", "Is"), ("why", "")],
        "Nothing is changed yet: the catalogue defaults apply.",
    )
    return 0


def _usual_limit(name: str) -> str:
    limit = next(e.check.limits[name] for e in catalogue.load().values() if name in e.check.limits)
    return f"{limit.unit}: {limit.meaning} (default {limit.default:g})"


def run_list(args: argparse.Namespace) -> int:
    """Print the profiles."""
    with connect(args) as desk:
        rows = desk.list_profiles()
    if args.format != "table":
        return show(args, rows, COLUMNS)
    plain = [
        {"id": str(p.id), "name": p.name, "sites": [s.host for s in p.sites], "says": _says(p), "note": p.note} for p in rows
    ]
    emit(plain, "table", COLUMNS, "No profiles yet. Add one: hodcarrier profile add NAME --off CHECK")
    return 0


def run_show(args: argparse.Namespace) -> int:
    """Print one."""
    with connect(args) as desk:
        return _print(args, desk.get_profile(_find(desk, args.name).id))


def run_add(args: argparse.Namespace) -> int:
    """Add one."""
    body = ProfileBody(
        name=args.name,
        note=args.note or "",
        checks_off=_checks(args.off),
        thresholds=_limits(args.limit),
        severities=_severities(args.severity),
    )
    with connect(args) as desk:
        return _print(args, desk.add_profile(body))


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    with connect(args) as desk:
        now = _find(desk, args.name)
        on, usual = set(_checks(args.on)), set(args.usual)
        nothing = usual - set(now.thresholds) - set(now.severities)
        if nothing:
            raise InvalidInput(
                f"{now.name} does not change {', '.join(sorted(nothing))}.", "See `hodcarrier profile show`.", "usual"
            )
        given: dict[str, Any] = {
            "name": args.rename,
            "note": args.note,
            "checks_off": [c for c in dict.fromkeys((*now.checks_off, *_checks(args.off))) if c not in on],
            "thresholds": {n: f for n, f in {**now.thresholds, **_limits(args.limit)}.items() if n not in usual},
            "severities": {c: s for c, s in {**now.severities, **_severities(args.severity)}.items() if c not in usual},
        }
        change = ProfileChange(**{name: value for name, value in given.items() if value is not None})
        return _print(args, desk.change_profile(now.id, change, version=now.version))


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        found = _find(desk, args.name)
        ask(f"Remove the profile {found.name}? Runs that used it are kept as they are.", args.yes)
        desk.remove_profile(found.id)
    err.print(f"Removed {found.name}.")
    return 0


def run_use(args: argparse.Namespace) -> int:
    """Let sites use one."""
    with connect(args) as desk:
        name = "" if args.name == "none" else _find(desk, args.name).name
        sites = [find_site(desk, key) for key in args.sites]  # all of them, before the first is changed
        for site in sites:
            desk.change_plan(site.id, PlanBody(values={"profile": name}))
    hosts = ", ".join(site.host for site in sites)
    err.print(f"{hosts}: {name or 'no profile'} applies from the next run.", markup=False)
    return 0
