"""Calls about sheets, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import TableForm
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


class Sheets(SyncCalls):
    """Calls about sheets."""

    def list_sheet_templates(self) -> list[SheetTemplateOut]:
        """Templates of review sheets, those that ship first."""
        found: list[SheetTemplateOut] = self._call("list_sheet_templates", {})
        return found

    def add_sheet_template(self, body: SheetTemplateBody) -> SheetTemplateOut:
        """Add a template, from sections or from a table."""
        found: SheetTemplateOut = self._call("add_sheet_template", {}, body=body)
        return found

    def replace_sheet_template(self, template_id: int, body: SheetTemplateBody, version: int | None = None) -> SheetTemplateOut:
        """Change a template of the agency; sheets that were begun from it stay as they are."""
        found: SheetTemplateOut = self._call("replace_sheet_template", {"template_id": template_id}, version=version, body=body)
        return found

    def remove_sheet_template(self, template_id: int) -> None:
        """Remove a template of the agency."""
        self._call("remove_sheet_template", {"template_id": template_id})

    def export_sheet_template(self, template_key: str, form: TableForm = TableForm.CSV) -> bytes:
        """The items of a template as a table, which can be changed and added as another one."""
        found: bytes = self._call("export_sheet_template", {"template_key": template_key}, query={"form": form})
        return found

    def list_sheets(self, site_id: int) -> list[SheetBrief]:
        """Review sheets of a site, the latest first."""
        found: list[SheetBrief] = self._call("list_sheets", {"site_id": site_id})
        return found

    def start_sheet(self, site_id: int, body: SheetStart) -> SheetOut:
        """Begin a sheet; what the latest audit and figures know is filled in, and says so."""
        found: SheetOut = self._call("start_sheet", {"site_id": site_id}, body=body)
        return found

    def get_sheet(self, sheet_id: int) -> SheetOut:
        """A sheet with its items, against the last filling."""
        found: SheetOut = self._call("get_sheet", {"sheet_id": sheet_id})
        return found

    def answer_sheet(self, sheet_id: int, body: SheetAnswers) -> SheetOut:
        """Write down what came of items, all or none."""
        found: SheetOut = self._call("answer_sheet", {"sheet_id": sheet_id}, body=body)
        return found

    def prefill_sheet(self, sheet_id: int) -> SheetOut:
        """Fill in what the latest audit and figures know, where nobody has looked yet."""
        found: SheetOut = self._call("prefill_sheet", {"sheet_id": sheet_id})
        return found

    def remove_sheet(self, sheet_id: int) -> None:
        """Remove a sheet; to-dos that were made of it stay."""
        self._call("remove_sheet", {"sheet_id": sheet_id})

    def add_sheet_todos(self, sheet_id: int, body: SheetTodos) -> list[TodoOut]:
        """Make a to-do of each of some items."""
        found: list[TodoOut] = self._call("add_sheet_todos", {"sheet_id": sheet_id}, body=body)
        return found

    def add_sheet_file(self, sheet_id: int, body: SheetFileBody) -> SheetFileOut:
        """Keep a file that shows what was found."""
        found: SheetFileOut = self._call("add_sheet_file", {"sheet_id": sheet_id}, body=body)
        return found

    def get_sheet_file(self, sheet_id: int, file_id: int) -> bytes:
        """A file of a sheet itself."""
        found: bytes = self._call("get_sheet_file", {"sheet_id": sheet_id, "file_id": file_id})
        return found

    def remove_sheet_file(self, sheet_id: int, file_id: int) -> None:
        """Take a file of a sheet away."""
        self._call("remove_sheet_file", {"sheet_id": sheet_id, "file_id": file_id})

    def export_sheet(self, sheet_id: int, form: TableForm = TableForm.CSV) -> bytes:
        """A sheet as a table; one in CSV can be filled in elsewhere and sent back."""
        found: bytes = self._call("export_sheet", {"sheet_id": sheet_id}, query={"form": form})
        return found


class AsyncSheets(AsyncCalls):
    """Calls about sheets."""

    async def list_sheet_templates(self) -> list[SheetTemplateOut]:
        """Templates of review sheets, those that ship first."""
        found: list[SheetTemplateOut] = await self._call("list_sheet_templates", {})
        return found

    async def add_sheet_template(self, body: SheetTemplateBody) -> SheetTemplateOut:
        """Add a template, from sections or from a table."""
        found: SheetTemplateOut = await self._call("add_sheet_template", {}, body=body)
        return found

    async def replace_sheet_template(
        self, template_id: int, body: SheetTemplateBody, version: int | None = None
    ) -> SheetTemplateOut:
        """Change a template of the agency; sheets that were begun from it stay as they are."""
        found: SheetTemplateOut = await self._call(
            "replace_sheet_template", {"template_id": template_id}, version=version, body=body
        )
        return found

    async def remove_sheet_template(self, template_id: int) -> None:
        """Remove a template of the agency."""
        await self._call("remove_sheet_template", {"template_id": template_id})

    async def export_sheet_template(self, template_key: str, form: TableForm = TableForm.CSV) -> bytes:
        """The items of a template as a table, which can be changed and added as another one."""
        found: bytes = await self._call("export_sheet_template", {"template_key": template_key}, query={"form": form})
        return found

    async def list_sheets(self, site_id: int) -> list[SheetBrief]:
        """Review sheets of a site, the latest first."""
        found: list[SheetBrief] = await self._call("list_sheets", {"site_id": site_id})
        return found

    async def start_sheet(self, site_id: int, body: SheetStart) -> SheetOut:
        """Begin a sheet; what the latest audit and figures know is filled in, and says so."""
        found: SheetOut = await self._call("start_sheet", {"site_id": site_id}, body=body)
        return found

    async def get_sheet(self, sheet_id: int) -> SheetOut:
        """A sheet with its items, against the last filling."""
        found: SheetOut = await self._call("get_sheet", {"sheet_id": sheet_id})
        return found

    async def answer_sheet(self, sheet_id: int, body: SheetAnswers) -> SheetOut:
        """Write down what came of items, all or none."""
        found: SheetOut = await self._call("answer_sheet", {"sheet_id": sheet_id}, body=body)
        return found

    async def prefill_sheet(self, sheet_id: int) -> SheetOut:
        """Fill in what the latest audit and figures know, where nobody has looked yet."""
        found: SheetOut = await self._call("prefill_sheet", {"sheet_id": sheet_id})
        return found

    async def remove_sheet(self, sheet_id: int) -> None:
        """Remove a sheet; to-dos that were made of it stay."""
        await self._call("remove_sheet", {"sheet_id": sheet_id})

    async def add_sheet_todos(self, sheet_id: int, body: SheetTodos) -> list[TodoOut]:
        """Make a to-do of each of some items."""
        found: list[TodoOut] = await self._call("add_sheet_todos", {"sheet_id": sheet_id}, body=body)
        return found

    async def add_sheet_file(self, sheet_id: int, body: SheetFileBody) -> SheetFileOut:
        """Keep a file that shows what was found."""
        found: SheetFileOut = await self._call("add_sheet_file", {"sheet_id": sheet_id}, body=body)
        return found

    async def get_sheet_file(self, sheet_id: int, file_id: int) -> bytes:
        """A file of a sheet itself."""
        found: bytes = await self._call("get_sheet_file", {"sheet_id": sheet_id, "file_id": file_id})
        return found

    async def remove_sheet_file(self, sheet_id: int, file_id: int) -> None:
        """Take a file of a sheet away."""
        await self._call("remove_sheet_file", {"sheet_id": sheet_id, "file_id": file_id})

    async def export_sheet(self, sheet_id: int, form: TableForm = TableForm.CSV) -> bytes:
        """A sheet as a table; one in CSV can be filled in elsewhere and sent back."""
        found: bytes = await self._call("export_sheet", {"sheet_id": sheet_id}, query={"form": form})
        return found
