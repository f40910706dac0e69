"""What all wire models have in common."""

from __future__ import annotations

from typing import Annotated, Generic, TypeVar

from pydantic import BaseModel, ConfigDict, StringConstraints

Item = TypeVar("Item")
# What people type as a name, a title or a reason: blanks around it are no part of it, and blanks alone are none.
Words = Annotated[str, StringConstraints(strip_whitespace=True)]
# A word by which things are found again.
Label = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40)]


class Wire(BaseModel):
    """Base of all models: unknown fields in requests are refused, with a message that names them."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)


class Problem(Wire):
    """An error as problem details (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    hint: str = ""
    field: str = ""


class Listed(Wire, Generic[Item]):
    """A part of a list. ``after`` goes into the next request; ``None`` means that this was the last part."""

    items: list[Item]
    total: int
    after: str | None = None
