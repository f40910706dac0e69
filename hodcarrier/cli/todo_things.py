"""``hodcarrier todo approvals|answer|import|recurring|recur|unrecur|files|attach|save|detach``: what belongs to to-dos beside themselves."""

from __future__ import annotations

import argparse
import base64
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import count, err, out
from hodcarrier.cli.service import connect, find_client, find_member, find_site, read_text, save_file, show, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import Priority
from hodcarrier.wire.approvals import AnswerBody
from hodcarrier.wire.todo_things import FILE_BYTES_MAX, RecurringBody, TodoFileBody, TodoTable

RECURRING = [
    ("id", "Id"),
    ("title", "To-do"),
    ("site_host", "Site"),
    ("words", "Comes back"),
    ("next_on", "Next"),
    ("days", "Days to do it"),
    ("assignee_name", "Who"),
    ("last_todo", "Last"),
]
PAID = [("end", "End"), ("before", "Before"), ("after", "After"), ("change", "Change"), ("low", "From"), ("high", "To")]
FILES = [("id", "Id"), ("name", "File"), ("media", "Type"), ("size", "Bytes"), ("author", "By"), ("created_at", "When")]
APPROVALS = [
    ("todo_id", "Id"),
    ("title", "To-do"),
    ("client_name", "Client"),
    ("site_host", "Site"),
    ("due", "Due"),
    ("places", "Places"),
    ("gain", "Gain"),
]
IMPORTED = [("id", "Id"), ("title", "To-do"), ("site_host", "Site"), ("assignee", "Who"), ("due", "Due")]


def add_verbs(verbs: Any) -> None:
    """Describe the commands."""
    verb(verbs, "approvals", "to-dos that wait for the client to agree", run_approvals)
    answered = verb(verbs, "answer", "agree to a to-do for the client, or ask back", run_answer)
    answered.add_argument("id", type=int)
    answered.add_argument("--agree", action="store_true", help="the client agrees")
    answered.add_argument("--comment", default="", help="what the client says")
    imported = verb(verbs, "import", "make to-dos of a CSV table, one of each row: all of them or none", run_import)
    imported.add_argument(
        "file",
        type=Path,
        help="columns site and title, and where wanted note, assignee, due, priority, severity, hours, labels; - for stdin",
    )
    imported.add_argument("--check", action="store_true", help="only read it, and make nothing")
    listed = verb(verbs, "recurring", "to-dos that come back, by when the next one is made", run_recurring)
    listed.add_argument("--client")
    recurring = verb(verbs, "recur", "let a to-do come back on the days of a rule", run_recur)
    recurring.add_argument("site")
    recurring.add_argument("rule", help="daily, weekly:tuesday, monthly:1 or a recurrence rule by RFC 5545")
    recurring.add_argument("title")
    recurring.add_argument("--days", type=int, default=5, help="working days until each is due (default: 5)")
    recurring.add_argument("--who", help="assignee")
    recurring.add_argument("--priority", type=Priority, choices=tuple(Priority), default=Priority.NORMAL)
    recurring.add_argument("--label", action="append", default=[], help="a label (repeat for more)")
    recurring.add_argument("--note", default="")
    ended = verb(verbs, "unrecur", "let a to-do come back no more; those that were made stay", run_unrecur)
    ended.add_argument("id", type=int, help="number, as `todo recurring` shows it")
    paid = verb(verbs, "paid", "whether a confirmed to-do paid: clicks to its pages before and after", run_paid)
    paid.add_argument("id", type=int)
    files = verb(verbs, "files", "the attachments of a to-do", run_files)
    files.add_argument("id", type=int)
    attached = verb(verbs, "attach", "attach a file of up to 5 MiB to a to-do", run_attach)
    attached.add_argument("id", type=int)
    attached.add_argument("file", type=Path)
    saved = verb(verbs, "save", "save an attachment", run_save)
    saved.add_argument("id", type=int)
    saved.add_argument("attachment", type=int, help="number, as `todo files` shows it")
    saved.add_argument("file", type=Path, help="file to write")
    detached = verb(verbs, "detach", "take an attachment away", run_detach)
    detached.add_argument("id", type=int)
    detached.add_argument("attachment", type=int, help="number, as `todo files` shows it")


