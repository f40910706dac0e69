"""Operations on review sheets."""

from hodcarrier.core.states import TableForm
from hodcarrier.wire.operations.operation import Operation, Parameter
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

TEMPLATES, SHEET = "/sheet-templates", "/sheets/{sheet_id}"
FORM = (Parameter("form", TableForm, TableForm.CSV),)
OPERATIONS = (
    Operation(
        "list_sheet_templates", "GET", TEMPLATES, "Templates of review sheets, those that ship first.", list[SheetTemplateOut]
    ),
    Operation(
        "add_sheet_template",
        "POST",
        TEMPLATES,
        "Add a template, from sections or from a table.",
        SheetTemplateOut,
        SheetTemplateBody,
        status=201,
    ),
    Operation(
        "replace_sheet_template",
        "PUT",
        TEMPLATES + "/{template_id}",
        "Change a template of the agency; sheets that were begun from it stay as they are.",
        SheetTemplateOut,
        SheetTemplateBody,
        versioned=True,
    ),
    Operation("remove_sheet_template", "DELETE", TEMPLATES + "/{template_id}", "Remove a template of the agency."),
    Operation(
        "export_sheet_template",
        "GET",
        TEMPLATES + "/{template_key}/export",
        "The items of a template as a table, which can be changed and added as another one.",
        bytes,
        query=FORM,
    ),
    Operation("list_sheets", "GET", "/sites/{site_id}/sheets", "Review sheets of a site, the latest first.", list[SheetBrief]),
    Operation(
        "start_sheet",
        "POST",
        "/sites/{site_id}/sheets",
        "Begin a sheet; what the latest audit and figures know is filled in, and says so.",
        SheetOut,
        SheetStart,
        status=201,
    ),
    Operation("get_sheet", "GET", SHEET, "A sheet with its items, against the last filling.", SheetOut),
    Operation("answer_sheet", "PATCH", SHEET, "Write down what came of items, all or none.", SheetOut, SheetAnswers),
    Operation(
        "prefill_sheet",
        "POST",
        SHEET + "/prefill",
        "Fill in what the latest audit and figures know, where nobody has looked yet.",
        SheetOut,
    ),
    Operation("remove_sheet", "DELETE", SHEET, "Remove a sheet; to-dos that were made of it stay."),
    Operation(
        "add_sheet_todos", "POST", SHEET + "/todos", "Make a to-do of each of some items.", list[TodoOut], SheetTodos, status=201
    ),
    Operation(
        "add_sheet_file",
        "POST",
        SHEET + "/files",
        "Keep a file that shows what was found.",
        SheetFileOut,
        SheetFileBody,
        status=201,
    ),
    Operation("get_sheet_file", "GET", SHEET + "/files/{file_id}", "A file of a sheet itself.", bytes),
    Operation("remove_sheet_file", "DELETE", SHEET + "/files/{file_id}", "Take a file of a sheet away."),
    Operation(
        "export_sheet",
        "GET",
        SHEET + "/export",
        "A sheet as a table; one in CSV can be filled in elsewhere and sent back.",
        bytes,
        query=FORM,
    ),
)
