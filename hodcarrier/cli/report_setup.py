"""``hodcarrier report sections|templates|template|drop|schedules|schedule|reschedule|unschedule|brand``."""

from __future__ import annotations

import argparse
import base64
import json
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter, ValidationError

from hodcarrier.cli.output import emit, err
from hodcarrier.cli.service import connect, find_client, find_member, find_site, name_value, read_text, save_file, show, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.states import ReportSpan, Typeface
from hodcarrier.wire.brands import LOGO_BYTES_MAX, BrandBody
from hodcarrier.wire.refusals import refused
from hodcarrier.wire.reports import (
    Recipient,
    ReportScheduleBody,
    ReportScheduleChange,
    ReportSection,
    ReportTemplateBody,
    ReportTemplateOut,
)

TEMPLATES = [("id", "Id"), ("name", "Template"), ("parts", "Sections"), ("note", "What for")]
OFFERED = [("kind", "Kind"), ("title", "Title"), ("about", "What it tells"), ("choices", "To choose")]
SCHEDULES = [
    ("id", "Id"),
    ("site_host", "Site"),
    ("template_name", "Template"),
    ("words", "When"),
    ("next_due_at", "Next (UTC)"),
    ("goes_to", "Goes to"),
    ("owner", "Approved by"),
    ("trouble", "Trouble"),
]
BRAND = [
    ("colour", "Colour"),
    ("line_colour", "Lines"),
    ("typeface", "Typeface"),
    ("footer", "Footer"),
    ("has_logo", "Logo"),
    ("remarks", "Remarks"),
]


def add_verbs(verbs: Any) -> None:
    """Describe the commands on what reports are made from."""
    verb(verbs, "sections", "kinds of sections that reports are made of", run_sections)
    verb(verbs, "templates", "templates of reports", run_templates)
    template = verb(verbs, "template", "save the sections of a template as JSON, or make a template of such a file", run_template)
    template.add_argument("template", nargs="?", help="id or name; with --sections the one of the agency's that is replaced")
    template.add_argument("--save", type=Path, metavar="FILE", help="a file that ends in .json")
    template.add_argument("--sections", type=Path, metavar="FILE", help="JSON with sections")
    template.add_argument("--name", help="what it is called (with --sections)")
    template.add_argument("--note", default="", help="what it is for (with --sections)")
    dropped = verb(verbs, "drop", "remove a template of the agency; reports stay", run_drop)
    dropped.add_argument("template", type=int)
    listed = verb(verbs, "schedules", "when reports are made by themselves", run_schedules)
    listed.add_argument("--client", help="only those of this client")
    added = verb(verbs, "schedule", "let reports of a site be made by themselves", run_schedule)
    added.add_argument("site")
    changed = verb(verbs, "reschedule", "change, pause or resume a schedule", run_reschedule)
    changed.add_argument("id", type=int)
    changed.add_argument("--pause", dest="paused", action="store_true", default=None)
    changed.add_argument("--resume", dest="paused", action="store_false", default=None)
    for parser in (added, changed):
        parser.add_argument("--template", help="name or id of a template (default: monthly)")
        parser.add_argument("--span", type=ReportSpan, choices=list(ReportSpan), help="what a report covers (default: month)")
        parser.add_argument("--working-day", type=int, metavar="N", help="on which working day after it (default: the first)")
        parser.add_argument("--at", help="time of day (default: 08:00)")
        parser.add_argument("--zone", help="such as Europe/London (default: UTC)")
        parser.add_argument("--to", dest="recipients", action="append", metavar="NAME=EMAIL", help="whom it goes to (repeat)")
        parser.add_argument("--subject", help="subject of the mail")
        parser.add_argument("--cover", help="the words of the mail")
        parser.add_argument("--owner", help="who approves it (default: whoever is in charge of the client)")
    removed = verb(verbs, "unschedule", "remove a schedule; its reports stay", run_unschedule)
    removed.add_argument("id", type=int)
    brand = verb(verbs, "brand", "how reports look: of the agency, or of a client", run_brand)
    brand.add_argument("--client", help="of this client")
    brand.add_argument("--colour", metavar="#RRGGBB", help="empty for the usual one")
    brand.add_argument("--typeface", type=Typeface, choices=list(Typeface), help="of all reports")
    brand.add_argument("--footer", help="words at the foot of every page, of all reports")
    brand.add_argument("--logo", type=Path, metavar="FILE", help="an SVG or PNG")
    brand.add_argument("--no-logo", action="store_true", help="take the logo away")
    brand.add_argument("--save-logo", type=Path, metavar="FILE", help="save the logo")