def run_approvals(args: argparse.Namespace) -> int:
    """Print what waits for clients."""
    with connect(args) as desk:
        return show(args, desk.list_approvals(), APPROVALS, "No to-do waits for a client to agree.")


def run_answer(args: argparse.Namespace) -> int:
    """Answer for a client."""
    with connect(args) as desk:
        found = desk.answer_approval(args.id, AnswerBody(agrees=args.agree, comment=args.comment))
    err.print(f"To-do {found.todo_id} {'is agreed to' if args.agree else 'still waits; the question is in its story'}.")
    return 0


def run_import(args: argparse.Namespace) -> int:
    """Take in a table."""
    text = read_text(args.file)
    with connect(args) as desk:
        found = desk.import_todos(TodoTable(csv=text, check_only=args.check))
    if args.check:
        err.print(f"{count(found.rows, 'row')} can be read; nothing was made.")
        return 0
    return show(args, found.todos, IMPORTED)


def run_recurring(args: argparse.Namespace) -> int:
    """Print what comes back."""
    with connect(args) as desk:
        client = find_client(desk, args.client).id if args.client else None
        empty = "No to-do comes back. Let one: hodcarrier todo recur SITE monthly:1 TITLE"
        return show(args, desk.list_recurring(client), RECURRING, empty)


def run_recur(args: argparse.Namespace) -> int:
    """Let one come back."""
    with connect(args) as desk:
        body = RecurringBody(
            site_id=find_site(desk, args.site).id,
            title=args.title,
            rule=args.rule,
            days=args.days,
            note=args.note,
            assignee=find_member(desk, args.who).id if args.who else None,
            priority=args.priority,
            labels=args.label,
        )
        return show(args, desk.add_recurring(body), RECURRING)


def run_unrecur(args: argparse.Namespace) -> int:
    """Let one come back no more."""
    with connect(args) as desk:
        desk.remove_recurring(args.id)
    err.print(f"Recurring to-do {args.id} comes back no more.")
    return 0


def run_files(args: argparse.Namespace) -> int:
    """Print attachments."""
    with connect(args) as desk:
        return show(args, desk.list_todo_files(args.id), FILES, "The to-do has no attachments.")


def run_attach(args: argparse.Namespace) -> int:
    """Attach one."""
    try:
        content = args.file.read_bytes()
    except OSError as error:
        raise InvalidInput(f"{args.file} cannot be read: {error.strerror}.", "Check the path.", "file") from None
    if len(content) > FILE_BYTES_MAX:
        raise InvalidInput(f"{args.file} is larger than 5 MiB.", "Attach a smaller file, or link to it in the note.", "file")
    with connect(args) as desk:
        body = TodoFileBody(name=args.file.name, content=base64.b64encode(content).decode())
        return show(args, desk.add_todo_file(args.id, body), FILES)


def run_save(args: argparse.Namespace) -> int:
    """Save one."""
    with connect(args) as desk:
        return save_file(args.file, desk.get_todo_file(args.id, args.attachment))


def run_detach(args: argparse.Namespace) -> int:
    """Take one away."""
    with connect(args) as desk:
        desk.remove_todo_file(args.id, args.attachment)
    err.print(f"Removed attachment {args.attachment} of to-do {args.id}.")
    return 0


def run_paid(args: argparse.Namespace) -> int:
    """Say whether one paid."""
    with connect(args) as desk:
        found = desk.get_paid(args.id)
    if args.format != "table":
        return show(args, found, PAID)
    out.print(found.sentence, markup=False)
    return 0
