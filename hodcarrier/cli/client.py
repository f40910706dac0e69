"""``hodcarrier client list|show|look|add|edit|archive|restore|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import count, emit, err, out
from hodcarrier.cli.plan import read_settings
from hodcarrier.cli.preset import add_schedule, find_preset, read_schedule
from hodcarrier.cli.service import ask, connect, find_client, find_member, name_value, noun, read_day, show, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import SiteKind
from hodcarrier.wire.clients import ClientBody, ClientChange
from hodcarrier.wire.new_clients import FirstLookBody, NewClientBody, NewGuest
from hodcarrier.wire.schedules import ScheduleBody

SITES = [("host", "Site"), ("kind", "Kind"), ("health", "Health"), ("runs", "Runs"), ("open_todos", "To-dos"), ("tags", "Tags")]
REMARKS = [("day", "Day"), ("host", "Site"), ("text", "Remark")]
CHANGED = [
    ("id", "Id"),
    ("name", "Client"),
    ("owner", "In charge"),
    ("tags", "Tags"),
    ("holidays", "Holidays"),
    ("blackout_days", "Blackout days"),
    ("targets", "Targets"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "client", "the agency's clients")
    listed = verb(verbs, "list", "all clients", run_list)
    listed.add_argument("--archived", action="store_true", help="those that are archived")
    listed.add_argument("--tag", default="", help="those that have this tag, themselves or on a site")
    shown = verb(verbs, "show", "all that is kept for a client", run_show)
    shown.add_argument("name", help="name or id")
    looked = verb(verbs, "look", "look at a site before it is set up: what is there, and which settings suit it", run_look)
    looked.add_argument("address", help="such as https://shop.example/")
    looked.add_argument(
        "--set", dest="settings", action="append", default=[], metavar="NAME=VALUE", help="a setting of the plan (repeat)"
    )
    added = verb(verbs, "add", "add a client; with --site all that it begins with", run_add)
    added.add_argument("name")
    added.add_argument("--site", metavar="URL", help="its own site, which is looked at for settings that suit it")
    added.add_argument("--competitor", action="append", default=[], metavar="URL", help="a competitor, for a benchmark (repeat)")
    added.add_argument("--preset", help="settings, schedule and first to-dos of a preset")
    added.add_argument(
        "--set", dest="settings", action="append", default=[], metavar="NAME=VALUE", help="a setting of the plan (repeat)"
    )
    add_schedule(added)
    added.add_argument("--owner", help="the member in charge")
    added.add_argument("--tag", action="append", default=[], help="a tag (repeat)")
    added.add_argument(
        "--guest", action="append", default=[], metavar="NAME=EMAIL", help="invite somebody of the client (repeat)"
    )
    added.add_argument("--no-run", action="store_true", help="do not start the first audit")
    edited = verb(
        verbs, "edit", "rename a client, or set its holidays, targets, tags, note, colour and who is in charge", run_edit
    )
    edited.add_argument("name", help="name or id")
    edited.add_argument("--rename", metavar="NAME")
    edited.add_argument(
        "--holiday", action="append", metavar="DAY", help="a day that is no working day (repeat; replaces the list)"
    )
    edited.add_argument(
        "--target",
        action="append",
        metavar="SEVERITY=DAYS",
        help="working days until to-dos of a severity are due (repeat; replaces the targets; a severity left out has the agency's own)",
    )
    edited.add_argument(
        "--blackout",
        action="append",
        metavar="DAY",
        help="a day on which no audit starts automatically (repeat; replaces the list)",
    )
    edited.add_argument("--tag", action="append", help="a tag (repeat; replaces the tags)")
    edited.add_argument(
        "--brand", action="append", metavar="NAME", help="a name by which people look for it (repeat; replaces the names)"
    )
    edited.add_argument("--note", help="what is agreed with the client, in Markdown; not shown to guests")
    edited.add_argument("--colour", metavar="#RRGGBB", help="the colour of its brand, for reports; empty for the agency's own")
    edited.add_argument("--owner", help="the member in charge; “none” for nobody")
    edited.add_argument("--approves", choices=("yes", "no"), help="whether its to-dos wait until the client has agreed")
    edited.add_argument(
        "--member",
        action="append",
        metavar="WHO",
        help="limit it to these members, beside owners and leads (repeat; “everybody” opens it to all)",
    )
    archived = verb(verbs, "archive", "let a client rest: nothing is audited, and it is on no list", run_archive)
    archived.add_argument("name", help="name or id")
    restored = verb(verbs, "restore", "bring an archived client back", run_restore)
    restored.add_argument("name", help="name or id")
    removed = verb(verbs, "remove", "remove a client and everything kept for it", run_remove)
    removed.add_argument("name")
    removed.add_argument("--yes", action="store_true", help="do not ask")


def run_list(args: argparse.Namespace) -> int:
    """Print the clients."""
    with connect(args) as desk:
        rows = desk.list_clients(args.archived, args.tag)
    if args.format == "table":
        plain = [
            {"id": str(c.id), "name": c.name, "owner": c.owner, "tags": c.tags, "sites": [s.host for s in c.sites]} for c in rows
        ]
        columns = [("id", "Id"), ("name", "Client"), ("owner", "In charge"), ("tags", "Tags"), ("sites", "Sites")]
        empty = "No client is archived." if args.archived else "No clients yet. Add one: hodcarrier client add NAME --site URL"
        emit(plain, "table", columns, empty)
        return 0
    return show(args, rows, [("id", "Id"), ("name", "Client")])


def run_add(args: argparse.Namespace) -> int:
    """Add one, with all that it begins with where a site is named."""
    with connect(args) as desk:
        if args.site is None:
            if args.competitor or args.guest or args.preset or args.schedule:
                raise InvalidInput("A client is set up around its site.", "Name it with --site URL.", "site")
            return show(args, desk.add_client(ClientBody(name=args.name)), [("id", "Id"), ("name", "Client")])
        settings = read_settings(args.settings)
        look = desk.first_look(FirstLookBody(address=args.site, plan=settings))
        for each in look.proposals:
            err.print(f"{each.label}: {each.shown}. {each.reason}", markup=False)
        proposed = {each.name: each.value for each in look.proposals if each.name != "start"}
        given = read_schedule(args)
        schedule = None if args.preset and given is None else given or look.schedule
        made = desk.set_up_client(
            NewClientBody(
                name=args.name,
                address=look.address,
                plan={**({} if args.preset else proposed), **settings},
                preset_id=find_preset(desk, args.preset).id if args.preset else None,
                schedule=None if schedule is None else ScheduleBody(rule=schedule.rule, at=schedule.at, zone=schedule.zone),
                competitors=args.competitor,
                owner_id=find_member(desk, args.owner).id if args.owner else None,
                tags=args.tag,
                guests=[NewGuest(name=name, email=email) for name, email in map(_guest, args.guest)],
                start_run=not args.no_run,
            )
        )
    if args.format != "table":
        return show(args, made, [])
    site = made.site
    rows = [
        ("Client", f"{made.client.name} (id {made.client.id})"),
        ("Site", f"{site.host}, about {look.pages:,} pages; an audit takes about {_span(look.minutes)}"),
        ("Schedule", site.schedule.words if site.schedule else "none"),
        ("Competitors", ", ".join(s.host for s in made.client.sites if s.kind == SiteKind.COMPETITOR) or "none"),
        ("To-dos", str(made.todos)),
        ("Invited", ", ".join(args.guest) or "nobody"),
        ("First audit", made.run_id or "not started"),
    ]
    emit([{"name": name, "value": value} for name, value in rows], "table", [("name", ""), ("value", "")])
    return 0


def _guest(item: str) -> tuple[str, str]:
    return name_value(item, "Rosa Penhallow=rosa@shop.example")


def _span(minutes: float) -> str:
    if minutes < 90:
        return count(max(1, round(minutes)), "minute")
    return count(round(minutes / 60), "hour")


def run_look(args: argparse.Namespace) -> int:
    """Print a first look."""
    with connect(args) as desk:
        look = desk.first_look(FirstLookBody(address=args.address, plan=read_settings(args.settings)))
    if args.format != "table":
        return show(args, look, [])
    emit([each.model_dump() for each in look.facts], "table", [("name", "Seen"), ("value", "")])
    emit(
        [each.model_dump() for each in look.proposals],
        "table",
        [("label", "Setting"), ("shown", "Proposed"), ("reason", "Why")],
        "The default settings suit it.",
    )
    out.print(f"An audit takes about {_span(look.minutes)}. Proposed: {look.schedule.rule} at {look.schedule.at}.", markup=False)
    for notice in look.notices:
        err.print(notice, markup=False)
    return 0


def run_show(args: argparse.Namespace) -> int:
    """Print a client's page."""
    with connect(args) as desk:
        page = desk.get_client(find_client(desk, args.name, archived=True).id)
    if args.format != "table":
        return show(args, page, [])
    client = page.client
    facts = [
        ("Client", client.name + (f", archived since {client.archived_at:%d %b %Y}" if client.archived_at else "")),
        ("In charge", client.owner or "nobody"),
        ("Tags", ", ".join(client.tags) or "none"),
        ("Brand names", ", ".join(client.brand_names) or "its name and host"),
        ("Open to-dos", f"{page.open_todos:,}" + (f", {page.overdue_todos:,} overdue" if page.overdue_todos else "")),
        ("Targets", ", ".join(f"{severity} {days}" for severity, days in client.targets.items()) + " working days"),
        ("Next holiday", f"{page.next_holiday:%a %d %b %Y}" if page.next_holiday else "none known"),
        ("Blackout days", ", ".join(f"{day:%d %b %Y}" for day in client.blackout_days) or "none"),
        ("Guests", ", ".join(f"{guest.name} <{guest.email}>" for guest in page.guests) or "none"),
        ("Benchmarks", ", ".join(each.name for each in page.benchmarks) or "none"),
        ("Reports", ", ".join(each.title for each in page.reports[:5]) or "none"),
        ("Note", client.note or "none"),
    ]
    emit([{"name": name, "value": value} for name, value in facts], "table", [("name", ""), ("value", "")])
    emit([site.model_dump(mode="json") for site in page.sites], "table", SITES, "No site yet.")
    if page.remarks:
        emit([each.model_dump(mode="json") for each in page.remarks[:10]], "table", REMARKS)
    return 0


