"""``hodcarrier report list|show|add|edit|refresh|restore|approve|send|save|remove``; what reports are made from is in :mod:`hodcarrier.cli.report_setup`."""

from __future__ import annotations

import argparse
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from hodcarrier.cli import report_setup
from hodcarrier.cli.output import err, out, table
from hodcarrier.cli.report_setup import read_sections, recipient
from hodcarrier.cli.service import ask, connect, find_site, name_value, noun, read_day, save_file, show, verb
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.states import ReportForm, SectionKind
from hodcarrier.wire.reports import ReportApproval, ReportBody, ReportChange, ReportFull, ReportSection, ReportSending

COLUMNS = [
    ("id", "Id"),
    ("title", "Report"),
    ("site_host", "Site"),
    ("from_day", "From"),
    ("to_day", "To"),
    ("state", "State"),
    ("version", "Version"),
    ("created_at", "Made (UTC)"),
]
SECTIONS = [("key", "Section"), ("kind", "Kind"), ("title", "Title"), ("choices", "Chosen"), ("note", "Note")]
VERSIONS = [("number", "Version"), ("at", "Saved (UTC)"), ("author", "By"), ("what", "What")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "report", "reports for clients")
    listed = verb(verbs, "list", "reports, the latest first", run_list)
    listed.add_argument("--site", help="only those of this site")
    shown = verb(verbs, "show", "one report: its sections and versions", run_show)
    added = verb(verbs, "add", "make a report, as a draft", run_add)
    added.add_argument("site")
    added.add_argument("--from", dest="start", metavar="DAY", help="first day of last month if left out")
    added.add_argument("--to", dest="end", metavar="DAY", help="last day of last month if left out")
    added.add_argument("--template", default="monthly", help="name or id of a template (default: monthly)")
    added.add_argument("--language", default="", help="code of a language (default: that of the client)")
    added.add_argument("--title", default="")
    added.add_argument("--note", default="", help="words under the first section, in Markdown")
    edited = verb(verbs, "edit", "change a report; what was approved stays what clients see until you approve it again", run_edit)
    edited.add_argument("--title")
    edited.add_argument("--language")
    edited.add_argument("--from", dest="start", metavar="DAY")
    edited.add_argument("--to", dest="end", metavar="DAY")
    edited.add_argument("--note", action="append", default=[], metavar="SECTION=TEXT", help="words under a section (repeat)")
    edited.add_argument(
        "--with",
        dest="more",
        action="append",
        default=[],
        choices=list(SectionKind),
        metavar="KIND",
        help="add a section at the end (repeat); `report sections` lists the kinds",
    )
    edited.add_argument("--without", action="append", default=[], metavar="SECTION", help="leave a section out (repeat)")
    edited.add_argument(
        "--sections", type=Path, metavar="FILE", help="JSON with all sections, as `report show ID --format json` gives them"
    )
    refreshed = verb(verbs, "refresh", "gather the figures of a report again", run_refresh)
    restored = verb(verbs, "restore", "go back to an earlier version, as a new one", run_restore)
    approved = verb(verbs, "approve", "approve a report as it stands", run_approve)
    approved.add_argument("--send", action="store_true", help="send it to whom its schedule names")
    sent = verb(verbs, "send", "send what was approved by mail", run_send)
    saved = verb(verbs, "save", "write a report to a file", run_save)
    removed = verb(verbs, "remove", "remove a report with its versions and share links", run_remove)
    for parser in (shown, edited, refreshed, restored, approved, sent, saved, removed):
        parser.add_argument("id", type=int)
    restored.add_argument("version", type=int)
    sent.add_argument("recipient", nargs="+", metavar="NAME=EMAIL")
    sent.add_argument("--subject", default="", help="default: the title of the report")
    sent.add_argument("--cover", default="", help="the words of the mail")
    sent.add_argument("--days", type=int, default=90, help="how long their links are good for (default 90)")
    saved.add_argument("file", type=Path, help=f"ends in {', '.join(f'.{form}' for form in ReportForm)}")
    saved.add_argument("--version", type=int, help="an earlier version")
    removed.add_argument("--yes", action="store_true", help="do not ask")
    report_setup.add_verbs(verbs)


def run_list(args: argparse.Namespace) -> int:
    """Print reports."""
    with connect(args) as desk:
        site = find_site(desk, args.site).id if args.site else None
        return show(args, desk.list_reports(site), COLUMNS, "No reports yet. Make one: hodcarrier report add SITE")


def run_show(args: argparse.Namespace) -> int:
    """Print one."""
    with connect(args) as desk:
        return _show(args, desk.get_report(args.id))


