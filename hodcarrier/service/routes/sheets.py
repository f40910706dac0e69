"""Review sheets."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from fastapi import APIRouter
from fastapi.responses import Response

from hodcarrier.core.review.tables import SHEET_FIELDS, TEMPLATE_FIELDS, template_rows
from hodcarrier.core.states import TableForm
from hodcarrier.service.attached import attached
from hodcarrier.service.deps import Version, Work, version_of
from hodcarrier.service.guard import Asker, serves
from hodcarrier.service.routes.exports import table_answer
from hodcarrier.usecases import sheet_templates, sheets
from hodcarrier.wire.sheets import (
    SheetAnswers,
    SheetBrief,
    SheetFileBody,
    SheetFileOut,
    SheetOut,
    SheetStart,
    SheetTemplateBody,
    SheetTemplateOut,
    SheetTodos,
)
from hodcarrier.wire.todos import TodoOut

router = APIRouter()


@serves(router, "list_sheet_templates")
def list_sheet_templates(work: Work) -> list[SheetTemplateOut]:
    return sheet_templates.list_sheet_templates(work)


@serves(router, "add_sheet_template")
def add_sheet_template(body: SheetTemplateBody, work: Work, member: Asker) -> SheetTemplateOut:
    return sheet_templates.add_sheet_template(work, body, member)


@serves(router, "replace_sheet_template")
def replace_sheet_template(
    template_id: int, body: SheetTemplateBody, work: Work, member: Asker, version: Version = None
) -> SheetTemplateOut:
    return sheet_templates.replace_sheet_template(work, template_id, body, version_of(version), member)


@serves(router, "remove_sheet_template")
def remove_sheet_template(template_id: int, work: Work, member: Asker) -> None:
    sheet_templates.remove_sheet_template(work, template_id, member)


@serves(router, "export_sheet_template")
def export_sheet_template(template_key: str, work: Work, form: TableForm = TableForm.CSV) -> Response:
    _, sections = sheet_templates.get_sheet_template(work, template_key)
    return _table(template_rows(sections), TEMPLATE_FIELDS, form, f"sheet-template-{template_key}")


@serves(router, "list_sheets")
def list_sheets(site_id: int, work: Work) -> list[SheetBrief]:
    return sheets.list_sheets(work, site_id)


@serves(router, "start_sheet")
def start_sheet(site_id: int, body: SheetStart, work: Work, member: Asker) -> SheetOut:
    return sheets.start_sheet(work, site_id, body, member)


@serves(router, "get_sheet")
def get_sheet(sheet_id: int, work: Work) -> SheetOut:
    return sheets.get_sheet(work, sheet_id)


@serves(router, "answer_sheet")
def answer_sheet(sheet_id: int, body: SheetAnswers, work: Work, member: Asker) -> SheetOut:
    return sheets.answer_sheet(work, sheet_id, body, member)


@serves(router, "prefill_sheet")
def prefill_sheet(sheet_id: int, work: Work) -> SheetOut:
    return sheets.prefill_sheet(work, sheet_id)


@serves(router, "remove_sheet")
def remove_sheet(sheet_id: int, work: Work, member: Asker) -> None:
    sheets.remove_sheet(work, sheet_id, member)


@serves(router, "add_sheet_todos")
def add_sheet_todos(sheet_id: int, body: SheetTodos, work: Work, member: Asker) -> list[TodoOut]:
    return sheets.add_sheet_todos(work, sheet_id, body, member)


@serves(router, "add_sheet_file")
def add_sheet_file(sheet_id: int, body: SheetFileBody, work: Work, member: Asker) -> SheetFileOut:
    return sheets.add_sheet_file(work, sheet_id, body, member)


@serves(router, "get_sheet_file")
def get_sheet_file(sheet_id: int, file_id: int, work: Work) -> Response:
    found, content = sheets.read_sheet_file(work, sheet_id, file_id)
    return attached(found.name, found.media, content)


@serves(router, "remove_sheet_file")
def remove_sheet_file(sheet_id: int, file_id: int, work: Work) -> None:
    sheets.remove_sheet_file(work, sheet_id, file_id)


@serves(router, "export_sheet")
def export_sheet(sheet_id: int, work: Work, form: TableForm = TableForm.CSV) -> Response:
    return _table(sheets.sheet_table(work, sheet_id), SHEET_FIELDS, form, f"sheet-{sheet_id}")


def _table(rows: Iterable[dict[str, Any]], fields: Sequence[str], form: TableForm, name: str) -> Response:
    heads = {field: field.replace("_", " ") for field in fields}
    return table_answer((heads, tuple(fields), iter(rows)), form, name)
