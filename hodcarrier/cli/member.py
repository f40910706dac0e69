"""``hodcarrier member list|me|invite|add|edit``."""

from __future__ import annotations

import argparse
import getpass
import sys
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import ask_password, connect, find_member, name_value, noun, show, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import DateOrder, MailKind, MailTime
from hodcarrier.wire.members import InvitationBody, MemberBody, MemberChange, PreferencesChange

COLUMNS = [
    ("id", "Id"),
    ("name", "Name"),
    ("email", "E-mail"),
    ("role", "Role"),
    ("open_todos", "To-dos"),
    ("overdue_todos", "Overdue"),
    ("active", "Active"),
    ("invited", "Invited"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "member", "who works here")
    verb(verbs, "list", "all members with their load", run_list)
    mine = verb(verbs, "me", "who you are; change your name, date format or mails", run_me)
    mine.add_argument("--name", help="a new name")
    mine.add_argument("--password", action="store_true", help="change your password; asked for, the old one first")
    mine.add_argument("--dates", choices=tuple(DateOrder), help="how dates are shown to you")
    mine.add_argument(
        "--mail",
        action="append",
        default=[],
        metavar="KIND=WHEN",
        help=f"when you are told of something (repeat for more): {', '.join(MailKind)}; {', '.join(MailTime)}",
    )
    mine.add_argument("--morning", choices=("yes", "no"), help="whether the desk comes by mail every working morning")
    mine.add_argument("--mail-hour", type=int, help="hour of your daily mail, 0 to 23")
    mine.add_argument("--mail-zone", help="time zone of that hour, such as Europe/London")
    edited = verb(verbs, "edit", "change a member's role, or switch a member off", run_edit)
    edited.add_argument("member", help="name, e-mail address or id")
    edited.add_argument("--name")
    edited.add_argument("--role", choices=tuple(Role))
    edited.add_argument("--client", type=int, help="id of the client whose guest the member becomes")
    edited.add_argument("--active", choices=("yes", "no"), help="no: cannot sign in any more")
    edited.add_argument("--password-alone", action="store_true", help="switch two-step sign-in off, for who has lost the device")
    edited.add_argument("--hand-to", metavar="WHO", help="with --active no: who takes over the to-dos, or nobody")
    invited = verb(verbs, "invite", "invite somebody, who chooses a password by a link in a mail", run_invite)
    invited.add_argument("name", help="of somebody new; of a member who has not answered yet, to send another invitation")
    invited.add_argument("email", nargs="?")
    invited.add_argument("--role", choices=tuple(Role), default=Role.ANALYST)
    invited.add_argument("--client", type=int, help="id of the client, for a guest")
    added = verb(verbs, "add", "add a member; the password is read from the terminal or stdin", run_add)
    added.add_argument("name")
    added.add_argument("email")
    added.add_argument("--role", choices=tuple(Role), default=Role.ANALYST)
    added.add_argument("--client", type=int, help="id of the client, for a guest")


def run_list(args: argparse.Namespace) -> int:
    """Print members."""
    with connect(args) as desk:
        return show(args, desk.list_members(), COLUMNS)


def run_me(args: argparse.Namespace) -> int:
    """Print oneself, changed if asked."""
    mails = dict(name_value(item, "overdue=daily") for item in args.mail) or None
    given = {
        "name": args.name,
        "date_order": args.dates,
        "mail_times": mails,
        "morning": None if args.morning is None else args.morning == "yes",
        "mail_hour": args.mail_hour,
        "mail_zone": args.mail_zone,
    }
    if args.password:
        given["current_password"] = ask_password("Current password: ", "HODCARRIER_PASSWORD")
        given["password"] = ask_password("New password: ", "HODCARRIER_NEW_PASSWORD")
    change = {name: value for name, value in given.items() if value is not None}
    with connect(args) as desk:
        me = desk.change_preferences(PreferencesChange(**change)) if change else desk.who_am_i()
        columns = [
            *COLUMNS,
            ("date_order", "Dates"),
            ("mail_times", "Mails"),
            ("morning", "Desk by mail"),
            ("mail_hour", "Daily mail at"),
            ("mail_zone", "Zone"),
        ]
        return show(args, me, columns)


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    active = None if args.active is None else args.active == "yes"
    given = {"name": args.name, "role": args.role, "client_id": args.client, "active": active}
    with connect(args) as desk:
        changes: dict[str, Any] = {name: value for name, value in given.items() if value is not None}
        if args.hand_to is not None:
            changes["hand_to"] = None if args.hand_to == "nobody" else find_member(desk, args.hand_to).id
        if args.password_alone:
            changes["second_on"] = False
        change = MemberChange(**changes)
        return show(args, desk.change_member(find_member(desk, args.member).id, change), COLUMNS)


def run_invite(args: argparse.Namespace) -> int:
    """Invite one, or send the invitation again."""
    with connect(args) as desk:
        if args.email is None:
            member = desk.invite_again(find_member(desk, args.name).id)
        else:
            body = InvitationBody(name=args.name, email=args.email, role=args.role, client_id=args.client)
            member = desk.invite_member(body)
    err.print(f"{member.name} is sent a link to choose a password; see `hodcarrier mail list`.", markup=False)
    return 0


def run_add(args: argparse.Namespace) -> int:
    """Add one."""
    password = getpass.getpass("Password (10 characters or more): ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    if len(password) < 10:
        raise InvalidInput("The password has fewer than 10 characters.", "Choose a longer one.")
    with connect(args) as desk:
        body = MemberBody(name=args.name, email=args.email, role=args.role, password=password, client_id=args.client)
        return show(args, desk.add_member(body), COLUMNS)
