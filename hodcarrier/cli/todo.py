"""``hodcarrier todo list|show|add|edit|check|share|links|unshare|sheet|load|labels``."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, Literal

from hodcarrier.cli.output import count, emit, err, out
from hodcarrier.cli.service import (
    connect,
    find_client,
    find_member,
    find_site,
    noun,
    place_number,
    read_day,
    save_file,
    show,
    verb,
)
from hodcarrier.cli.todo_things import add_verbs
from hodcarrier.cli.view import use_view
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import DueSpan, Priority, Severity, TodoOrder, TodoPer, TodoState, ViewPlace
from hodcarrier.core.words import signed
from hodcarrier.wire.todos import (
    ComparedPick,
    LoadPart,
    TodoBody,
    TodoChange,
    TodoEdit,
    TodoLinkBody,
    TodoOut,
    TodosBody,
    TodosChange,
)

COLUMNS = [
    ("id", "Id"),
    ("title", "To-do"),
    ("site_host", "Site"),
    ("state", "State"),
    ("priority", "Priority"),
    ("assignee", "Who"),
    ("due", "Due"),
    ("late", "Late"),
    ("gain", "Gain"),
    ("done", "Cleared"),
    ("flag", ""),
]
DRAFT_COLUMNS = [
    ("title", "To-do"),
    ("severity", "Severity"),
    ("places", "Places"),
    ("assignee", "Who"),
    ("due", "Due"),
    ("left_out", "In others"),
]
HOURS_MAX = 1000
# What a view of the console's To-dos can ask for, by how it is read.
VIEWED: dict[str, Callable[[str], Any]] = {
    "who": str,
    "client": str,
    "state": str,
    "due": DueSpan,
    "label": str,
    "severity": Severity,
    "priority": Priority,
    "text": str,
    "sort": str,
}
SPANS = [
    ("overdue", "Overdue"),
    ("this_week", "This week"),
    ("next_week", "Next week"),
    ("later", "Later"),
    ("undated", "No date"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "todo", "work handed out and confirmed by runs")
    listed = verb(verbs, "list", "to-dos by due date", run_list)
    listed.add_argument("--site")
    listed.add_argument("--who", help="assignee")
    listed.add_argument("--state", choices=("live", "all", *TodoState), help="live (default): open, doing or done")
    listed.add_argument("--due", type=DueSpan, choices=tuple(DueSpan), help="when it is due")
    listed.add_argument("--client")
    listed.add_argument("--label", default="", help="only those with this label")
    listed.add_argument("--severity", type=Severity, choices=tuple(Severity))
    listed.add_argument("--priority", type=Priority, choices=tuple(Priority))
    listed.add_argument("--text", default="", help="only those with all these words in title or note")
    listed.add_argument("--due-from", help="YYYY-MM-DD")
    listed.add_argument("--due-to", help="YYYY-MM-DD")
    listed.add_argument(
        "--view", metavar="NAME", help="the filters of a saved view of the console; further options replace its own"
    )
    listed.add_argument("--sort", help=f"{', '.join(TodoOrder)}; - in front for descending")
    shown = verb(verbs, "show", "one to-do with its places and story", run_show)
    shown.add_argument("id", type=int)
    added = verb(verbs, "add", "make a to-do from a check, a cause, findings, or by hand", run_add)
    added.add_argument("site")
    added.add_argument("--check", default="", help="all findings of this check in the latest run")
    added.add_argument("--cause", type=int, help="id of one cause in the latest run")
    added.add_argument("--finding", action="append", default=[], metavar="FINGERPRINT", help="one finding (repeat for more)")
    added.add_argument("--since", metavar="RUN", help="an earlier run: with --event, what happened since")
    added.add_argument("--event", type=place_number, metavar="N", help="the findings of this event, by its number in `compare`")
    added.add_argument("--title", default="")
    added.add_argument("--per", type=TodoPer, choices=tuple(TodoPer), help="several: one for each check, cause, page or template")
    added.add_argument("--preview", action="store_true", help="with --per: only list what would be made")
    added.add_argument(
        "--who", action="append", default=[], help="assignee (with --per repeat for more: the work is spread over them)"
    )
    added.add_argument("--due", help="YYYY-MM-DD; left out: by severity")
    added.add_argument("--priority", type=Priority, choices=tuple(Priority), default=Priority.NORMAL)
    added.add_argument("--hours", type=hours, help="estimate in hours")
    added.add_argument("--label", action="append", default=[], help="a label (repeat for more)")
    added.add_argument("--watch", action="append", default=[], metavar="WHO", help="who watches it (repeat for more)")
    added.add_argument("--note", default="")
    edited = verb(verbs, "edit", "change to-dos, all of them or none, or comment on them", run_edit)
    edited.add_argument("id", type=int, nargs="+")
    edited.add_argument("--state", choices=[s for s in TodoState if s != TodoState.CONFIRMED])
    edited.add_argument("--who", help="assignee, or nobody")
    edited.add_argument("--due", help="YYYY-MM-DD, or never")
    edited.add_argument("--priority", type=Priority, choices=tuple(Priority))
    edited.add_argument("--hours", type=hours, help="estimate in hours")
    edited.add_argument("--label", action="append", help="its labels from now on (repeat for more)")
    edited.add_argument("--watch", action="append", metavar="WHO", help="who watches it from now on (repeat for more)")
    edited.add_argument("--title")
    edited.add_argument("--note")
    edited.add_argument("--comment")
    edited.add_argument("--reason", help="why it is dropped")
    checked = verb(verbs, "check", "fetch and examine the places of a to-do now", run_check)
    checked.add_argument("id", type=int)
    shared = verb(verbs, "share", "share a to-do by a link with somebody who has no account", run_share)
    shared.add_argument("id", type=int)
    shared.add_argument("name", help="who gets the link; what is said by it is signed so")
    shared.add_argument("--approval", action="store_true", help="ask for agreement")
    shared.add_argument("--days", type=int, default=90, help="days until it ends (default: 90)")
    links = verb(verbs, "links", "whom a to-do was shared with", run_links)
    links.add_argument("id", type=int)
    unshared = verb(verbs, "unshare", "end a share link: its address answers no more", run_unshare)
    unshared.add_argument("id", type=int)
    unshared.add_argument("link", type=int, help="number of the link, as `todo links` shows it")
    sheet = verb(verbs, "sheet", "a to-do on one page, to read and to print", run_sheet)
    sheet.add_argument("id", type=int)
    sheet.add_argument("file", type=Path, help="file to write, such as todo-14.html")
    load = verb(verbs, "load", "who has what to do by when", run_load)
    load.add_argument("--client")
    verb(verbs, "labels", "the labels that to-dos have", run_labels)
    add_verbs(verbs)


def hours(text: str) -> float:
    """An estimate."""
    try:
        found = float(text)
    except ValueError:
        found = 0.0
    if not 0 < found <= HOURS_MAX:
        raise argparse.ArgumentTypeError(f"“{text}” is no estimate: give hours from 0.25 to {HOURS_MAX:,}, such as 1.5.")
    return found


def _state(word: str) -> TodoState | Literal["live", ""]:
    if word == "live":
        return "live"
    return "" if word == "all" else TodoState(word)


def run_list(args: argparse.Namespace) -> int:
    """Print to-dos."""
    with connect(args) as desk:
        if args.view:
            use_view(desk, args, ViewPlace.TODOS, VIEWED)
        site = find_site(desk, args.site).id if args.site else None
        who = find_member(desk, args.who).id if args.who else None
        client = find_client(desk, args.client).id if args.client else None
        rows = list(
            desk.list_todos(
                site=site,
                client=client,
                assignee=who,
                state=_state(args.state or "live"),
                due=args.due,
                label=args.label,
                severity=args.severity,
                priority=args.priority,
                text=args.text,
                due_from=read_day(args.due_from) if args.due_from else None,
                due_to=read_day(args.due_to) if args.due_to else None,
                sort=args.sort or TodoOrder.DUE,
            )
        )
    if args.format != "table":
        return show(args, rows, COLUMNS)
    _print(rows, "No to-dos of that kind.")
    return 0


def _print(rows: Sequence[TodoOut], empty: str = "") -> None:
    plain = [
        {
            **t.model_dump(mode="json"),
            "late": count(t.days_late, "day") if t.overdue else "",
            "done": f"{t.cleared:,} of {t.places:,}" if t.places else "",
            "gain": signed(t.gain) if t.gain else "",
            "priority": t.priority if t.priority != Priority.NORMAL else "",
        }
        for t in rows
    ]
    emit(plain, "table", COLUMNS, empty)


def run_show(args: argparse.Namespace) -> int:
    """Print one to-do."""
    with connect(args) as desk:
        todo = desk.get_todo(args.id)
    if args.format != "table":
        return show(args, todo, COLUMNS)
    late = f", {todo.days_late} days late" if todo.overdue else ""
    out.print(todo.title, style="bold", markup=False)
    out.print(
        f"{todo.site_host} · {todo.state} · {todo.assignee or 'nobody yet'} · due {todo.due or 'never'}{late} · {todo.cleared} of {todo.places} cleared",
        markup=False,
    )
    more = [
        f"priority {todo.priority}",
        *([f"estimate {todo.estimate_hours:g} h"] if todo.estimate_hours is not None else []),
        *([f"worth {signed(todo.gain)} points"] if todo.gain else []),
        *([f"labels {', '.join(todo.labels)}"] if todo.labels else []),
        *([f"watched by {', '.join(watcher.name for watcher in todo.watchers)}"] if todo.watchers else []),
    ]
    out.print(" · ".join(more), markup=False)
    if todo.flag:
        out.print(todo.flag, style="rgb(190,95,60)")
    if todo.note:
        out.print(todo.note, markup=False)
    emit([e.model_dump(mode="json") for e in todo.events], "table", [("at", "When (UTC)"), ("who", "Who"), ("text", "What")])
    emit(
        [p.model_dump(mode="json") for p in todo.linked[:30]],
        "table",
        [("outcome", "Last run"), ("subject", "Page"), ("place", "Place")],
        "No places are linked.",
    )
    return 0


def run_add(args: argparse.Namespace) -> int:
    """Make one."""
    if bool(args.since) != bool(args.event):
        raise InvalidInput(
            "--since and --event belong together.", "Give the earlier run and the number of an event of `compare`."
        )
    with connect(args) as desk:
        people = [find_member(desk, name).id for name in args.who]
        values: dict[str, Any] = {
            "site_id": find_site(desk, args.site).id,
            "check": args.check,
            "cause": args.cause,
            "fingerprints": args.finding,
            "compared": ComparedPick(base=args.since, event=args.event - 1) if args.event else None,
            "due": read_day(args.due) if args.due else None,
            "priority": args.priority,
            "estimate_hours": args.hours,
            "labels": args.label,
            "watchers": [find_member(desk, name).id for name in args.watch],
            "note": args.note,
        }
        if args.per:
            body = TodosBody(per=args.per, assignees=people, **values)
            if args.preview:
                return show(args, desk.plan_todos(body), DRAFT_COLUMNS)
            made = desk.add_todos(body)
            if args.format != "table":
                return show(args, made, COLUMNS)
            _print(made)
            return 0
        if len(people) > 1 or args.preview:
            raise InvalidInput("Several people, and --preview, are for several to-dos.", "Say what each is made for with --per.")
        one = TodoBody(title=args.title, assignee=people[0] if people else None, **values)
        return show(args, desk.add_todo(one), COLUMNS)


def run_edit(args: argparse.Namespace) -> int:
    """Change some."""
    with connect(args) as desk:
        values: dict[str, Any] = {
            "title": args.title,
            "note": args.note,
            "state": args.state,
            "priority": args.priority,
            "estimate_hours": args.hours,
            "labels": args.label,
            "comment": args.comment,
            "drop_reason": args.reason,
        }
        values = {name: value for name, value in values.items() if value is not None}
        if args.watch is not None:
            values["watchers"] = [find_member(desk, name).id for name in args.watch]
        if args.who:
            values["assignee"] = None if args.who == "nobody" else find_member(desk, args.who).id
        if args.due:
            values["due"] = None if args.due == "never" else read_day(args.due)
        if len(args.id) == 1:
            return show(args, desk.change_todo(args.id[0], TodoChange(**values)), COLUMNS)
        found = desk.change_todos(TodosChange(changes=[TodoEdit(id=number, **values) for number in args.id]))
        if args.format != "table":
            return show(args, found.todos, COLUMNS)
        _print(found.todos)
    return 0


def run_check(args: argparse.Namespace) -> int:
    """Check one now, and print what came of it."""
    with connect(args) as desk:
        todo = desk.check_todo(args.id)
    if args.format == "table":
        out.print(todo.events[-1].text, markup=False)
    return show(args, todo, COLUMNS) if args.format != "table" else 0


def run_share(args: argparse.Namespace) -> int:
    """Share one."""
    with connect(args) as desk:
        link = desk.add_todo_link(args.id, TodoLinkBody(name=args.name, asks_approval=args.approval, days=args.days))
    if args.format != "table":
        return show(args, link, [])
    print(link.url)
    err.print("Who has the address can read the to-do, comment on it and say that it is done. It is not shown again.")
    return 0


def run_links(args: argparse.Namespace) -> int:
    """Print whom one was shared with."""
    columns = [
        ("id", "Id"),
        ("name", "Shared with"),
        ("asks_approval", "Agreement"),
        ("active", "Active"),
        ("expires_at", "Ends (UTC)"),
        ("seen", "Opened"),
        ("seen_at", "Last (UTC)"),
    ]
    with connect(args) as desk:
        return show(args, desk.list_todo_links(args.id), columns, "It was not shared with anybody.")


def run_unshare(args: argparse.Namespace) -> int:
    """End a link."""
    with connect(args) as desk:
        desk.revoke_todo_link(args.id, args.link)
    err.print(f"Link {args.link} answers no more.")
    return 0


def run_sheet(args: argparse.Namespace) -> int:
    """Write the sheet of one."""
    with connect(args) as desk:
        page = desk.get_todo_sheet(args.id)
    return save_file(args.file, page)


def run_load(args: argparse.Namespace) -> int:
    """Print who has what."""
    with connect(args) as desk:
        found = desk.get_load(find_client(desk, args.client).id if args.client else None)
    if args.format == "json":
        emit(found.model_dump(mode="json"), "json", [])
        return 0
    rows = [
        {"name": row.name or "nobody", **{name: _part(getattr(row, name), args.format) for name, _ in SPANS}}
        for row in found.people
    ]
    emit(rows, args.format, [("name", "Who"), *SPANS], "There is nobody who can be given work.")
    if args.format == "table":
        late = f", the oldest {count(found.oldest_days, 'day')} late" if found.overdue else ""
        out.print(
            f"{found.overdue:,} overdue{late} · {found.due_this_week:,} more due by Sunday · since Monday audits confirmed"
            f" {found.confirmed_this_week:,} and opened {found.reopened_this_week:,} again"
        )
    return 0


def _part(part: LoadPart, form: str) -> str:
    if form == "csv":
        return str(part.todos)
    spent = f" ({part.hours:g} h)" if part.hours else ""
    return f"{part.todos:,}{spent}" if part.todos else "·"


def run_labels(args: argparse.Namespace) -> int:
    """Print the labels."""
    with connect(args) as desk:
        rows = [{"label": label} for label in desk.list_labels()]
    emit(rows, args.format, [("label", "Label")], "No to-do has a label yet.")
    return 0