def recipient(item: str) -> Recipient:
    """A recipient from ``NAME=EMAIL``."""
    name, email = name_value(item, "Rosa Penhallow=rosa@tidewrack.example")
    return Recipient(name=name, email=email)


def read_sections(path: Path) -> list[ReportSection]:
    """Sections from a JSON file: a list, or an object that has them. Raises :class:`InvalidInput` for what is neither."""
    try:
        found = json.loads(read_text(path))
        found = found["sections"] if isinstance(found, dict) else found
        return TypeAdapter(list[ReportSection]).validate_python(found)
    except ValidationError as error:
        raise InvalidInput(f"{path}: {refused(error)}", "Correct that value.") from None
    except (ValueError, KeyError, TypeError):
        raise InvalidInput(f"{path} holds no sections.", "Start from `hodcarrier report template monthly --save FILE`.") from None


def find_template(desk: Hodcarrier, key: str) -> ReportTemplateOut:
    """A template by its id, its name, or the beginning of that. Raises :class:`NotFound`."""
    found = desk.list_report_templates()
    exact = [each for each in found if key in (each.id, each.name)]
    near = exact or [each for each in found if each.name.casefold().startswith(key.casefold())]
    if len(near) != 1:
        names = ", ".join(f"{each.name} ({each.id})" for each in found)
        raise NotFound(f"“{key}” is no template, or the beginning of several.", f"There are: {names}.")
    return near[0]


def run_sections(args: argparse.Namespace) -> int:
    """Print kinds of sections."""
    with connect(args) as desk:
        offer = desk.get_report_offer()
    if args.format != "table":
        return show(args, offer.sections, OFFERED)
    rows = []
    for each in offer.sections:
        chosen = [f"{c.name} {c.least} to {c.most} (usually {c.usual})" for c in each.choices]
        rows.append({"kind": each.kind, "title": each.title, "about": each.about, "choices": ", ".join([*chosen, *each.picks])})
    emit(rows, args.format, OFFERED)
    err.print(f"Languages: {', '.join(f'{name} ({code})' for code, name in offer.languages.items())}.")
    return 0


def run_templates(args: argparse.Namespace) -> int:
    """Print templates."""
    with connect(args) as desk:
        return _show_templates(args, desk.list_report_templates())


def _show_templates(args: argparse.Namespace, found: list[ReportTemplateOut]) -> int:
    if args.format != "table":
        return show(args, found, TEMPLATES)
    rows = [{**each.model_dump(mode="json"), "parts": ", ".join(s.kind for s in each.sections)} for each in found]
    emit(rows, args.format, TEMPLATES)
    return 0


def run_template(args: argparse.Namespace) -> int:
    """Save a template, or make one."""
    with connect(args) as desk:
        if args.sections is None:
            if args.template is None or args.save is None:
                raise InvalidInput(
                    "It is not said what to do.", "Give a template with --save FILE, or --sections FILE with --name."
                )
            found = find_template(desk, args.template)
            kept = [each.model_dump(mode="json", exclude_defaults=True) for each in found.sections]
            return save_file(args.save, (json.dumps(kept, indent=2, ensure_ascii=False) + "\n").encode())
        known = find_template(desk, args.template) if args.template else None
        name = args.name or (known.name if known else "")
        body = ReportTemplateBody(
            name=name, note=args.note or (known.note if known else ""), sections=read_sections(args.sections)
        )
        if known is None:
            return _show_templates(args, [desk.add_report_template(body)])
        if known.ships:
            raise InvalidInput(
                f"“{known.name}” ships with the service and stays as it is.", "Leave its id out and give a --name."
            )
        return _show_templates(args, [desk.replace_report_template(int(known.id), body, known.version)])