def _show(args: argparse.Namespace, report: ReportFull) -> int:
    if args.format != "table":
        return show(args, report, COLUMNS)
    show(args, report, COLUMNS)
    out.print()
    rows = []
    for each in report.sections:
        chosen = ", ".join(f"{name} {value}" for name, value in each.choices.items())
        empty = "(nothing to tell: left out)" if each.key in report.empty else ""
        note = " ".join(each.note.split())[:60] or empty
        rows.append({"key": each.key, "kind": each.kind, "title": each.title, "choices": chosen, "note": note})
    table(rows, SECTIONS, "It has no sections yet: add some with `hodcarrier report edit --with KIND`.")
    out.print()
    table([each.model_dump(mode="json") for each in report.versions], VERSIONS, "No version was kept.")
    return 0


def _last_month(today: date) -> tuple[date, date]:
    last = today.replace(day=1) - timedelta(days=1)
    return last.replace(day=1), last


def run_add(args: argparse.Namespace) -> int:
    """Make one."""
    first, last = _last_month(date.today())
    start, end = (read_day(given) if given else usual for given, usual in ((args.start, first), (args.end, last)))
    with connect(args) as desk:
        body = ReportBody(
            site_id=find_site(desk, args.site).id,
            from_day=start,
            to_day=end,
            template=report_setup.find_template(desk, args.template).id,
            language=args.language,
            title=args.title,
            note=args.note,
        )
        return _show(args, desk.add_report(body))


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    with connect(args) as desk:
        report = desk.get_report(args.id)
        sections = read_sections(args.sections) if args.sections is not None else list(report.sections)
        keys = {each.key: n for n, each in enumerate(sections)}
        for item in args.note:
            key, text = name_value(item, "health=The theme change cost us a week.")
            sections[_place(keys, key)] = sections[_place(keys, key)].model_copy(update={"note": text})
        left_out = {_place(keys, key) for key in args.without}
        sections = [each for n, each in enumerate(sections) if n not in left_out]
        sections += [ReportSection(kind=SectionKind(kind)) for kind in args.more]
        body = ReportChange(
            title=args.title,
            language=args.language,
            from_day=read_day(args.start) if args.start else None,
            to_day=read_day(args.end) if args.end else None,
            sections=sections if sections != report.sections else None,
        )
        if not body.model_dump(exclude_none=True):
            raise InvalidInput(
                "It is not said what to change.", "Give --title, --note SECTION=TEXT, --with, --without or another."
            )
        return _show(args, desk.change_report(args.id, body, report.version))


def _place(keys: dict[str, int], key: str) -> int:
    if key not in keys:
        raise NotFound(f"The report has no section “{key}”.", f"It has {', '.join(keys) or 'none'}.")
    return keys[key]


def run_refresh(args: argparse.Namespace) -> int:
    """Gather its figures again."""
    with connect(args) as desk:
        return _show(args, desk.refresh_report(args.id))


def run_restore(args: argparse.Namespace) -> int:
    """Go back to a version."""
    with connect(args) as desk:
        return _show(args, desk.restore_report(args.id, args.version))


def run_approve(args: argparse.Namespace) -> int:
    """Approve one as it stands."""
    with connect(args) as desk:
        report = desk.get_report(args.id)
        return _show(args, desk.approve_report(args.id, ReportApproval(send=args.send), report.version))


def run_send(args: argparse.Namespace) -> int:
    """Send one."""
    body = ReportSending(
        recipients=[recipient(each) for each in args.recipient], subject=args.subject, cover=args.cover, days=args.days
    )
    with connect(args) as desk:
        code = show(args, desk.send_report(args.id, body), COLUMNS)
    err.print(f"On its way to {', '.join(each.email for each in body.recipients)}.")
    return code


def run_save(args: argparse.Namespace) -> int:
    """Write one to a file."""
    form = args.file.suffix.lstrip(".").lower()
    if form not in set(ReportForm):
        ends = ", ".join(f".{each}" for each in ReportForm)
        raise InvalidInput(f"{args.file} ends in none of {ends}.", "Choose one of them.")
    with connect(args) as desk:
        match ReportForm(form):
            case ReportForm.HTML:
                document = desk.get_report_page(args.id, args.version)
            case ReportForm.PDF:
                document = desk.get_report_pdf(args.id, args.version)
            case ReportForm.DOCX:
                document = desk.get_report_docx(args.id, args.version)
            case ReportForm.XLSX:
                document = desk.get_report_xlsx(args.id, args.version)
    return save_file(args.file, document)


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        report = desk.get_report(args.id)
        ask(f"Remove “{report.title}” with its versions and share links?", args.yes)
        desk.remove_report(args.id)
    err.print(f"Report {args.id} is removed.")
    return 0
