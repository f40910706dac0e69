"""Templates of review sheets: those that ship, and those that the agency has written."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.figures.series import followed
from hodcarrier.core.review.sheets import CHECK, Item, Section, items_of, with_keys
from hodcarrier.core.review.shipped import SHIPPED
from hodcarrier.core.review.tables import read_template
from hodcarrier.core.states import SheetAsks
from hodcarrier.register.models import Member, SheetTemplate
from hodcarrier.usecases.workspace import Workspace, log, unless_taken
from hodcarrier.wire.sheets import SheetItem, SheetSection, SheetTemplateBody, SheetTemplateOut


def list_sheet_templates(work: Workspace) -> list[SheetTemplateOut]:
    """All templates, those that ship first."""
    shipped = [_out(key, each.name, each.note, each.sections, ships=True) for key, each in SHIPPED.items()]
    with work.reading() as session:
        rows = session.scalars(select(SheetTemplate).order_by(SheetTemplate.name.collate("NOCASE")))
        return [*shipped, *(_own(row) for row in rows)]


def add_sheet_template(work: Workspace, body: SheetTemplateBody, member: Member) -> SheetTemplateOut:
    """Add a template. Raises :class:`InvalidInput` for one without items, and :class:`Conflict` when the name is taken."""
    sections = _sections(body)
    with work.session() as session:
        row = SheetTemplate(name=body.name, note=body.note, sections=stored(sections), created_at=work.now())
        with unless_taken(session, f"There is already a template called {body.name}.", "Give another name."):
            session.add(row)
            session.flush()
        log(session, work.now(), member.id, "sheet template added", row.name)
        return _own(row)


def replace_sheet_template(
    work: Workspace, template_id: int, body: SheetTemplateBody, version: int | None, member: Member
) -> SheetTemplateOut:
    """Change a template; sheets that were begun from it stay as they are. Raises :class:`Conflict` when somebody else changed it since ``version``."""
    sections = _sections(body)
    with work.session() as session:
        row = _fetch(session, template_id)
        if version is not None and version != row.version:
            raise Conflict("Somebody changed this template in the meantime.", "Look at what they changed, then save again.")
        with unless_taken(session, f"There is already a template called {body.name}.", "Give another name."):
            row.name, row.note, row.sections, row.version = body.name, body.note, stored(sections), row.version + 1
            session.flush()
        log(session, work.now(), member.id, "sheet template changed", row.name)
        return _own(row)


def remove_sheet_template(work: Workspace, template_id: int, member: Member) -> None:
    """Remove a template; sheets that were begun from it stay."""
    with work.session() as session:
        row = _fetch(session, template_id)
        log(session, work.now(), member.id, "sheet template removed", row.name)
        session.delete(row)


def find_template(session: Session, key: str) -> tuple[str, Sequence[Section]]:
    """The name and the sections of a template. Raises :class:`NotFound`."""
    if key in SHIPPED:
        return SHIPPED[key].name, SHIPPED[key].sections
    row = session.get(SheetTemplate, int(key)) if key.isascii() and key.isdecimal() else None
    if row is None:
        raise NotFound(f"There is no template “{key[:40]}”.", "List them with `hodcarrier sheet templates`.")
    return row.name, read_sections(row.sections)


def get_sheet_template(work: Workspace, key: str) -> tuple[str, Sequence[Section]]:
    """As :func:`find_template`."""
    with work.reading() as session:
        return find_template(session, key)


def stored(sections: Sequence[Section]) -> list[dict[str, Any]]:
    """Sections as a record keeps them."""
    return [
        {"title": section.title, "items": [{**vars(item), "asks": item.asks.value} for item in section.items]}
        for section in sections
    ]


def read_sections(kept: Sequence[dict[str, Any]]) -> list[Section]:
    """Sections out of a record."""
    return [
        Section(each["title"], [Item(**{**item, "asks": SheetAsks(item["asks"])}) for item in each["items"]]) for each in kept
    ]


def _sections(body: SheetTemplateBody) -> list[Section]:
    """What a body describes, all items with keys. Raises :class:`InvalidInput` for what knows no answers."""
    if body.table and body.sections:
        raise InvalidInput("There are both sections and a table.", "Give one of them.", "table")
    given = (
        read_template(body.table)
        if body.table
        else [Section(section.title, [Item(**item.model_dump()) for item in section.items]) for section in body.sections]
    )
    known = catalogue.load()
    for item in items_of(given):
        kind, _, name = item.known_by.partition(".")
        if item.known_by and not (known.current(name) in known if kind == CHECK else followed(name)):
            raise InvalidInput(
                f"Nothing called “{item.known_by[:80]}” knows an answer.",
                "Name a check (check.title-missing) or a figure (figure.search.clicks, figure.site.NAME).",
                "table" if body.table else "sections",
            )
    return with_keys(given)


def _fetch(session: Session, template_id: int) -> SheetTemplate:
    row = session.get(SheetTemplate, template_id)
    if row is None:
        raise NotFound(
            f"The agency has no template {template_id}.",
            "List them with `hodcarrier sheet templates`; those that ship stay as they are.",
        )
    return row


def _own(row: SheetTemplate) -> SheetTemplateOut:
    return _out(str(row.id), row.name, row.note, read_sections(row.sections), ships=False, version=row.version)


def _out(key: str, name: str, note: str, sections: Sequence[Section], *, ships: bool, version: int = 1) -> SheetTemplateOut:
    return SheetTemplateOut(
        id=key,
        name=name,
        note=note,
        ships=ships,
        sections=[SheetSection(title=s.title, items=[SheetItem(**vars(item)) for item in s.items]) for s in sections],
        items=len(items_of(sections)),
        version=version,
    )
