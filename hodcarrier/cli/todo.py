"""``hodcarrier todo list|show|add|edit``."""

from __future__ import annotations

import argparse
from typing import Any, Literal

from hodcarrier.cli.output import count, emit, out
from hodcarrier.cli.service import connect, find_member, find_site, noun, place_number, read_day, show, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import TodoState
from hodcarrier.wire.todos import ComparedPick, TodoBody, TodoChange

COLUMNS = [
    ("id", "Id"),
    ("title", "To-do"),
    ("site_host", "Site"),
    ("state", "State"),
    ("assignee", "Who"),
    ("due", "Due"),
    ("late", "Late"),
    ("done", "Cleared"),
    ("flag", ""),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "todo", "work handed out and confirmed by runs")
    listed = verb(verbs, "list", "to-dos by due date", run_list)
    listed.add_argument("--site")
    listed.add_argument("--who", help="assignee")
    listed.add_argument(
        "--state", default="live", choices=("live", "all", *TodoState), help="live (default): open, doing or done"
    )
    listed.add_argument("--overdue", action="store_true")
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
    added.add_argument("--who", help="assignee")
    added.add_argument("--due", help="YYYY-MM-DD; left out: by severity")
    added.add_argument("--note", default="")
    edited = verb(verbs, "edit", "change a to-do or comment on it", run_edit)
    edited.add_argument("id", type=int)
    edited.add_argument("--state", choices=[s for s in TodoState if s != TodoState.CONFIRMED])
    edited.add_argument("--who")
    edited.add_argument("--due")
    edited.add_argument("--title")
    edited.add_argument("--comment")
    edited.add_argument("--reason", help="why it is dropped")


def _state(word: str) -> TodoState | Literal["live", ""]:
    if word == "live":
        return "live"
    return "" if word == "all" else TodoState(word)


def run_list(args: argparse.Namespace) -> int:
    """Print to-dos."""
    with connect(args) as desk:
        site = find_site(desk, args.site).id if args.site else None
        who = find_member(desk, args.who).id if args.who else None
        rows = list(desk.list_todos(site=site, assignee=who, state=_state(args.state), overdue=args.overdue))
    if args.format != "table":
        return show(args, rows, COLUMNS)
    plain = [
        {
            **t.model_dump(mode="json"),
            "late": count(t.days_late, "day") if t.overdue else "",
            "done": f"{t.cleared:,} of {t.places:,}" if t.places else "",
        }
        for t in rows
    ]
    emit(plain, "table", COLUMNS, "No to-dos of that kind.")
    return 0


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
        body = TodoBody(
            site_id=find_site(desk, args.site).id,
            title=args.title,
            check=args.check,
            cause=args.cause,
            fingerprints=args.finding,
            compared=ComparedPick(base=args.since, event=args.event - 1) if args.event else None,
            assignee=find_member(desk, args.who).id if args.who else None,
            due=read_day(args.due) if args.due else None,
            note=args.note,
        )
        return show(args, desk.add_todo(body), COLUMNS)


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    with connect(args) as desk:
        values: dict[str, Any] = {"title": args.title, "state": args.state, "comment": args.comment, "drop_reason": args.reason}
        if args.who:
            values["assignee"] = find_member(desk, args.who).id
        if args.due:
            values["due"] = read_day(args.due)
        change = TodoChange(**{k: v for k, v in values.items() if v is not None})
        return show(args, desk.change_todo(args.id, change), COLUMNS)