def run_drop(args: argparse.Namespace) -> int:
    """Remove a template."""
    with connect(args) as desk:
        desk.remove_report_template(args.template)
    err.print(f"Template {args.template} is removed; reports that were begun from it stay.")
    return 0


def run_schedules(args: argparse.Namespace) -> int:
    """Print schedules."""
    with connect(args) as desk:
        client = find_client(desk, args.client, archived=True).id if args.client else None
        return _show_schedules(args, desk.list_report_schedules(client))


def _show_schedules(args: argparse.Namespace, found: list[Any]) -> int:
    if args.format != "table":
        return show(args, found, SCHEDULES)
    rows = [{**each.model_dump(mode="json"), "goes_to": ", ".join(r.name for r in each.recipients)} for each in found]
    emit(rows, args.format, SCHEDULES, "No report is made by itself. Let one be: hodcarrier report schedule SITE")
    return 0


def _given(args: argparse.Namespace, desk: Hodcarrier) -> dict[str, Any]:
    """What was said of a schedule."""
    found = {
        "template": find_template(desk, args.template).id if args.template else None,
        "span": args.span,
        "working_day": args.working_day,
        "at": args.at,
        "zone": args.zone,
        "recipients": [recipient(each) for each in args.recipients] if args.recipients else None,
        "subject": args.subject,
        "cover": args.cover,
        "owner_id": find_member(desk, args.owner).id if args.owner else None,
    }
    return {name: value for name, value in found.items() if value is not None}


def run_schedule(args: argparse.Namespace) -> int:
    """Add a schedule."""
    with connect(args) as desk:
        body = ReportScheduleBody(site_id=find_site(desk, args.site).id, **_given(args, desk))
        return _show_schedules(args, [desk.add_report_schedule(body)])


def run_reschedule(args: argparse.Namespace) -> int:
    """Change a schedule."""
    with connect(args) as desk:
        given = _given(args, desk)
        if args.paused is not None:
            given["paused"] = args.paused
        if not given:
            raise InvalidInput("It is not said what to change.", "Give --working-day, --to, --pause or another.")
        return _show_schedules(args, [desk.change_report_schedule(args.id, ReportScheduleChange(**given))])


def run_unschedule(args: argparse.Namespace) -> int:
    """Remove a schedule."""
    with connect(args) as desk:
        desk.remove_report_schedule(args.id)
    err.print(f"Schedule {args.id} is removed; the reports that it made stay.")
    return 0


def run_brand(args: argparse.Namespace) -> int:
    """Print a brand, or change it."""
    with connect(args) as desk:
        client = find_client(desk, args.client).id if args.client else None
        if args.save_logo is not None:
            return save_file(args.save_logo, desk.get_logo() if client is None else desk.get_client_logo(client))
        given: dict[str, Any] = {"colour": args.colour, "typeface": args.typeface, "footer": args.footer}
        if args.no_logo or args.logo is not None:
            given["logo"] = "" if args.no_logo else _logo(args.logo)
        given = {name: value for name, value in given.items() if value is not None}
        if not given:
            return show(args, desk.get_brand() if client is None else desk.get_client_brand(client), BRAND)
        body = BrandBody(**given)
        return show(args, desk.set_brand(body) if client is None else desk.set_client_brand(client, body), BRAND)


def _logo(path: Path) -> str:
    try:
        content = path.read_bytes()
    except OSError as error:
        raise InvalidInput(f"{path} cannot be read: {error.strerror}.", "Name a file that you may read.") from None
    if len(content) > LOGO_BYTES_MAX:
        raise InvalidInput(f"{path} is larger than 1 MiB.", "Send a smaller logo.")
    return base64.b64encode(content).decode()
