"""What an operation of the HTTP interface is. Routes, clients, the OpenAPI document and the tests are derived from these."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal, get_origin

from hodcarrier.core.permissions import PERMISSIONS, Permission
from hodcarrier.core.states import Appearance, ExportForm
from hodcarrier.wire.base import Listed

Method = Literal["GET", "POST", "PUT", "PATCH", "DELETE"]
NEEDED: Any = ...


@dataclass(frozen=True)
class Parameter:
    """A query parameter: its name, type and default (:data:`NEEDED`: it must be given). ``wire`` is its name in the URL."""

    name: str
    kind: Any
    default: Any = NEEDED
    wire: str = ""

    @property
    def wire_name(self) -> str:
        """The name in the URL."""
        return self.wire or self.name


@dataclass(frozen=True)
class Operation:
    """One operation. ``name`` is that of the route, of the clients' methods and of its permission.

    ``path`` has its parameters in braces; ``result`` is a type (``None``: no content, ``bytes``: a document); ``filters`` says that
    any field may be given as a filter; ``throttled`` that it is refused for a while when it failed too often; ``versioned`` that ``If-Match`` is understood, ``console_only`` that the command line has no
    use for it; ``events`` is what each of the server-sent events holds that the document consists of.
    """

    name: str
    method: Method
    path: str
    summary: str
    result: Any = None
    body: Any = None
    query: tuple[Parameter, ...] = ()
    status: int = 200
    filters: bool = False
    versioned: bool = False
    throttled: bool = False
    console_only: bool = False
    events: Any = None
    noun: str = ""

    @property
    def permission(self) -> Permission:
        """Who may do it."""
        return PERMISSIONS[self.name]

    @property
    def paged(self) -> bool:
        """Whether it gives a part of a list at a time."""
        return isinstance(self.result, type) and issubclass(self.result, Listed)

    @property
    def success(self) -> int:
        """The status of an answer that is in order."""
        return 204 if self.result is None else self.status

    @property
    def path_parameters(self) -> list[tuple[str, type]]:
        """The parameters of the path, with their types."""
        names = [part[1:-1] for part in self.path.split("/") if part.startswith("{")]
        return [(name, _KINDS.get(name, str)) for name in names]

    @property
    def is_list(self) -> bool:
        """Whether the result is a whole list."""
        return get_origin(self.result) is list


_NUMBERS = (
    "alert_id",
    "delivery_id",
    "member_id",
    "token_id",
    "feed_id",
    "webhook_id",
    "message",
    "link_id",
    "client_id",
    "site_id",
    "profile_id",
    "remark_id",
    "preset_id",
    "view_id",
    "recurring_id",
    "file_id",
    "waiver_id",
    "todo_id",
    "benchmark_id",
    "report_id",
    "sheet_id",
    "template_id",
    "schedule_id",
    "number",
)
_KINDS: dict[str, type] = {**dict.fromkeys(_NUMBERS, int), "form": ExportForm, "appearance": Appearance}
