"""``hodcarrier sheet templates|template|drop|list|start|show|answer|fill|todo|attach|file|detach|export|import|remove``."""

from __future__ import annotations

import argparse
import base64
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import emit, err, out, table
from hodcarrier.cli.service import (
    ask,
    connect,
    find_member,
    find_site,
    noun,
    read_day,
    read_text,
    save_file,
    show,
    table_form_of,
    verb,
)
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.states import SheetAsks, SheetOutcome
from hodcarrier.wire.sheets import (
    SheetAnswerBody,
    SheetAnswers,
    SheetFileBody,
    SheetLine,
    SheetOut,
    SheetStart,
    SheetTemplateBody,
    SheetTemplateOut,
    SheetTodos,
)
from hodcarrier.wire.todo_things import FILE_BYTES_MAX

TEMPLATES = [("id", "Id"), ("name", "Template"), ("items", "Items"), ("note", "What for")]
SHEETS = [("id", "Id"), ("day", "Day"), ("name", "Sheet"), ("sentence", "How far"), ("author", "By")]
LINES = [
    ("key", "Item"),
    ("text", "What"),
    ("found", "Found"),
    ("difference", "Since then"),
    ("note", "Note"),
    ("knows", "By"),
    ("todo", "To-do"),
]
TODOS = [("id", "Id"), ("title", "To-do"), ("due", "Due")]
FILES = [("id", "Id"), ("name", "File"), ("media", "Type"), ("size", "Bytes")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "sheet", "review sheets: what a person looks at on a site, and what came of it")
    verb(verbs, "templates", "templates of sheets", run_templates)
    template = verb(verbs, "template", "save a template as a table, or make one of a table", run_template)
    template.add_argument("template", nargs="?", help="id of a template; with --table the one of the agency's that is replaced")
    template.add_argument("--save", type=Path, metavar="FILE", help="a file that ends in .csv, .xlsx or .jsonl")
    template.add_argument("--table", type=Path, metavar="FILE", help="CSV with section, item, how, asks, unit, known by, key")
    template.add_argument("--name", help="what it is called (with --table)")
    template.add_argument("--note", default="", help="what it is for (with --table)")
    dropped = verb(verbs, "drop", "remove a template of the agency; sheets stay", run_drop)
    dropped.add_argument("template", type=int)
    listed = verb(verbs, "list", "sheets of a site, the latest first", run_list)
    listed.add_argument("site")
    started = verb(verbs, "start", "begin a sheet; what is known already is filled in", run_start)
    started.add_argument("site")
    started.add_argument("template", help="id, or the beginning of its name")
    started.add_argument("--day", type=read_day, help="the day that it is of (default: today)")
    shown = verb(verbs, "show", "a sheet, against the last filling", run_show)
    answered = verb(verbs, "answer", "write down what came of an item", run_answer)
    filled = verb(verbs, "fill", "fill in what the latest audit and figures know, where nobody has looked", run_fill)
    todo = verb(verbs, "todo", "make a to-do of each item that is named", run_todo)
    attached = verb(verbs, "attach", "keep a file that shows what was found", run_attach)
    saved = verb(verbs, "file", "save a file of a sheet", run_file)
    detached = verb(verbs, "detach", "take a file away", run_detach)
    exported = verb(verbs, "export", "save a sheet as a table", run_export)
    imported = verb(verbs, "import", "fill a sheet in from a table that was exported", run_import)
    removed = verb(verbs, "remove", "remove a sheet; its to-dos stay", run_remove)
    for parser in (shown, answered, filled, todo, attached, saved, detached, exported, imported, removed):
        parser.add_argument("sheet", type=int, help="id of the sheet")
    for parser in (answered, attached):
        parser.add_argument("item", help="key of the item, as `show` lists it")
    answered.add_argument("found", help=f"{', '.join(SheetOutcome)}, or a number")
    answered.add_argument("--note", help="what was seen")
    todo.add_argument("item", nargs="+", help="keys of items")
    todo.add_argument("--assignee", help="who is to do it")
    todo.add_argument("--due", type=read_day)
    attached.add_argument("file", type=Path)
    for parser in (saved, detached):
        parser.add_argument("id", type=int, help="number of the file, as `show --format json` lists it")
    for parser in (saved, exported, imported):
        parser.add_argument("file", type=Path)
    removed.add_argument("--yes", action="store_true", help="do not ask")


def run_templates(args: argparse.Namespace) -> int:
    """Print templates."""
    with connect(args) as desk:
        return show(args, desk.list_sheet_templates(), TEMPLATES)


def run_template(args: argparse.Namespace) -> int:
    """Save a template, or make one."""
    with connect(args) as desk:
        if args.table is None:
            if args.template is None or args.save is None:
                raise InvalidInput("It is not said what to do.", "Give a template with --save FILE, or --table FILE with --name.")
            return save_file(args.save, desk.export_sheet_template(_find(desk, args.template).id, table_form_of(args.save)))
        known = _find(desk, args.template) if args.template else None
        name = args.name or (known.name if known else "")
        body = SheetTemplateBody(name=name, note=args.note or (known.note if known else ""), table=read_text(args.table))
        if known is None:
            return show(args, [desk.add_sheet_template(body)], TEMPLATES)
        if known.ships:
            raise InvalidInput(
                f"“{known.name}” ships with the service and stays as it is.", "Leave its id out and give a --name."
            )
        return show(args, [desk.replace_sheet_template(int(known.id), body, known.version)], TEMPLATES)