def run_archive(args: argparse.Namespace) -> int:
    """Archive one."""
    with connect(args) as desk:
        changed = desk.change_client(find_client(desk, args.name).id, ClientChange(archived=True))
    err.print(f"{changed.name} is archived. Bring it back with: hodcarrier client restore {changed.id}")
    return 0


def run_restore(args: argparse.Namespace) -> int:
    """Bring one back."""
    with connect(args) as desk:
        changed = desk.change_client(find_client(desk, args.name, archived=True).id, ClientChange(archived=False))
    err.print(f"{changed.name} is back; its schedules go on from now.")
    return 0


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    days = None if args.holiday is None else [read_day(day) for day in args.holiday]
    targets = None if args.target is None else dict(name_value(item, "critical=2") for item in args.target)
    given: dict[str, Any] = {
        "name": args.rename,
        "holidays": days,
        "targets": targets,
        "blackout_days": None if args.blackout is None else [read_day(day) for day in args.blackout],
        "tags": args.tag,
        "brand_names": args.brand,
        "note": args.note,
        "colour": args.colour,
    }
    with connect(args) as desk:
        wanted: dict[str, Any] = {name: value for name, value in given.items() if value is not None}
        if args.owner is not None:
            wanted["owner_id"] = None if args.owner == "none" else find_member(desk, args.owner).id
        if args.approves is not None:
            wanted["approves"] = args.approves == "yes"
        if args.member is not None:
            wanted["member_ids"] = [find_member(desk, who).id for who in args.member if who != "everybody"]
        changed = desk.change_client(find_client(desk, args.name).id, ClientChange(**wanted))
        return show(args, changed, CHANGED)


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        found = find_client(desk, args.name, archived=True)
        ask(
            f"Remove {found.name} with its {count(len(found.sites), 'site')} and everything kept for them? This cannot be undone.",
            args.yes,
        )
        desk.remove_client(found.id)
    err.print(f"Removed {found.name}.")
    return 0
