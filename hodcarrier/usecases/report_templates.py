"""Templates of reports: those that ship, and those that the agency has written."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.benchmark.measures import BY_ID
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.reports.shipped import SHIPPED, Template
from hodcarrier.register.models import Member, ReportTemplate
from hodcarrier.report.language import languages
from hodcarrier.report.sections import SECTIONS
from hodcarrier.usecases.workspace import Workspace, log, unless_taken
from hodcarrier.wire.reports import (
    ReportOffer,
    ReportSection,
    ReportTemplateBody,
    ReportTemplateOut,
    SectionChoice,
    SectionOffer,
)


def report_offer() -> ReportOffer:
    """What reports can be made of."""
    return ReportOffer(
        sections=[
            SectionOffer(
                kind=kind,
                title=each.title,
                about=each.about,
                choices=[SectionChoice(name=name, **vars(choice)) for name, choice in each.choices.items()],
                picks=list(each.picks),
            )
            for kind, each in SECTIONS.items()
        ],
        languages=languages(),
        measures={name: each.name for name, each in BY_ID.items()},
    )


def list_report_templates(work: Workspace) -> list[ReportTemplateOut]:
    """All templates, those that ship first."""
    with work.reading() as session:
        rows = session.scalars(select(ReportTemplate).order_by(ReportTemplate.name.collate("NOCASE")))
        return [*(_shipped(key, each) for key, each in SHIPPED.items()), *(_own(row) for row in rows)]


def add_report_template(work: Workspace, body: ReportTemplateBody, member: Member) -> ReportTemplateOut:
    """Add a template. Raises :class:`InvalidInput` for sections that cannot be, and :class:`Conflict` when the name is taken."""
    sections = checked(body.sections)
    with work.session() as session:
        row = ReportTemplate(name=body.name, note=body.note, sections=stored(sections), created_at=work.now())
        with unless_taken(session, f"There is already a template called {body.name}.", "Give another name."):
            session.add(row)
            session.flush()
        log(session, work.now(), member.id, "report template added", row.name)
        return _own(row)


def replace_report_template(
    work: Workspace, template_id: int, body: ReportTemplateBody, version: int | None, member: Member
) -> ReportTemplateOut:
    """Change a template; reports that were begun from it stay as they are. Raises :class:`Conflict` when somebody else changed it since ``version``."""
    sections = checked(body.sections)
    with work.session() as session:
        row = _fetch(session, template_id)
        if version is not None and version != row.version:
            raise Conflict("Somebody changed this template in the meantime.", "Look at what they changed, then save again.")
        with unless_taken(session, f"There is already a template called {body.name}.", "Give another name."):
            row.name, row.note, row.sections, row.version = body.name, body.note, stored(sections), row.version + 1
            session.flush()
        log(session, work.now(), member.id, "report template changed", row.name)
        return _own(row)


def remove_report_template(work: Workspace, template_id: int, member: Member) -> None:
    """Remove a template; reports that were begun from it stay, and schedules that use it say so when they are due."""
    with work.session() as session:
        row = _fetch(session, template_id)
        log(session, work.now(), member.id, "report template removed", row.name)
        session.delete(row)


def find_report_template(session: Session, key: str) -> ReportTemplateOut:
    """A template by its name, if it ships, or its number. Raises :class:`NotFound`."""
    if key in SHIPPED:
        return _shipped(key, SHIPPED[key])
    row = session.get(ReportTemplate, int(key)) if key.isascii() and key.isdecimal() and len(key) < 19 else None
    if row is None:
        raise NotFound(f"There is no report template “{key[:40]}”.", "List them with `hodcarrier report templates`.")
    return _own(row)


def checked(sections: Sequence[ReportSection]) -> list[ReportSection]:
    """Sections with keys of their own. Raises :class:`InvalidInput` for numbers, checks, or measures that a section does not take."""
    known, taken, found = catalogue.load(), set[str](), []
    for number, each in enumerate(sections, 1):
        offered = SECTIONS[each.kind]
        where = f"Section {number} ({offered.title})"
        for name, value in each.choices.items():
            choice = offered.choices.get(name)
            if choice is None:
                has = f"It has {', '.join(offered.choices)}." if offered.choices else "It has no numbers to choose."
                raise InvalidInput(f"{where} has no number called “{name[:40]}”.", has, "sections")
            if not choice.least <= value <= choice.most:
                raise InvalidInput(
                    f"{where}: {choice.label.lower()} is {value}.", f"Give {choice.least} to {choice.most}.", "sections"
                )
        unknown = [check for check in each.checks if known.current(check) not in known]
        if unknown:
            raise InvalidInput(
                f"{where}: there is no check “{unknown[0][:80]}”.", "List them with `hodcarrier catalogue list`.", "sections"
            )
        if missing := [name for name in each.measures if name not in BY_ID]:
            raise InvalidInput(f"{where}: there is no measure “{missing[0][:80]}”.", f"There are {', '.join(BY_ID)}.", "sections")
        key = each.key if each.key and each.key not in taken else _free(each.kind.value, taken)
        taken.add(key)
        checks = list(dict.fromkeys(known.current(check) for check in each.checks))
        found.append(each.model_copy(update={"key": key, "checks": checks}))
    return found


def _free(kind: str, taken: set[str]) -> str:
    number, key = 1, kind
    while key in taken:
        number += 1
        key = f"{kind}-{number}"
    return key


def stored(sections: Sequence[ReportSection]) -> list[dict[str, Any]]:
    """Sections as a record keeps them."""
    return [each.model_dump(mode="json") for each in sections]


def read_sections(kept: Sequence[dict[str, Any]]) -> list[ReportSection]:
    """Sections out of a record."""
    return [ReportSection.model_validate(each) for each in kept]


def _fetch(session: Session, template_id: int) -> ReportTemplate:
    row = session.get(ReportTemplate, template_id)
    if row is None:
        raise NotFound(
            f"The agency has no report template {template_id}.",
            "List them with `hodcarrier report templates`; those that ship stay as they are.",
        )
    return row


def _shipped(key: str, each: Template) -> ReportTemplateOut:
    sections = checked([ReportSection(kind=part.kind, choices=dict(part.choices)) for part in each.parts])
    return ReportTemplateOut(id=key, name=each.name, note=each.note, ships=True, sections=sections)


def _own(row: ReportTemplate) -> ReportTemplateOut:
    return ReportTemplateOut(
        id=str(row.id), name=row.name, note=row.note, ships=False, sections=read_sections(row.sections), version=row.version
    )