def _find(desk: Hodcarrier, key: str) -> SheetTemplateOut:
    found = desk.list_sheet_templates()
    exact = [each for each in found if key in (each.id, each.name)]
    near = exact or [each for each in found if each.name.casefold().startswith(key.casefold())]
    if len(near) != 1:
        names = ", ".join(f"{each.name} ({each.id})" for each in found)
        raise NotFound(f"“{key}” is no template, or the beginning of several.", f"There are: {names}.")
    return near[0]


def run_drop(args: argparse.Namespace) -> int:
    """Remove a template."""
    with connect(args) as desk:
        desk.remove_sheet_template(args.template)
    err.print(f"Template {args.template} is removed; sheets that were begun from it stay.")
    return 0


def run_list(args: argparse.Namespace) -> int:
    """Print sheets."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        empty = f"No sheets yet. Begin one: hodcarrier sheet start {site.host} TEMPLATE"
        return show(args, desk.list_sheets(site.id), SHEETS, empty)


def run_start(args: argparse.Namespace) -> int:
    """Begin one."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        return _show(args, desk.start_sheet(site.id, SheetStart(template=_find(desk, args.template).id, day=args.day)))


def run_show(args: argparse.Namespace) -> int:
    """Print one."""
    with connect(args) as desk:
        return _show(args, desk.get_sheet(args.sheet))


def _show(args: argparse.Namespace, sheet: SheetOut) -> int:
    if args.format == "json":
        return show(args, sheet, [])
    rows = [_line(line) for part in sheet.parts for line in part.lines]
    if args.format == "csv":
        emit(rows, args.format, LINES)
        return 0
    out.print(f"{sheet.name}, {sheet.site_host}, {sheet.day:%a %d %b %Y}", style="bold", markup=False)
    then = f" Compared with {sheet.before_day:%a %d %b %Y}." if sheet.before_day else ""
    out.print(f"{sheet.sentence}{then}", markup=False)
    columns = LINES if sheet.before_day else [column for column in LINES if column[0] != "difference"]
    for part in sheet.parts:
        out.print()
        out.print(part.title, style="bold", markup=False)
        table([_line(line) for line in part.lines], columns, "")
    return 0


def _line(line: SheetLine) -> dict[str, Any]:
    number = None if line.number is None else f"{line.number:,.{0 if line.number.is_integer() else 1}f} {line.unit}".rstrip()
    found = number or ("" if line.asks == SheetAsks.NUMBER else line.outcome.replace("-", " "))
    return {
        "key": line.key,
        "text": line.text,
        "found": found,
        "difference": line.difference if line.difference not in ("first", "same") else "",
        "note": line.note,
        "knows": line.source or line.author,
        "todo": line.todo.id if line.todo else None,
    }


def run_answer(args: argparse.Namespace) -> int:
    """Write an answer down."""
    answer: dict[str, Any] = {"item": args.item}
    if args.found in list(SheetOutcome):
        answer["outcome"] = args.found
    else:
        try:
            answer["number"] = float(args.found)
        except ValueError:
            raise InvalidInput(
                f"“{args.found}” is no outcome and no number.", f"Give {', '.join(SheetOutcome)}, or a number."
            ) from None
    if args.note is not None:
        answer["note"] = args.note
    with connect(args) as desk:
        return _show(args, desk.answer_sheet(args.sheet, SheetAnswers(answers=[SheetAnswerBody(**answer)])))


def run_fill(args: argparse.Namespace) -> int:
    """Fill in what is known."""
    with connect(args) as desk:
        return _show(args, desk.prefill_sheet(args.sheet))


def run_todo(args: argparse.Namespace) -> int:
    """Make to-dos."""
    with connect(args) as desk:
        who = find_member(desk, args.assignee).id if args.assignee else None
        return show(
            args, desk.add_sheet_todos(args.sheet, SheetTodos(items=_items(args.item), assignee=who, due=args.due)), TODOS
        )


def _items(keys: Sequence[str]) -> list[str]:
    return list(dict.fromkeys(keys))


def run_attach(args: argparse.Namespace) -> int:
    """Keep a file."""
    try:
        content = args.file.read_bytes()
    except OSError as error:
        raise InvalidInput(f"{args.file} cannot be read: {error.strerror}.", "Check the path.", "file") from None
    if len(content) > FILE_BYTES_MAX:
        raise InvalidInput(f"{args.file} is larger than 5 MiB.", "Choose a smaller one.", "file")
    body = SheetFileBody(item=args.item, name=args.file.name, content=base64.b64encode(content).decode())
    with connect(args) as desk:
        return show(args, [desk.add_sheet_file(args.sheet, body)], FILES)


def run_file(args: argparse.Namespace) -> int:
    """Save a file."""
    with connect(args) as desk:
        return save_file(args.file, desk.get_sheet_file(args.sheet, args.id))


def run_detach(args: argparse.Namespace) -> int:
    """Take a file away."""
    with connect(args) as desk:
        desk.remove_sheet_file(args.sheet, args.id)
    err.print(f"File {args.id} is removed.")
    return 0


def run_export(args: argparse.Namespace) -> int:
    """Save a sheet."""
    with connect(args) as desk:
        return save_file(args.file, desk.export_sheet(args.sheet, table_form_of(args.file)))


def run_import(args: argparse.Namespace) -> int:
    """Fill a sheet in."""
    with connect(args) as desk:
        return _show(args, desk.answer_sheet(args.sheet, SheetAnswers(table=read_text(args.file))))


def run_remove(args: argparse.Namespace) -> int:
    """Remove a sheet."""
    with connect(args) as desk:
        sheet = desk.get_sheet(args.sheet)
        ask(f"Remove “{sheet.name}” of {sheet.site_host} for {sheet.day}? To-dos that were made of it stay.", args.yes)
        desk.remove_sheet(args.sheet)
    err.print(f"Sheet {args.sheet} is removed.")
    return 0
