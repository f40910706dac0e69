"""What all tables share: the kinds of columns, and the base class."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from enum import StrEnum
from functools import lru_cache
from typing import Any

from sqlalchemy import (
    JSON,
    DateTime,
    Dialect,
    Enum,
    Text,
    TypeDecorator,
)
from sqlalchemy.orm import DeclarativeBase

from hodcarrier.core import plan, profile, summary
from hodcarrier.core.permissions import Role
from hodcarrier.core.plan import Plan
from hodcarrier.core.profile import Rules
from hodcarrier.core.states import (
    Approval,
    DateOrder,
    DeliveryState,
    FigureKind,
    FileStage,
    FileState,
    MailKind,
    Noun,
    PlaceOutcome,
    Priority,
    RemarkOrigin,
    ReportSpan,
    ReportState,
    RunPurpose,
    RunState,
    Severity,
    SheetOutcome,
    SiteKind,
    TodoEventKind,
    TodoState,
    TokenScope,
    Topic,
    Typeface,
    ViewPlace,
)
from hodcarrier.core.stored import Format
from hodcarrier.core.summary import RoundResult, RunChanges, RunSummary, SiteFigures


class UtcTime(TypeDecorator[datetime]):
    """Aware UTC moments; SQLite keeps no zone, so it is put back when a row is read."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:  # noqa: ARG002
        """To naive UTC."""
        return value.astimezone(UTC).replace(tzinfo=None) if value is not None else None

    def process_result_value(self, value: datetime | None, dialect: Dialect) -> datetime | None:  # noqa: ARG002
        """To aware UTC."""
        return value.replace(tzinfo=UTC) if value is not None else None


class Stored(TypeDecorator[Any]):
    """A typed value with its version (:mod:`hodcarrier.core.stored`), as JSON. Values are not changed in place, so one that was read lately
    is given again."""

    impl = Text
    cache_ok = True

    def __init__(self, form: Format[Any] | None = None) -> None:
        super().__init__()
        self.form = form

    @property
    def _format(self) -> Format[Any]:
        if self.form is None:
            raise TypeError("a stored value needs its format")
        return self.form

    def process_bind_param(self, value: Any, dialect: Dialect) -> Any:  # noqa: ARG002
        """To JSON."""
        return None if value is None else json.dumps(self._format.dump(value))

    def process_result_value(self, value: Any, dialect: Dialect) -> Any:  # noqa: ARG002
        """To the value. Raises :class:`~hodcarrier.core.errors.DamagedRecord`."""
        return None if value is None else _read(self._format, value)


@lru_cache(maxsize=1024)
def _read(form: Format[Any], text: str) -> Any:
    return form.load(json.loads(text))


def _word(kind: type[StrEnum]) -> Enum:
    """A column for one of a closed set of words, kept as the word."""
    return Enum(kind, native_enum=False, length=20, values_callable=lambda members: [m.value for m in members])


_WORDS = (
    Role,
    RunState,
    RunPurpose,
    SiteKind,
    Severity,
    TodoState,
    TodoEventKind,
    PlaceOutcome,
    Priority,
    DateOrder,
    DeliveryState,
    TokenScope,
    FileState,
    MailKind,
    Topic,
    Approval,
    RemarkOrigin,
    Noun,
    ViewPlace,
    FigureKind,
    FileStage,
    SheetOutcome,
    ReportState,
    ReportSpan,
    Typeface,
)
_COLUMNS: dict[Any, Any] = {
    datetime: UtcTime,
    dict[str, Any]: JSON,
    dict[str, int]: JSON,
    dict[str, str]: JSON,
    list[str]: JSON,
    list[dict[str, Any]]: JSON,
    list[int]: JSON,
    list[float | None]: JSON,
    **{kind: _word(kind) for kind in _WORDS},
    Plan: Stored(plan.STORED),
    Rules: Stored(profile.RULES),
    RunSummary: Stored(summary.SUMMARY),
    RunChanges: Stored(summary.CHANGES),
    RoundResult: Stored(summary.ROUND),
    SiteFigures: Stored(summary.FIGURES),
}


class Base(DeclarativeBase):
    """All tables."""

    type_annotation_map = _COLUMNS
